import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
import { CLOCK_READS } from './ruleFacts';
import type { RulesPart } from './ruleFacts';

/** The parts of the house rules that differ, for packs of a chemistry: what is said of another chemistry is nothing to them. */
export function changedParts(
  before: HouseRules,
  after: HouseRules,
  chemistry: PackFacts['chemistry'],
): ReadonlySet<RulesPart> {
  // The same told in another order counts as changed: that costs time, and nothing else.
  const differs = (a: unknown, b: unknown) =>
    JSON.stringify(concerning(a, chemistry)) !== JSON.stringify(concerning(b, chemistry));
  const { health, ...others } = before;
  const parts = (Object.keys(others) as (keyof typeof others)[]).filter((key) =>
    differs(before[key], after[key]),
  );
  const wear = (Object.keys(health) as (keyof typeof health)[]).filter((key) =>
    differs(health[key], after.health[key]),
  );
  return new Set<RulesPart>([...parts, ...wear.map((key) => `health.${key}` as const)]);
}

/** Of a figure for each chemistry the one of this chemistry; anything else as it is. */
function concerning(part: unknown, chemistry: PackFacts['chemistry']): unknown {
  const isEach = typeof part === 'object' && part !== null && chemistry in part;
  return isEach ? (part as Record<string, unknown>)[chemistry] : part;
}

/** Whether a pack's storage clock may run otherwise where these parts changed. */
export function movesClock(changed: ReadonlySet<RulesPart>): boolean {
  return CLOCK_READS.some((part) => changed.has(part));
}
