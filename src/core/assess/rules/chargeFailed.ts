import { spread } from '../../health';
import type { ChargeEvent } from '../../record';
import type { HouseRules } from '../../rules';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * Balance charges that did not get there, counted back from the latest until one that did. After a failed pass: discharge,
 * balance again; after the third in a row the cells will not close. A charge is judged by what it did: one called finished
 * whose end cells lie apart failed, whatever the charger said.
 */
export function chargeFailed({ history, rules }: CaseFile): readonly Finding[] {
  const passes: { readonly charge: ChargeEvent; readonly how: Failure }[] = [];
  for (const charge of history.charges.slice().reverse()) {
    if (charge.mode !== 'balance' || charge.ending === 'taper' || charge.ending === 'quick') continue;
    const how = balanceFailure(charge, rules);
    if (how === null) break;
    passes.push({ charge, how });
  }
  const latest = passes[0];
  if (!latest) return [];
  const limit = rules.health.failedBalances;
  const ends =
    latest.charge.endCellsMv && latest.charge.endCellsMv.length > 1 ? spread(latest.charge.endCellsMv) : null;
  const apart = ends && ends.mv > rules.spread.toleranceMv ? ends : null;
  return [
    {
      rule: 'charge-failed',
      severity: passes.length >= limit ? 'retire' : 'watch',
      at: latest.charge.at,
      how: latest.how,
      cell: apart?.lowestCell ?? null,
      apartMv: apart?.mv ?? null,
      passes: passes.length,
      limit,
      records: passes.flatMap(({ charge }) => charge.records),
    },
  ];
}

type Failure = 'timed-out' | 'error' | 'unbalanced' | 'ends-apart';

/** How a balance charge failed; null for one that got there. Stopped by hand is no failure, unless the cells were seen apart. */
export function balanceFailure(
  { ending, balanced, endCellsMv }: ChargeEvent,
  { spread: limits }: HouseRules,
): Failure | null {
  if (ending === 'timed-out' || ending === 'error') return ending;
  if (ending !== 'complete') return null;
  if (endCellsMv && spread(endCellsMv).mv > limits.toleranceMv) return 'ends-apart';
  return balanced === false ? 'unbalanced' : null;
}
