import { socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import type { Instant, RecordId } from '../measure';
import type { ChargeEvent, FlightEvent } from '../record';
import { median } from './points';
import { certainSocSpreadPercent, spread } from './spread';

interface Reading {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly byCell: boolean;
  readonly meterErrorMv: number;
  readonly records: readonly RecordId[];
}

/** A cell that came back from a use lower than the others. */
export interface WeakCell {
  readonly cell: number;
  readonly mv: number;
  readonly belowMv: number;
  readonly at: Instant;
  readonly records: readonly RecordId[];
}

/**
 * The lowest cell of the first rested reading after the latest use, and how far under its siblings' median it rests.
 * Null for a pack of one cell, or one not read between its last use and the next charge.
 */
export function weakAfterUse(
  rested: readonly Reading[],
  flights: readonly FlightEvent[],
  charges: readonly ChargeEvent[],
): WeakCell | null {
  for (const flight of flights.slice().reverse()) {
    const charged = charges.find(({ at }) => at > flight.at)?.startedAt ?? Infinity;
    const reading = rested.find(({ at, byCell }) => byCell && at > flight.at && at <= charged);
    if (!reading || reading.cellsMv.length < 2) continue;
    const { lowestCell, lowestMv } = spread(reading.cellsMv);
    const siblings = reading.cellsMv.filter((_, i) => i !== lowestCell - 1);
    return {
      cell: lowestCell,
      mv: lowestMv,
      belowMv: Math.round(median(siblings) - lowestMv),
      at: reading.at,
      records: [...flight.records, ...reading.records],
    };
  }
  return null;
}

/** A cell whose charge after a use has fallen further and further below its siblings'. */
export interface CellDrift {
  readonly cell: number;
  /** How much further below them than at first, percent of charge. */
  readonly percent: number;
  readonly records: readonly RecordId[];
}

/** So many uses say how a pack's cells lie to each other, at first and now. */
const DRIFT_USES = 5;

/**
 * The cell that has drifted most, by the middle of its latest uses against the first ones: what it holds shrinks beside its
 * siblings. Null before there are enough uses read, and for a pack of one cell.
 */
export function cellDrift(
  rested: readonly Reading[],
  flights: readonly FlightEvent[],
  charges: readonly ChargeEvent[],
  chemistry: LithiumChemistry,
): CellDrift | null {
  const uses = afterUses(rested, flights, charges);
  if (uses.length < DRIFT_USES * 2) return null;
  const belowIn = ({ cellsMv }: Reading) => {
    const percents = cellsMv.map((mv) => socPercent(chemistry, mv));
    return percents.map((percent, i) => median(percents.filter((_, other) => other !== i)) - percent);
  };
  const first = uses.slice(0, DRIFT_USES).map(belowIn);
  const latest = uses.slice(-DRIFT_USES).map(belowIn);
  const middle = (list: readonly (readonly number[])[], cell: number) =>
    median(list.map((one) => one[cell]!));
  const drifts = first[0]!.map((_, cell) => middle(latest, cell) - middle(first, cell));
  const percent = Math.max(...drifts);
  const records = uses.slice(-DRIFT_USES).flatMap((one) => one.records);
  return { cell: drifts.indexOf(percent) + 1, percent, records };
}

/** The first rested reading of every cell after each use, before the next charge. */
function afterUses(
  rested: readonly Reading[],
  flights: readonly FlightEvent[],
  charges: readonly ChargeEvent[],
): readonly Reading[] {
  const uses: Reading[] = [];
  let [nextReading, nextCharge] = [0, 0];
  for (const [i, flight] of flights.entries()) {
    while (nextReading < rested.length && rested[nextReading]!.at <= flight.at) nextReading += 1;
    while (nextCharge < charges.length && charges[nextCharge]!.at <= flight.at) nextCharge += 1;
    const until = Math.min(charges[nextCharge]?.startedAt ?? Infinity, flights[i + 1]?.startedAt ?? Infinity);
    const reading = rested[nextReading];
    if (reading?.byCell && reading.cellsMv.length > 1 && reading.at <= until) uses.push(reading);
  }
  return uses;
}

/** Below this charge a cell that only holds a little less than its siblings lies lower too, and its capacity is what to judge. */
const DEEP_PERCENT = 30;

/** Out of tolerance; and worth a watch, in volts and, beyond any meter's error, in charge. */
interface SpreadLimits {
  readonly toleranceMv: number;
  readonly watchMv: number;
  readonly watchSocPercent: number;
}

/** Whether the same cell keeps coming to the charger weakest, and how often. */
export interface Recurrence {
  readonly cell: number;
  /** Out of tolerance this often among the latest charges looked at. */
  readonly times: number;
  readonly ofCharges: number;
  /** How often again after it had first been put on caution for it. */
  readonly timesAgain: number;
  readonly records: readonly RecordId[];
}

interface WeakestAtCharge {
  /** Null when the cells were within tolerance. */
  readonly cell: number | null;
  /** Worth a watch in charge, beyond any meter's error, and where the pack is nearly empty in volts too. */
  readonly certain: boolean;
  readonly records: readonly RecordId[];
}

/**
 * The cell that was lowest and out of tolerance in enough of the latest charges to be watched; null when none is. Each
 * charge is judged by the last rested cells before it began. Once watched, a cell stays so until that many charges in a
 * row found it in tolerance. How often again is counted by charge, and near empty by volts too: there a healthy pack lies 20 mV apart.
 */
export function recurrence(
  rested: readonly Reading[],
  charges: readonly ChargeEvent[],
  chemistry: LithiumChemistry,
  limits: SpreadLimits,
  rule: { readonly times: number; readonly inCharges: number },
): Recurrence | null {
  const weakest = weakestByCharge(rested, charges, chemistry, limits);
  let watched: { cell: number; timesAgain: number; soundInARow: number } | null = null;
  for (const [i, { cell, certain }] of weakest.entries()) {
    if (watched) {
      const again: boolean = cell === watched.cell;
      watched = {
        cell: watched.cell,
        timesAgain: watched.timesAgain + (again && certain ? 1 : 0),
        soundInARow: again ? 0 : watched.soundInARow + 1,
      };
      if (watched.soundInARow < rule.inCharges) continue;
      watched = null;
    }
    const window = weakest.slice(Math.max(0, i + 1 - rule.inCharges), i + 1);
    if (cell !== null && window.filter((one) => one.cell === cell).length >= rule.times)
      watched = { cell, timesAgain: 0, soundInARow: 0 };
  }
  if (!watched) return null;
  const { cell, timesAgain } = watched;
  const latest = weakest.slice(-rule.inCharges);
  const found = latest.filter((one) => one.cell === cell);
  return {
    cell,
    times: found.length,
    ofCharges: latest.length,
    timesAgain,
    records: found.flatMap(({ records }) => records),
  };
}

function weakestByCharge(
  rested: readonly Reading[],
  charges: readonly ChargeEvent[],
  chemistry: LithiumChemistry,
  { toleranceMv, watchMv, watchSocPercent }: SpreadLimits,
): WeakestAtCharge[] {
  let next = 0;
  const weakest: WeakestAtCharge[] = [];
  for (const charge of charges) {
    if (charge.mode === 'discharge') continue;
    let fresh: Reading | null = null;
    for (; next < rested.length && rested[next]!.at <= charge.startedAt; next++) {
      fresh = rested[next]!;
    }
    // Without a reading since the last charge there is nothing new to say of the cells.
    if (!fresh?.byCell || fresh.cellsMv.length < 2) continue;
    const { mv, lowestCell, ...ends } = spread(fresh.cellsMv);
    weakest.push({
      cell: mv > toleranceMv ? lowestCell : null,
      certain:
        certainSocSpreadPercent(chemistry, ends, fresh.meterErrorMv) > watchSocPercent &&
        (mv > watchMv || socPercent(chemistry, Math.min(...fresh.cellsMv)) > DEEP_PERCENT),
      records: [...fresh.records, ...charge.records.filter((id) => !fresh.records.includes(id))],
    });
  }
  return weakest;
}
