import { restedReadings } from '../assess';
import { isLithium } from '../chemistry';
import { measure, meanResistance, median } from '../health';
import { DAY_MS } from '../measure';
import type { Instant, PackId } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';

/** One thing that was wrong with a pack when it came. */
export type Complaint =
  | { readonly about: 'level'; readonly mv: number; readonly lowMv: number; readonly highMv: number }
  | { readonly about: 'spread'; readonly mv: number; readonly limitMv: number }
  | { readonly about: 'resistance'; readonly factor: number; readonly limit: number }
  | { readonly about: 'capacity'; readonly percent: number; readonly limitPercent: number }
  | { readonly about: 'look'; readonly failed: readonly string[]; readonly notes: readonly string[] };

/** What a pack was like when it came, from records of its first weeks alone. */
export interface Arrival {
  readonly packId: PackId;
  readonly receivedAt: Instant | null;
  /** The first rested reading, if nothing was charged or flown before it; null where there is none. */
  readonly read: { readonly at: Instant; readonly cellsMv: readonly number[] } | null;
  /** The mean of its cells at 25 °C, by its first readings. */
  readonly milliohm: number | null;
  /** Its first measured capacity, percent of the label, with its error. */
  readonly capacity: { readonly at: Instant; readonly percent: number; readonly error: number } | null;
  /** Whether anybody looked it over on receipt. */
  readonly lookedAt: Instant | null;
  readonly complaints: readonly Complaint[];
}

/** Beyond this a measurement is no longer of how it came. */
const FIRST_DAYS = 60;
/** A new pack that holds less than this of its label, its measurement's error taken off, is no new pack. */
const LEAST_CAPACITY_PERCENT = 95;

/**
 * What packs that came together were like, and what can be held against whoever sold them. A pack of which nothing was measured in its first
 * weeks has no complaint and no praise.
 */
export function arrivals(histories: readonly PackHistory[], rules: HouseRules): readonly Arrival[] {
  const seen = histories.map((history) => seenOf(history, rules));
  const milliohms = seen.flatMap(({ milliohm }) => milliohm ?? []);
  const limit = rules.health.irSiblings.watch;
  // Of fewer than three nobody can say which is the odd one.
  const usual = milliohms.length >= 3 ? median(milliohms) : null;
  return seen.map(({ complaints, ...arrival }) => {
    const factor = usual !== null && arrival.milliohm !== null ? arrival.milliohm / usual : null;
    return {
      ...arrival,
      complaints: [
        ...complaints,
        ...(factor !== null && factor > limit ? [{ about: 'resistance' as const, factor, limit }] : []),
      ],
    };
  });
}

function seenOf(history: PackHistory, rules: HouseRules): Arrival {
  const { pack, receivedAt, inspections, resistances, charges, flights } = history;
  const from = receivedAt ?? -Infinity;
  const until = from + FIRST_DAYS * DAY_MS;
  const { rested } = restedReadings(history, rules);
  const first = rested.find(({ at }) => at >= from && at <= until);
  const isUntouched = first && ![...charges, ...flights].some(({ startedAt }) => startedAt < first.at);
  const read = isUntouched ? { at: first.at, cellsMv: first.cellsMv } : null;
  const early = { ...history, resistances: resistances.filter(({ at }) => at <= until) };
  const milliohms = meanResistance(early.resistances.slice(0, 3)).map(({ value }) => value);
  const capacity = measure(history, rested, rules, until).capacity.find(
    ({ at }) => at >= from && at <= until,
  );
  const look = inspections.find(({ occasion, at }) => occasion === 'receipt' && at <= until);
  const complaints: Complaint[] = [];
  if (read && isLithium(pack.chemistry)) {
    const { bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
    const [lowest, highest] = [Math.min(...read.cellsMv), Math.max(...read.cellsMv)];
    const odd =
      bandLowMv - lowest > rules.arrivalMv ? lowest : highest - bandHighMv > rules.arrivalMv ? highest : null;
    if (odd !== null) complaints.push({ about: 'level', mv: odd, lowMv: bandLowMv, highMv: bandHighMv });
    const limitMv = rules.spread.toleranceMv;
    if (highest - lowest > limitMv) complaints.push({ about: 'spread', mv: highest - lowest, limitMv });
  }
  if (capacity && capacity.value + 2 * capacity.error < LEAST_CAPACITY_PERCENT)
    complaints.push({ about: 'capacity', percent: capacity.value, limitPercent: LEAST_CAPACITY_PERCENT });
  const failed = look?.items.filter(({ answer }) => answer === 'fail').map(({ asks }) => asks) ?? [];
  const notes =
    look?.items.flatMap(({ answer, asks, note }) => (answer === 'note' ? [note ?? asks] : [])) ?? [];
  if (failed.length > 0 || notes.length > 0) complaints.push({ about: 'look', failed, notes });
  return {
    packId: pack.id,
    receivedAt,
    read,
    milliohm: milliohms.length > 0 ? median(milliohms) : null,
    capacity: capacity ? { at: capacity.at, percent: capacity.value, error: capacity.error } : null,
    lookedAt: look?.at ?? null,
    complaints,
  };
}
