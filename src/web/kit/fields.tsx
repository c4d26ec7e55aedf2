import clsx from 'clsx';
import { Check } from 'lucide-react';
import { Checkbox, Label, RadioGroup, Switch } from 'radix-ui';
import { useId } from 'react';
import type { ComponentProps, ReactNode } from 'react';

/** What stands around a field. */
export interface Framing {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string | undefined;
}

/** The look of everything that is typed into or opened. */
export const BOX =
  'w-full rounded-sm border-[1.5px] bg-sheet px-2 min-h-11 md:min-h-9 aria-invalid:border-red border-rule text-ink';

/** A label, what it labels, what helps, and what is wrong: always in this order, always tied together for a screen reader. */
export function FieldFrame({
  label,
  hint,
  error,
  children,
}: Framing & { children: (ids: { id: string; described: string; invalid: boolean }) => ReactNode }) {
  const id = useId();
  return (
    <div className="min-w-0">
      <Label.Root htmlFor={id} className="mb-0.5 block text-sm font-bold">
        {label}
      </Label.Root>
      {children({ id, described: `${id}-help`, invalid: error !== undefined })}
      <div id={`${id}-help`} className="text-sm">
        {error !== undefined && (
          <p role="alert" className="font-bold text-red">
            {error}
          </p>
        )}
        {hint && <p className="text-faint">{hint}</p>}
      </div>
    </div>
  );
}

export function TextField({ label, hint, error, className, ...rest }: Framing & ComponentProps<'input'>) {
  return (
    <FieldFrame label={label} hint={hint} error={error}>
      {({ id, described, invalid }) => (
        <input
          id={id}
          aria-describedby={described}
          aria-invalid={invalid}
          autoComplete="off"
          {...rest}
          className={clsx(BOX, className)}
        />
      )}
    </FieldFrame>
  );
}

export function TextArea({ label, hint, error, className, ...rest }: Framing & ComponentProps<'textarea'>) {
  return (
    <FieldFrame label={label} hint={hint} error={error}>
      {({ id, described, invalid }) => (
        <textarea
          id={id}
          rows={3}
          aria-describedby={described}
          aria-invalid={invalid}
          {...rest}
          className={clsx(BOX, 'py-1.5', className)}
        />
      )}
    </FieldFrame>
  );
}

/** A tick box with its words beside it. */
export function Tick({
  label,
  checked,
  onChange,
  onBlur,
  disabled = false,
  plain = false,
}: {
  label: ReactNode;
  checked: boolean;
  onChange: (checked: boolean) => void;
  onBlur?: () => void;
  disabled?: boolean;
  /** Whether it is one line of a list of many, whose words are not bold. */
  plain?: boolean;
}) {
  const id = useId();
  return (
    <span className="flex min-h-11 items-center gap-2 md:min-h-8">
      <Checkbox.Root
        id={id}
        checked={checked}
        disabled={disabled}
        onCheckedChange={(next) => onChange(next === true)}
        onBlur={onBlur}
        className="inline-flex size-5 shrink-0 items-center justify-center rounded-sm border-[1.5px] border-rule bg-sheet disabled:opacity-55 data-[state=checked]:border-accent data-[state=checked]:bg-accent data-[state=checked]:text-on-accent"
      >
        <Checkbox.Indicator>
          <Check size={16} strokeWidth={3} aria-hidden="true" />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <Label.Root htmlFor={id} className={plain ? '' : 'font-bold'}>
        {label}
      </Label.Root>
    </span>
  );
}

/** A list after one of its ticks was pressed. */
export function withOrWithout<Item>(items: readonly Item[], item: Item, ticked: boolean): Item[] {
  return ticked ? [...items, item] : items.filter((other) => other !== item);
}

/** A {@link Tick} with what helps below it. */
export function CheckField({
  hint,
  ...tick
}: { hint?: ReactNode } & Omit<ComponentProps<typeof Tick>, 'plain'>) {
  return (
    <div>
      <Tick {...tick} />
      {hint && <p className="text-sm text-faint">{hint}</p>}
    </div>
  );
}

/** What is on or off, with its words before it; it takes effect as it is pressed. */
export function SwitchField({
  label,
  checked,
  onChange,
  className,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
  className?: string;
}) {
  const id = useId();
  return (
    <span className={clsx('inline-flex min-h-11 items-center gap-2 md:min-h-8', className)}>
      <Label.Root htmlFor={id} className="font-bold">
        {label}
      </Label.Root>
      <Switch.Root
        id={id}
        checked={checked}
        onCheckedChange={onChange}
        className="h-6 w-11 shrink-0 rounded-sm border-[1.5px] border-rule bg-sheet p-0.5 text-left data-[state=checked]:border-accent data-[state=checked]:bg-accent"
      >
        <Switch.Thumb className="block h-full w-4 rounded-xs bg-rule data-[state=checked]:translate-x-5 data-[state=checked]:bg-on-accent motion-safe:transition-transform" />
      </Switch.Root>
    </span>
  );
}

/** A few exclusive answers side by side; one press or an arrow key chooses. */
export function Choice<Value extends string>({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: readonly { value: Value; label: string }[];
  value: Value;
  onChange: (value: Value) => void;
}) {
  const id = useId();
  return (
    <div>
      <Label.Root id={id} className="mb-0.5 block text-sm font-bold">
        {label}
      </Label.Root>
      <RadioGroup.Root
        aria-labelledby={id}
        orientation="horizontal"
        value={value}
        onValueChange={(next) => onChange(next as Value)}
        className="flex"
      >
        {options.map((option) => (
          <RadioGroup.Item
            key={option.value}
            value={option.value}
            className="min-h-11 border-[1.5px] border-rule bg-sheet px-3 not-first:-ml-[1.5px] first:rounded-l-sm last:rounded-r-sm focus-visible:z-10 data-[state=checked]:border-accent data-[state=checked]:bg-accent data-[state=checked]:font-bold data-[state=checked]:text-on-accent md:min-h-9"
          >
            {option.label}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </div>
  );
}
