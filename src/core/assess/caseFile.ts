import type { Instant, RecordId } from '../measure';
import { DECIDES, conditionHeld } from '../reading';
import type { PackHistory, ReadingEvent } from '../record';
import type { HouseRules } from '../rules';
import { measure } from '../health';
import type { Measured } from '../health';
import { storageState } from '../storage';
import type { Contents, StorageState } from '../storage';
import type { LowCell } from './finding';

/** A rested reading told per cell. A pack read by its total has one figure, its average, and no cell numbers. */
export interface RestedReading {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly byCell: boolean;
  readonly meterErrorMv: number;
  readonly records: readonly RecordId[];
}

/** What every rule looks at: the pack's records, the house's limits, the time, and what several rules would each derive. */
export interface CaseFile {
  readonly history: PackHistory;
  readonly rules: HouseRules;
  readonly now: Instant;
  /** All readings that may decide, oldest first. */
  readonly rested: readonly RestedReading[];
  readonly latest: RestedReading | null;
  /** The newest reading if it came after the latest rested one and cannot decide. */
  readonly undecided: (ReadingEvent & { readonly condition: 'settling' | 'loaded' }) | null;
  /** The latest reading, while nothing was charged, taken out or flown since: only then it tells how the pack is now. */
  readonly current: RestedReading | null;
  readonly measured: Measured;
  /** What the pack holds by now; null where nobody knows. */
  readonly contents: Contents | null;
  readonly storage: StorageState;
}

export function caseFile(history: PackHistory, rules: HouseRules, now: Instant): CaseFile {
  const { rested, undecided } = restedReadings(history, rules);
  const measured = measure(history, rested, rules, now);
  const latest = rested.at(-1) ?? null;
  return {
    history,
    rules,
    now,
    rested,
    latest,
    undecided,
    current: latest && disturbedSince(history, latest.at) ? null : latest,
    measured,
    contents: measured.carried.contents,
    storage: storageState(history.pack, measured.evidence, rules, now),
  };
}

function disturbedSince({ charges, flights }: PackHistory, at: Instant): boolean {
  return [...charges.slice(-1), ...flights.slice(-1)].some((one) => one.at > at);
}

/**
 * The readings that may decide, and the newest one if it may not. A pack read sooner after a flight, a charge or a load
 * than the rest the rules ask is still settling, whatever was ticked.
 */
export function restedReadings(
  history: PackHistory,
  { restMinutes }: Pick<HouseRules, 'restMinutes'>,
): Decidable {
  const kept = decidable.get(history);
  if (kept?.restMinutes === restMinutes) return kept;
  const made = { restMinutes, ...partedByRest(history, restMinutes) };
  decidable.set(history, made);
  return made;
}

type Decidable = Pick<CaseFile, 'rested' | 'undecided'>;

/** One history is asked about many moments, and of all rules only the rest that is asked for says which readings decide. */
const decidable = new WeakMap<PackHistory, Decidable & { readonly restMinutes: number }>();

function partedByRest(history: PackHistory, restMinutes: number): Decidable {
  const rested: RestedReading[] = [];
  const disturbed = disturbances(history);
  let next = 0;
  let lastDisturbedAt: Instant | null = null;
  let undecided: CaseFile['undecided'] = null;
  for (const reading of history.readings) {
    while (next < disturbed.length && disturbed[next]! <= reading.at) lastDisturbedAt = disturbed[next++]!;
    const condition = conditionHeld(reading.condition, reading.at, lastDisturbedAt, restMinutes);
    if (condition === 'loaded') lastDisturbedAt = reading.at;
    if (condition === 'rested' && DECIDES[condition].storage) {
      rested.push(restedReading(reading, history.pack.series));
      undecided = null;
    } else if (condition !== 'rested') {
      undecided = { ...reading, condition };
    }
  }
  return { rested, undecided };
}

/** When load or charge ended, in order. */
function disturbances({ flights, charges }: PackHistory): readonly Instant[] {
  return [...flights.map(({ at }) => at), ...charges.map(({ at }) => at)].sort((a, b) => a - b);
}

function restedReading(reading: ReadingEvent, series: number): RestedReading {
  const { volts, at, meterErrorMv, records } = reading;
  const cellsMv = volts.of === 'cells' ? volts.cellsMv : [Math.round(volts.packMv / series)];
  return { at, cellsMv, byCell: volts.of === 'cells', meterErrorMv, records };
}

/** The lowest cell of a reading. It decides, never the mean: five at 3.66 and one at 3.31 average "fine". */
export function lowestCell(reading: RestedReading): LowCell {
  const mv = Math.min(...reading.cellsMv);
  return { cell: reading.byCell ? reading.cellsMv.indexOf(mv) + 1 : null, mv, at: reading.at };
}
