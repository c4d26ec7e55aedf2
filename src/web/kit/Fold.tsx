import clsx from 'clsx';
import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';

/** One line that opens to what stands behind it. */
export function Fold({
  line,
  ask,
  children,
  className,
}: {
  line: ReactNode;
  /** What the line asks to be opened for, at its end; without it an arrow stands before the line. */
  ask?: string;
  children: ReactNode;
  className?: string;
}) {
  return (
    <Collapsible.Root className={className}>
      <Collapsible.Trigger
        data-printed={ask ? '' : undefined}
        className={clsx('group flex min-h-11 items-center gap-2 text-left md:min-h-6', ask && 'w-full')}
      >
        {!ask && (
          <ChevronRight
            size={16}
            strokeWidth={2.4}
            aria-hidden="true"
            className="shrink-0 text-accent group-data-[state=open]:rotate-90"
          />
        )}
        <span className="min-w-0 flex-1">{line}</span>
        {ask && (
          <span className="shrink-0 text-sm text-accent underline underline-offset-3 print:hidden">
            <span className="group-data-[state=open]:hidden">{ask}</span>
            <span className="hidden group-data-[state=open]:inline">less</span>
          </span>
        )}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
