import { DAY_MS, HOUR_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import { clockWords, whenWords } from '../../core/wording';
import type { Reader } from '../../core/wording';

/** The stretch of time the horizon shows, and where an instant lies on it. */
export interface HorizonAxis {
  readonly from: Instant;
  readonly to: Instant;
  /** Percent from the left, clamped to the axis. */
  readonly percent: (at: Instant) => number;
}

const BACK_HOURS = 12;
const AHEAD_HOURS = 72;

/** Half a day back to three days ahead: long enough for every usual allowance, short enough to see single hours. */
export function horizonAxis(now: Instant): HorizonAxis {
  const from = now - BACK_HOURS * HOUR_MS;
  const to = now + AHEAD_HOURS * HOUR_MS;
  return { from, to, percent: (at) => Math.min(100, Math.max(0, ((at - from) / (to - from)) * 100)) };
}

/** One part of a pack's bar: waiting already done, allowance still left, or time past due. */
export interface BarPart {
  readonly kind: 'used' | 'left' | 'overdue';
  readonly leftPercent: number;
  readonly widthPercent: number;
}

/**
 * The bar of a pack that left its band: used up to now, left until due, or overdue from due until now. Parts outside the
 * axis are cut; a part that is cut away wholly is not there.
 */
export function barParts(
  axis: HorizonAxis,
  since: Instant,
  dueAt: Instant,
  now: Instant,
): readonly BarPart[] {
  const part = (kind: BarPart['kind'], from: Instant, to: Instant): BarPart => ({
    kind,
    leftPercent: axis.percent(from),
    widthPercent: axis.percent(to) - axis.percent(from),
  });
  const parts =
    now < dueAt
      ? [part('used', since, now), part('left', now, dueAt)]
      : [part('used', since, dueAt), part('overdue', dueAt, now)];
  return parts.filter(({ widthPercent }) => widthPercent > 0);
}

/** Midnights on the axis in the reader's zone, with the name of the day each begins. */
export function midnights(
  axis: HorizonAxis,
  reader: Reader,
): readonly { readonly at: Instant; readonly day: string }[] {
  const found: { at: Instant; day: string }[] = [];
  // Every quarter hour, because zones and clock changes put midnight anywhere on it.
  for (let at = Math.ceil(axis.from / QUARTER_MS) * QUARTER_MS; at <= axis.to; at += QUARTER_MS) {
    if (clockWords(at, reader) === '00:00') found.push({ at, day: dayName(at, reader) });
  }
  return found;
}

const QUARTER_MS = HOUR_MS / 4;

function dayName(at: Instant, reader: Reader): string {
  const words = whenWords(at + DAY_MS / 2, reader).split(' ');
  return words.slice(0, -1).join(' ');
}
