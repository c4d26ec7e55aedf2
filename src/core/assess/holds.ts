import type { Instant } from '../measure';
import { fold } from '../record';
import type { PackHistory, PackRecord } from '../record';
import type { HouseRules } from '../rules';
import { assess } from './assess';
import type { RuleId } from './finding';

/** A time a pack was out of use. */
export interface Hold {
  /** The rules that kept it so, gravest first, each once. */
  readonly causes: readonly RuleId[];
  readonly from: Instant;
  /** When a decision ended it; null for one that goes on. */
  readonly to: Instant | null;
  readonly ended: 'released' | 'retired' | null;
}

/**
 * From when to when a pack was out of use, and how that ended, as each decision found it. A hold that was a mistyped record, put right
 * since, was none. Judges the ledger once a decision: for a report, not a list.
 * @param ledger the records of that history, in the order of arrival
 */
export function endedHolds(
  { decisions, pack }: PackHistory,
  ledger: readonly PackRecord[],
  rules: HouseRules,
): readonly Hold[] {
  return decisions.flatMap(({ at, what, basedOnSeq }) => {
    if (what.to === 'hold') return [];
    const known = fold(
      pack,
      ledger.filter(({ seq }) => seq <= basedOnSeq),
    );
    return holdAt(known, rules, at, what.to === 'release' ? 'released' : 'retired');
  });
}

/** The hold that goes on, if the pack waits for a decision now; else none. */
export function openHold(history: PackHistory, rules: HouseRules, now: Instant): readonly Hold[] {
  return holdAt(history, rules, now, null);
}

function holdAt(history: PackHistory, rules: HouseRules, at: Instant, ended: Hold['ended']): readonly Hold[] {
  const { outSince, findings } = assess(history, rules, at);
  if (outSince === null) return [];
  const causes = findings
    .filter(({ severity }) => severity === 'hold' || severity === 'retire')
    .map(({ rule }) => rule);
  return [{ causes: [...new Set(causes)], from: outSince, to: ended === null ? null : at, ended }];
}
