import clsx from 'clsx';
import { getNonce } from 'get-nonce';
import { Check, ChevronDown } from 'lucide-react';
import { Select as Primitive } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';
import { BOX, FieldFrame } from './fields';
import type { Framing } from './fields';

type Trigger = Pick<
  ComponentProps<'button'>,
  'id' | 'autoFocus' | 'className' | 'aria-label' | 'aria-describedby' | 'aria-invalid' | 'onBlur'
>;

interface Chosen {
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly disabled?: boolean;
  /** {@link SelectOption}s. */
  readonly children: ReactNode;
}

/** One answer out of a list that opens below the field; a letter typed on the field goes to the next answer that begins so. */
export function Select({
  value,
  onChange,
  disabled = false,
  children,
  className,
  ...trigger
}: Chosen & Trigger) {
  return (
    <Primitive.Root
      value={inside(value)}
      onValueChange={(next) => onChange(next.slice(1))}
      disabled={disabled}
    >
      <Primitive.Trigger
        {...trigger}
        className={clsx(
          BOX,
          'flex items-center justify-between gap-2 text-left disabled:opacity-55',
          className,
        )}
      >
        <span className="truncate">
          <Primitive.Value />
        </span>
        <Primitive.Icon asChild>
          <ChevronDown size={16} strokeWidth={2.2} className="shrink-0 text-accent" aria-hidden="true" />
        </Primitive.Icon>
      </Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          position="popper"
          sideOffset={-1.5}
          collisionPadding={8}
          className="z-60 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden border-2 border-ink bg-sheet"
        >
          <Primitive.Viewport nonce={getNonce()}>{children}</Primitive.Viewport>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

/** One answer of a {@link Select}. An empty value stands for none. */
export function SelectOption({
  value,
  disabled = false,
  children,
}: {
  value: string;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <Primitive.Item
      value={inside(value)}
      disabled={disabled}
      className="flex min-h-11 cursor-pointer items-center gap-2 py-1 pr-4 pl-2 data-disabled:text-faint data-highlighted:bg-press data-[state=checked]:font-bold focus-visible:-outline-offset-3 md:min-h-8"
    >
      <span className="inline-flex w-4 shrink-0 text-accent">
        <Primitive.ItemIndicator>
          <Check size={16} strokeWidth={2.6} aria-hidden="true" />
        </Primitive.ItemIndicator>
      </span>
      <Primitive.ItemText>{children}</Primitive.ItemText>
    </Primitive.Item>
  );
}

/** The primitive takes no empty value for an answer, but "none" is one here. */
function inside(value: string): string {
  return `=${value}`;
}

/** A {@link Select} with its label, what helps and what is wrong. */
export function SelectField({ label, hint, error, ...rest }: Framing & Chosen & Trigger) {
  return (
    <FieldFrame label={label} hint={hint} error={error}>
      {({ id, described, invalid }) => (
        <Select id={id} aria-describedby={described} aria-invalid={invalid} {...rest} />
      )}
    </FieldFrame>
  );
}
