import clsx from 'clsx';
import { getNonce } from 'get-nonce';
import { ScrollArea } from 'radix-ui';
import type { ReactNode } from 'react';

/** What is longer than the room it has: it scrolls by itself, by the keyboard too, and shows that there is more. */
export function Scroll({
  label,
  className,
  children,
}: {
  label: string;
  className: string;
  children: ReactNode;
}) {
  return (
    <ScrollArea.Root type="auto" className="relative overflow-hidden">
      <ScrollArea.Viewport
        tabIndex={0}
        role="region"
        aria-label={label}
        nonce={getNonce()}
        className={clsx('pr-3', className)}
      >
        {children}
      </ScrollArea.Viewport>
      <ScrollArea.Scrollbar orientation="vertical" className="flex w-2 bg-press">
        <ScrollArea.Thumb className="relative flex-1 bg-rule" />
      </ScrollArea.Scrollbar>
      <ScrollArea.Scrollbar orientation="horizontal" className="flex h-2 flex-col bg-press">
        <ScrollArea.Thumb className="relative flex-1 bg-rule" />
      </ScrollArea.Scrollbar>
    </ScrollArea.Root>
  );
}
