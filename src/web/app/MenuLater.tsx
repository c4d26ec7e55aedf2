import { cloneElement, Suspense, useState } from 'react';
import type { ReactElement, ReactNode } from 'react';
import { useSettled } from './settled';

/**
 * A menu's button alone, until the page has settled or somebody presses it: what makes it a menu is fetched after what the page is for.
 * Pressed before that, it opens as soon as it is here.
 * @param menu the whole menu around the same button
 */
export function MenuLater({
  button,
  menu,
}: {
  button: ReactElement<{ onClick?: () => void }>;
  menu: (isOpen: boolean) => ReactNode;
}) {
  const [isPressed, setPressed] = useState(false);
  const settled = useSettled();
  const alone = cloneElement(button, { onClick: () => setPressed(true) });
  if (!isPressed && !settled) return alone;
  return <Suspense fallback={alone}>{menu(isPressed)}</Suspense>;
}
