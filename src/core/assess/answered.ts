import type { Instant, RecordId } from '../measure';
import type { DecisionEvent } from '../record';
import type { CaseFile } from './caseFile';
import type { Finding } from './finding';

type Release = DecisionEvent & { readonly what: Extract<DecisionEvent['what'], { to: 'release' }> };

/**
 * The findings with the weight that decisions leave them. A hold that was released weighs no more than the watch the
 * release asked for; an advice to retire that was answered "keep on watch" comes back when that day has passed. A record
 * the decision did not know of is new evidence, and holds again.
 */
export function answered({ history, now }: CaseFile, findings: readonly Finding[]): readonly Finding[] {
  const releases = history.decisions.filter((one): one is Release => one.what.to === 'release');
  if (releases.length === 0) return findings;
  return findings.map((finding) => {
    if (!speaksAgainstUse(finding)) return finding;
    const release = releases.findLast((one) => answers(one, finding, now));
    if (!release) return finding;
    const { at, by, what } = release;
    const severity = isWatching(what.watch, now) ? 'watch' : 'note';
    return { ...finding, severity, answered: { at, by, watch: what.watch } };
  });
}

/** Whether a finding takes a pack out of use by itself. */
export function speaksAgainstUse({ severity }: Pick<Finding, 'severity'>): boolean {
  return severity === 'hold' || severity === 'retire';
}

function answers({ what }: Release, finding: Finding, now: Instant): boolean {
  const answer = what.answers.find(({ rule }) => rule === finding.rule);
  if (!answer) return false;
  // A trend rests on the newest figures, which change with every reading: it is answered until its day.
  if (isTrend(finding)) return typeof what.watch === 'object' && now < what.watch.until;
  return isWithin(finding.records, answer.records);
}

/** Whether an advice to retire rests on how figures went over time rather than on what happened once. */
export function isTrend({ rule, severity }: Pick<Finding, 'rule' | 'severity'>): boolean {
  return severity === 'retire' && !ONCE.has(rule);
}

const ONCE: ReadonlySet<Finding['rule']> = new Set([
  'incident',
  'damage-floor',
  'over-discharged',
  'recovery',
  'second-name',
]);

function isWithin(records: readonly RecordId[], known: readonly RecordId[]): boolean {
  return records.every((id) => known.includes(id));
}

function isWatching(watch: Release['what']['watch'], now: Instant): boolean {
  if (watch === 'for-good') return true;
  return watch !== 'none' && now < watch.until;
}
