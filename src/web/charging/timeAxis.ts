import type { AttendanceAnswer } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { Instant, PersonId } from '../../core/measure';

/** A span in which somebody is there, with whoever it is, in the order of their coming. */
export interface AttendedSpan {
  readonly from: Instant;
  readonly to: Instant;
  readonly people: readonly PersonId[];
}

/** Spans of attendance that touch or overlap as one, those that are over left out. */
export function attendedSpans(attended: readonly AttendanceAnswer[], now: Instant): AttendedSpan[] {
  const spans: { from: Instant; to: Instant; people: PersonId[] }[] = [];
  for (const { from, to, personId } of [...attended].sort((a, b) => a.from - b.from)) {
    if (to <= now) continue;
    const last = spans.at(-1);
    if (last && from <= last.to) {
      last.to = Math.max(last.to, to);
      if (!last.people.includes(personId)) last.people.push(personId);
    } else spans.push({ from, to, people: [personId] });
  }
  return spans;
}

/** How far into a span a moment lies, percent. */
export function percentOf({ from, to }: Pick<AttendedSpan, 'from' | 'to'>, at: Instant): number {
  return (100 * (at - from)) / (to - from);
}

/** The hours to be marked in a span: every one, or every second or third where it is long. */
export function hoursIn({ from, to }: Pick<AttendedSpan, 'from' | 'to'>): Instant[] {
  const step = HOUR_MS * Math.max(1, Math.ceil((to - from) / (6 * HOUR_MS)));
  const hours: Instant[] = [];
  for (let at = Math.ceil(from / HOUR_MS) * HOUR_MS; at <= to; at += step) hours.push(at);
  return hours;
}
