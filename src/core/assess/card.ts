import type { IncidentKind } from '../incident';
import type { Finding } from './finding';
import { RULE_FACTS } from './ruleFacts';

/**
 * The incident whose immediate-action card a finding calls for: it takes the pack out of use for what such an incident does to
 * it. Null for every other finding. Source: the practice's cards and cautions.
 * @example cardFor({ rule: 'overfull', severity: 'hold' }) // => 'overcharged'
 */
export function cardFor({ rule, severity }: Pick<Finding, 'rule' | 'severity'>): IncidentKind | null {
  return severity === 'hold' || severity === 'retire' ? (RULE_FACTS[rule].card ?? null) : null;
}
