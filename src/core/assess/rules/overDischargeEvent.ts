import { lowestCell } from '../caseFile';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * A cell that rested under the over-discharge line but not under the damage floor is an event that stays in the record.
 * It puts the pack on caution until a later rested reading shows every cell back above the recharge-soon floor; after that
 * it remains as a note. Points at the latest event.
 */
export function overDischargeEvent({ history, rules, rested }: CaseFile): readonly Finding[] {
  const { overDischargeMv, damageMv, rechargeSoonMv } = rules.floors[history.pack.chemistry];
  if (overDischargeMv === null) return [];
  const last = rested.findLastIndex((reading) => {
    const { mv } = lowestCell(reading);
    return mv < overDischargeMv && mv >= damageMv;
  });
  const event = rested[last];
  if (!event) return [];
  const recovered = rested.slice(last + 1).find((reading) => lowestCell(reading).mv >= rechargeSoonMv);
  return [
    {
      rule: 'over-discharge-event',
      severity: recovered ? 'note' : 'watch',
      low: lowestCell(event),
      limitMv: overDischargeMv,
      readSince: recovered ? lowestCell(recovered) : null,
      records: recovered ? [...event.records, ...recovered.records] : event.records,
    },
  ];
}
