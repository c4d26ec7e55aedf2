import { isLithium } from '../../chemistry';
import { contentsMv, storageJob } from '../../storage';
import { lowestCell } from '../caseFile';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * The lowest cell rests under the recharge-soon floor: bring the pack up now, whatever its clock still allows. After a charge
 * the older reading is history, and what the charge left is held against the floor instead; a pack only used since is no higher
 * than it was read, but what to put in is not known before it is read again.
 */
export function rechargeSoon(file: CaseFile): readonly Finding[] {
  const { history, rules, latest, current, contents, measured } = file;
  const { chemistry } = history.pack;
  const { rechargeSoonMv } = rules.floors[chemistry];
  const pack = { ...history.pack, capacityMah: measured.capacityMah };
  if (current) {
    const low = lowestCell(current);
    if (low.mv >= rechargeSoonMv) return [];
    const job = storageJob(pack, current.cellsMv, rules);
    return [finding(low, 'read', rechargeSoonMv, job, current.records)];
  }
  if (!contents || !isLithium(chemistry) || contents.basis === 'stored') return [];
  if (contents.basis === 'used') {
    if (!latest || history.charges.some(({ at }) => at > latest.at)) return [];
    const low = lowestCell(latest);
    return low.mv < rechargeSoonMv ? [finding(low, 'used', rechargeSoonMv, null, latest.records)] : [];
  }
  const cellsMv = contentsMv(chemistry, contents);
  const mv = Math.min(...cellsMv);
  if (mv >= rechargeSoonMv) return [];
  const cell = cellsMv.length > 1 ? cellsMv.indexOf(mv) + 1 : null;
  const job = storageJob(pack, cellsMv, rules);
  return [finding({ cell, mv, at: contents.since }, contents.basis, rechargeSoonMv, job, contents.records)];
}

type Told = Extract<Finding, { rule: 'recharge-soon' }>;

function finding(
  low: Told['low'],
  basis: Told['basis'],
  limitMv: number,
  job: Told['job'],
  records: Told['records'],
): Finding {
  return { rule: 'recharge-soon', severity: 'note', low, basis, limitMv, job, records };
}
