import { HOUR_MS } from '../../measure';
import { chargeRateC } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Charged faster than the house charges at home, and not used since: such a charge is for flying today, or the pack is drained. */
export function fieldCharged({ history, rules, storage }: CaseFile): readonly Finding[] {
  if (storage.state !== 'high' || storage.fieldChargedAt === null) return [];
  const at = storage.fieldChargedAt;
  const charge = history.charges.findLast((one) => one.at === at);
  const rateC = charge && chargeRateC(charge, history.pack.capacityMah);
  if (!charge || !rateC) return [];
  const dueAt = at + rules.charge.fieldHours * HOUR_MS;
  return [{ rule: 'field-charged', severity: 'note', at, rateC, dueAt, records: charge.records }];
}
