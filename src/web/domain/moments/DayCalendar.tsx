import { format, isValid, parseISO } from 'date-fns';
import { enGB } from 'date-fns/locale/en-GB';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { DayPicker } from 'react-day-picker';
import type { Instant } from '../../../core/measure';

const PRESSED = 'inline-flex size-11 items-center justify-center md:size-9';

/** A month of days to press, weeks from Monday. Fetched when it is opened first. */
export default function DayCalendar({
  chosen,
  now,
  onChoose,
}: {
  /** `2026-12-03`, or anything else for none. */
  chosen: string;
  now: Instant;
  onChoose: (day: string) => void;
}) {
  const day = parseISO(chosen);
  const selected = isValid(day) ? day : undefined;
  return (
    <DayPicker
      mode="single"
      autoFocus
      required
      locale={enGB}
      today={new Date(now)}
      selected={selected}
      defaultMonth={selected ?? new Date(now)}
      onSelect={(next) => onChoose(format(next, 'yyyy-MM-dd'))}
      components={{
        Chevron: ({ orientation }) =>
          orientation === 'left' ? (
            <ChevronLeft size={20} aria-hidden="true" />
          ) : (
            <ChevronRight size={20} aria-hidden="true" />
          ),
      }}
      classNames={{
        root: 'relative',
        nav: 'absolute inset-x-0 top-0 flex justify-between text-accent',
        button_previous: PRESSED,
        button_next: PRESSED,
        month_caption: 'flex min-h-11 items-center justify-center font-bold md:min-h-9',
        month_grid: 'border-separate border-spacing-0',
        weekday: 'h-7 text-sm font-normal text-faint',
        day: 'p-0 text-center',
        day_button: `${PRESSED} rounded-sm hover:bg-press`,
        today: 'font-bold underline underline-offset-4',
        selected: '[&>button]:bg-accent [&>button]:font-bold [&>button]:text-on-accent',
        outside: 'text-faint',
      }}
    />
  );
}
