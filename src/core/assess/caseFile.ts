import { countUpTo } from '../measure';
import type { Instant, RecordId } from '../measure';
import { DECIDES, conditionHeld } from '../reading';
import { beginsWith, earlierOf } from '../record';
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

/** What is measured is worked out when a rule first asks for it: some look at no more than the readings. */
export function caseFile(history: PackHistory, rules: HouseRules, now: Instant): CaseFile {
  const { rested, undecided } = restedReadings(history, rules);
  const latest = rested.at(-1) ?? null;
  let measured: Measured | null = null;
  let storage: StorageState | null = null;
  return {
    history,
    rules,
    now,
    rested,
    latest,
    undecided,
    current: latest && disturbedSince(history, latest.at) ? null : latest,
    get measured() {
      return (measured ??= measure(history, rested, rules, now));
    },
    get contents() {
      return this.measured.carried.contents;
    },
    get storage() {
      return (storage ??= storageState(history.pack, this.measured.evidence, rules, now));
    },
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
  const made = { restMinutes, ...partedByRest(history, restMinutes, partedBefore(history, restMinutes)) };
  decidable.set(history, made);
  return made;
}

type Decidable = Pick<CaseFile, 'rested' | 'undecided'>;

/** The same of the first so many readings, and what the next ones are held against. */
interface Parted extends Decidable {
  readonly count: number;
  /** When the pack was last under load or on the charger before the last of them. */
  readonly lastDisturbedAt: Instant | null;
}

const NONE_PARTED: Parted = { rested: [], undecided: null, count: 0, lastDisturbedAt: null };

/** One history is asked about many moments, and of all rules only the rest that is asked for says which readings decide. */
const decidable = new WeakMap<PackHistory, Parted & { readonly restMinutes: number }>();

/** As far as the readings were parted already before the last records came. */
function partedBefore(history: PackHistory, restMinutes: number): Parted {
  const earlier = earlierOf(history);
  const kept = earlier && decidable.get(earlier);
  const holds = kept?.restMinutes === restMinutes && beginsWith(history.readings, earlier!.readings);
  return holds ? kept : NONE_PARTED;
}

function partedByRest(history: PackHistory, restMinutes: number, before: Parted): Parted {
  const { readings } = history;
  const rested = [...before.rested];
  let { undecided, lastDisturbedAt } = before;
  const disturbed = disturbances(history, readings[before.count - 1]?.at ?? -Infinity);
  let next = 0;
  for (let i = before.count; i < readings.length; i++) {
    const reading = readings[i]!;
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
  return { rested, undecided, count: readings.length, lastDisturbedAt };
}

/** When load or charge ended after a moment, in order. */
function disturbances({ flights, charges }: PackHistory, since: Instant): readonly Instant[] {
  const endings = [...flights.slice(countUpTo(flights, since)), ...charges.slice(countUpTo(charges, since))];
  return endings.map(({ at }) => at).sort((a, b) => a - b);
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
