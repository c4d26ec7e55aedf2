import type { ChargeEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * Balance charges that did not get there, counted back from the latest until one that did. After a failed pass: discharge,
 * balance again; after the third in a row the cells will not close.
 */
export function chargeFailed({ history, rules }: CaseFile): readonly Finding[] {
  const passes: ChargeEvent[] = [];
  for (const charge of history.charges.slice().reverse()) {
    if (charge.mode !== 'balance') continue;
    if (failure(charge) === null) break;
    passes.push(charge);
  }
  const latest = passes[0];
  if (!latest) return [];
  const limit = rules.health.failedBalances;
  return [
    {
      rule: 'charge-failed',
      severity: passes.length >= limit ? 'retire' : 'watch',
      at: latest.at,
      how: failure(latest)!,
      passes: passes.length,
      limit,
      records: passes.flatMap(({ records }) => records),
    },
  ];
}

/** Stopped by hand is no failure, unless the cells were seen to be out of balance. */
function failure({ ending, balanced }: ChargeEvent): 'timed-out' | 'error' | 'unbalanced' | null {
  if (ending === 'timed-out' || ending === 'error') return ending;
  return ending === 'complete' && balanced === false ? 'unbalanced' : null;
}
