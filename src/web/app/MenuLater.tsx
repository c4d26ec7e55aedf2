import { cloneElement, useCallback, useEffect, useId, useState } from 'react';
import type { ReactElement, ReactNode } from 'react';
import type { LazyPart } from '../kit/lazyPart';
import { say } from './notices';
import { onceSettled } from './settled';

interface ButtonProps {
  id?: string;
  onPointerDown?: () => void;
  onClick?: () => void;
  autoFocus?: boolean;
}

/**
 * A menu's button alone, until the page has settled or somebody presses it: what makes it a menu is fetched after what the page is for.
 * Pressed before that, it opens as soon as it is here; one that cannot be fetched leaves the button to be pressed again.
 * @param part the menu, which `menu` draws around the same button
 */
export function MenuLater<Props extends object>({
  button,
  part,
  menu,
}: {
  button: ReactElement<ButtonProps>;
  part: LazyPart<Props>;
  menu: (trigger: ReactElement, isOpen: boolean) => ReactNode;
}) {
  const [here, setHere] = useState<{ readonly hadFocus: boolean } | null>(null);
  // Whichever fetch ends first, that of the press or that of the page that has settled, the menu opens.
  const [isPressed, setPressed] = useState(false);
  const id = useId();
  const show = useCallback(() => {
    const hadFocus = document.activeElement?.id === id;
    setHere((before) => before ?? { hadFocus });
  }, [id]);
  useEffect(
    () =>
      onceSettled(() => {
        part.ahead().then(show, () => undefined);
      }),
    [part, show],
  );
  if (here) return menu(here.hadFocus ? cloneElement(button, { autoFocus: true }) : button, isPressed);
  const press = () => {
    setPressed(true);
    part.orAnew().then(show, () => {
      setPressed(false);
      say('This menu could not be fetched. Press again when there is a connection.');
    });
  };
  return cloneElement(button, { id, onPointerDown: press, onClick: press });
}
