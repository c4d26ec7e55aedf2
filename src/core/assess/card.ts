import type { IncidentKind } from '../incident';
import type { Finding, RuleId } from './finding';

/** What the records alone already tell of an incident nobody may have reported. */
const KIND: Partial<Readonly<Record<RuleId, IncidentKind>>> = {
  overfull: 'overcharged',
  'charge-implausible': 'overcharged',
  'wrong-setting': 'overcharged',
  'hot-charge': 'hot-charging',
  'hot-use': 'overheated',
  swollen: 'swelling',
  'damage-floor': 'over-discharged',
  'over-discharged': 'over-discharged',
};

/**
 * The incident whose immediate-action card a finding calls for: it takes the pack out of use for what such an incident does to
 * it. Null for every other finding. Source: the practice's cards and cautions.
 * @example cardFor({ rule: 'overfull', severity: 'hold' }) // => 'overcharged'
 */
export function cardFor({ rule, severity }: Pick<Finding, 'rule' | 'severity'>): IncidentKind | null {
  return severity === 'hold' || rule === 'swollen' ? (KIND[rule] ?? null) : null;
}
