import { thickerPercent } from '../../inspection';
import type { InspectionEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';

/**
 * The pack has grown: felt by a hand, or measured against its first thickness. Felt swelling and growth past the hold line
 * take it out of use however it looks later; a little growth is watched while it is the latest measurement.
 */
export function swollen({ history, rules }: CaseFile): readonly Finding[] {
  const { inspections } = history;
  if (inspections.length === 0) return [];
  const baseline = inspections.find(({ thicknessMm }) => thicknessMm !== null) ?? null;
  const limits = rules.swelling;
  const growth = ({ thicknessMm }: InspectionEvent): number | null =>
    thicknessMm === null || !baseline ? null : thickerPercent(thicknessMm, baseline.thicknessMm!);
  const held = inspections.findLast((one) => isFelt(one) || (growth(one) ?? 0) >= limits.holdPercent);
  const measured = inspections.findLast(({ thicknessMm }) => thicknessMm !== null);
  const watched = measured && (growth(measured) ?? 0) >= limits.watchPercent ? measured : null;
  const told = held ?? watched;
  if (!told) return [];
  const severity: Severity = held ? 'hold' : 'watch';
  const { at, swelling, thicknessMm } = told;
  const percent = growth(told);
  const compared = percent !== null && told !== baseline;
  return [
    {
      rule: 'swollen',
      severity,
      at,
      swelling: isFelt(told) ? (swelling === 'none' ? null : swelling) : null,
      thicknessMm,
      baselineMm: compared ? baseline!.thicknessMm : null,
      percent: compared ? percent : null,
      limits,
      records: compared ? [...baseline!.records, ...told.records] : told.records,
    },
  ];
}

/** Felt by a hand: said how, or the item failed. */
function isFelt({ swelling, items }: InspectionEvent): boolean {
  if (swelling === 'soft' || swelling === 'hard') return true;
  return items.some(({ key, answer }) => key === 'swelling' && answer === 'fail');
}
