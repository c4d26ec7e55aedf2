import clsx from 'clsx';
import { CalendarDays } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Suspense, useRef, useState } from 'react';
import { useController } from 'react-hook-form';
import type { Control, FieldPathByValue, FieldValues } from 'react-hook-form';
import { useReader } from '../../app/clock';
import { BOX, FieldFrame } from '../../kit/fields';
import type { Framing } from '../../kit/fields';
import { lazyPart } from '../../kit/lazyPart';
import { momentWords, typedMoment, weekdayWords } from './typedMoment';
import type { Lean, Wanted } from './typedMoment';

const DayCalendar = lazyPart(() => import('./DayCalendar'));

interface Moment {
  /** `2026-12-03` or `2026-12-03T18:00`; what cannot be understood stays as it was typed. */
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly onBlur?: () => void;
  readonly wanted: Wanted;
  readonly lean: Lean;
  readonly className?: string;
}

/** A day or a moment, typed as hands write it or taken from a calendar; what it was understood as stands below it. */
export function MomentField({
  label,
  hint,
  error,
  value,
  onChange,
  onBlur,
  wanted,
  lean,
  className,
}: Framing & Moment) {
  const reader = useReader();
  const field = useRef<HTMLInputElement>(null);
  // What the hand is typing; null once it has left the field.
  const [typing, setTyping] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const text = typing ?? momentWords(value);
  const understood = typedMoment(text, wanted, lean, reader);
  const refused = understood.outcome === 'refused' ? understood.why : undefined;
  const type = (next: string) => {
    const moment = typedMoment(next, wanted, lean, reader);
    setTyping(next);
    onChange(moment.outcome === 'moment' ? moment.value : next.trim());
  };
  const pick = (day: string) => {
    setOpen(false);
    const time = /T\d\d:\d\d$/.exec(value)?.[0];
    if (wanted === 'day' || time) {
      setTyping(null);
      onChange(day + (wanted === 'day' ? '' : time));
      return;
    }
    // The time is still to be typed.
    type(`${momentWords(day)} `);
  };
  return (
    <FieldFrame
      label={label}
      // The line stays when the hand leaves: what stands below must not move from under a press.
      hint={
        typing !== null && understood.outcome === 'moment'
          ? weekdayWords(understood.value)
          : (hint ?? '\u00a0')
      }
      error={refused && (typing === null || error) ? refused : error}
    >
      {({ id, described, invalid }) => (
        <span className="relative block">
          <input
            ref={field}
            id={id}
            aria-describedby={described}
            aria-invalid={invalid}
            autoComplete="off"
            spellCheck={false}
            placeholder={wanted === 'day' ? '3.12. or fri' : 'fri 18:00'}
            value={text}
            onChange={({ target }) => type(target.value)}
            onBlur={() => {
              setTyping(null);
              onBlur?.();
            }}
            className={clsx(BOX, 'pr-11 md:pr-9', className)}
          />
          <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger
              aria-label={`Calendar for ${label}`}
              className="absolute inset-y-0 right-0 flex w-11 items-center justify-center text-accent md:w-9"
            >
              <CalendarDays size={18} aria-hidden="true" />
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                align="end"
                sideOffset={2}
                collisionPadding={8}
                aria-label={`Calendar for ${label}`}
                onCloseAutoFocus={(event) => {
                  // Back to where the rest is typed.
                  event.preventDefault();
                  field.current?.focus();
                }}
                className="z-60 border-2 border-ink bg-sheet p-2"
              >
                <Suspense fallback={<p className="p-4 text-faint">Fetching the calendar …</p>}>
                  <DayCalendar chosen={value.slice(0, 10)} now={reader.now} onChoose={pick} />
                </Suspense>
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        </span>
      )}
    </FieldFrame>
  );
}

/** A {@link MomentField} that holds a field of a form; the form is not sent while the field cannot be understood. */
export function FormMoment<Values extends FieldValues>({
  control,
  name,
  ...rest
}: {
  readonly control: Control<Values>;
  readonly name: FieldPathByValue<Values, string>;
} & Omit<Framing & Moment, 'value' | 'onChange' | 'onBlur' | 'error'>) {
  const reader = useReader();
  const { field, fieldState } = useController({
    control,
    name,
    rules: {
      validate: (value: string) => {
        const typed = typedMoment(value, rest.wanted, rest.lean, reader);
        return typed.outcome !== 'refused' || typed.why;
      },
    },
  });
  return (
    <MomentField
      {...rest}
      value={field.value}
      onChange={field.onChange}
      onBlur={field.onBlur}
      error={fieldState.error?.message}
    />
  );
}
