import { isLithium } from '../../chemistry';
import { putsIn } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { balanceFailure } from './chargeFailed';

/**
 * So many charges since the cells were last balanced as the rules say to balance by. One practice balances every charge, the other
 * every few while the pack keeps itself in tolerance.
 */
export function balanceDue({ history, rules }: CaseFile): readonly Finding[] {
  const { pack, charges } = history;
  if (!isLithium(pack.chemistry) || pack.series < 2) return [];
  const filled = charges.filter(putsIn);
  const last = filled.findLastIndex(
    (charge) =>
      charge.mode === 'balance' && charge.ending === 'complete' && balanceFailure(charge, rules) === null,
  );
  const since = filled.slice(last + 1);
  const every = rules.charge.balanceEvery;
  if (since.length < every) return [];
  return [
    {
      rule: 'balance-due',
      severity: 'note',
      charges: since.length,
      every,
      lastAt: filled[last]?.at ?? null,
      records: since.flatMap(({ records }) => records),
    },
  ];
}
