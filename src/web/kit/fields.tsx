import clsx from 'clsx';
import { useId } from 'react';
import type { ComponentProps, ReactNode } from 'react';

interface FieldFrame {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string | undefined;
}

const BOX =
  'w-full rounded-sm border-[1.5px] bg-sheet px-2 min-h-11 md:min-h-9 aria-invalid:border-red border-rule text-ink';

/** A label, what it labels, what helps, and what is wrong: always in this order, always tied together for a screen reader. */
function Frame({
  label,
  hint,
  error,
  children,
}: FieldFrame & { children: (ids: { id: string; described: string; invalid: boolean }) => ReactNode }) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-sm font-bold">
        {label}
      </label>
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

export function TextField({ label, hint, error, className, ...rest }: FieldFrame & ComponentProps<'input'>) {
  return (
    <Frame label={label} hint={hint} error={error}>
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
    </Frame>
  );
}

export function TextArea({
  label,
  hint,
  error,
  className,
  ...rest
}: FieldFrame & ComponentProps<'textarea'>) {
  return (
    <Frame label={label} hint={hint} error={error}>
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
    </Frame>
  );
}

export function SelectField({
  label,
  hint,
  error,
  className,
  children,
  ...rest
}: FieldFrame & ComponentProps<'select'>) {
  return (
    <Frame label={label} hint={hint} error={error}>
      {({ id, described, invalid }) => (
        <select
          id={id}
          aria-describedby={described}
          aria-invalid={invalid}
          {...rest}
          className={clsx(BOX, className)}
        >
          {children}
        </select>
      )}
    </Frame>
  );
}

export function CheckField({ label, hint, ...rest }: FieldFrame & ComponentProps<'input'>) {
  const id = useId();
  return (
    <div>
      <span className="flex min-h-11 items-center gap-2 md:min-h-8">
        <input id={id} type="checkbox" {...rest} className="size-5 accent-(--accent)" />
        <label htmlFor={id} className="font-bold">
          {label}
        </label>
      </span>
      {hint && <p className="text-sm text-faint">{hint}</p>}
    </div>
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
  const name = useId();
  return (
    <fieldset>
      <legend className="mb-0.5 text-sm font-bold">{label}</legend>
      <div className="flex">
        {options.map((option) => (
          <label
            key={option.value}
            className="flex min-h-11 cursor-pointer items-center border-[1.5px] border-rule bg-sheet px-3 not-first:-ml-[1.5px] first:rounded-l-sm last:rounded-r-sm has-checked:border-accent has-checked:bg-accent has-checked:font-bold has-checked:text-on-accent has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-accent md:min-h-9"
          >
            <input
              type="radio"
              className="sr-only"
              name={name}
              checked={value === option.value}
              onChange={() => onChange(option.value)}
            />
            {option.label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
