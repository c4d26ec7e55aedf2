import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';

/** Says more of what it stands around, to a pointer that rests there and to the keyboard that comes by. */
export function Hint({ says, children }: { says: string; children: ReactNode }) {
  return (
    <Tooltip.Provider delayDuration={300}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>
          <span tabIndex={0} className="underline decoration-dotted underline-offset-3">
            {children}
          </span>
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={4}
            collisionPadding={8}
            className="z-60 max-w-80 border-2 border-ink bg-sheet px-2 py-1 text-sm"
          >
            {says}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
