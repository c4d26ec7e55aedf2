import { CHEMISTRY } from '../../chemistry';
import { FULL_OCCASIONS } from '../../inspection';
import type { Instant, RecordId } from '../../measure';
import { byAnswer } from '../answered';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Volts of a pack, from wherever, with the tolerance that this way of seeing them deserves. */
interface Seen {
  readonly at: Instant;
  readonly cell: number;
  readonly mv: number;
  readonly toleranceMv: number;
  readonly when: 'read' | 'charge-end';
  readonly records: readonly RecordId[];
}

/**
 * A cell above its chemistry's full voltage, and that needs no rest: settling, resting or at a charge's end it is above it.
 * Beyond the meter's own error (at a charge's end the house's margin) the charger's setting is in doubt, until the pack is
 * read, looked over or decided about; by the house's hold margin it was charged as something it is not, and stays on hold until a person
 * decides.
 */
export function overfull(file: CaseFile): readonly Finding[] {
  const { history, rules } = file;
  const { fullMv } = CHEMISTRY[history.pack.chemistry];
  if (fullMv === null) return [];
  const holdFromMv = fullMv + rules.overfullHoldMv;
  const seen = everySight(file, fullMv);
  const wrong = byAnswer(
    file,
    'overfull',
    seen.filter(({ mv }) => mv >= holdFromMv),
  );
  const told = (list: readonly Seen[], severity: 'watch' | 'hold'): Finding[] => {
    const last = list.at(-1);
    if (!last) return [];
    const { cell, mv, at, when } = last;
    const records = [...new Set(list.flatMap((one) => one.records))];
    return [{ rule: 'overfull', severity, cell, mv, at, when, fullMv, holdFromMv, records }];
  };
  const holds = [...told(wrong.fresh, 'hold'), ...told(wrong.old, 'hold')];
  if (wrong.fresh.length > 0) return holds;
  const over = seen.findLast(({ mv, toleranceMv }) => mv > fullMv + toleranceMv && mv < holdFromMv);
  return over && !isCleared(file, over) ? [...holds, ...told([over], 'watch')] : holds;
}

/** Every time a cell was seen above full, oldest first. */
function everySight({ history, rules }: CaseFile, fullMv: number): readonly Seen[] {
  const { series } = history.pack;
  const read: Seen[] = [];
  for (const { at, volts, meterErrorMv, records } of history.readings) {
    const cellsMv = volts.of === 'cells' ? volts.cellsMv : [Math.round(volts.packMv / series)];
    const top = highest(cellsMv);
    if (top.mv > fullMv) read.push({ at, ...top, toleranceMv: meterErrorMv, when: 'read', records });
  }
  const ends: Seen[] = [];
  for (const { at, endCellsMv, records } of history.charges) {
    const top = endCellsMv && highest(endCellsMv);
    if (top && top.mv > fullMv)
      ends.push({ at, ...top, toleranceMv: rules.charge.endOverMv, when: 'charge-end', records });
  }
  return ends.length === 0 ? read : [...read, ...ends].sort((a, b) => a.at - b.at);
}

function highest(cellsMv: readonly number[]): { cell: number; mv: number } {
  const mv = Math.max(...cellsMv);
  return { cell: cellsMv.indexOf(mv) + 1, mv };
}

function isCleared({ history, rested }: CaseFile, { at }: Seen): boolean {
  const since = (one: { readonly at: Instant }) => one.at > at;
  return (
    rested.some(since) ||
    history.inspections.some((one) => since(one) && FULL_OCCASIONS.has(one.occasion)) ||
    history.decisions.some((one) => since(one) && one.what.to === 'release')
  );
}
