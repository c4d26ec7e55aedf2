import { answered, speaksAgainstUse } from './answered';
import { harmOf } from './harm';
import { releaseNeeds } from './release';
import type { ReleaseNeed } from './release';
import type { IncidentId, Instant } from '../measure';
import { isInService } from '../lifecycle';
import type { Life } from '../lifecycle';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import type { Contents, StorageState } from '../storage';
import { caseFile } from './caseFile';
import { chargedOf } from './charged';
import type { Charged } from './charged';
import type { CaseFile, RestedReading } from './caseFile';
import { SEVERITIES } from './finding';
import type { Finding, NextStep, Severity } from './finding';
import { RULES } from './judges';
import { RULE_FACTS } from './ruleFacts';
import { stepsFor } from './steps';
import { timesOf } from './times';
import { isOutOfUse } from './verdict';
import type { MayFly, Verdict } from './verdict';
import type { DueTask } from './due';
import { dueTasks } from './due';

/** All Malle says about a pack at one moment. */
export interface Assessment {
  readonly verdict: Verdict;
  readonly mayFly: MayFly;
  readonly charged: Charged;
  /** Worst first. */
  readonly findings: readonly Finding[];
  readonly storage: StorageState;
  /** Most pressing first; empty when no rule asks anything of the pack. */
  readonly steps: readonly NextStep[];
  /** What the calendar will ask of the pack, soonest first; nothing of a pack on hold. */
  readonly due: readonly DueTask[];
  readonly life: Life;
  /** The quarantine that an incident began and no inspection has ended yet; its time may be over. */
  readonly watch: { readonly incidentId: IncidentId; readonly from: Instant; readonly until: Instant } | null;
  /** Since when a pack that waits for a decision has been out of use; null for one in use or retired. */
  readonly outSince: Instant | null;
  /** What a release wants; empty for a pack that is in use or retired. */
  readonly needs: readonly ReleaseNeed[];
  /** The findings that forbid a discharge at its end: the pack is harmed in its body. */
  readonly harm: readonly Finding[];
  /** The latest reading that may decide; null before the first. */
  readonly latest: RestedReading | null;
  /**
   * What it holds by now, carried from the last thing that happened to it. What may still be taken out follows the lowest
   * cell, what may still be put in the highest; null without a curve, or when nobody knows.
   */
  readonly contents: Contents | null;
  /** Capacity as last measured, never more than the label: what every sum about the pack goes by, mAh. */
  readonly capacityMah: number;
}

/**
 * Whether the pack was out of use at a moment, as {@link assess} would say, and as what. The gate asks this for every charge and
 * flight, so it runs only the rules that can take a pack out; a verdict milder than that is not told apart.
 */
export function outOfUseAt(history: PackHistory, rules: HouseRules, now: Instant): Verdict | null {
  const file = caseFile(history, rules, now);
  const found = RULES.flatMap(({ judge, mayTakeOut }) => (mayTakeOut ? judge(file) : []));
  const verdict = verdictOf(history.life, [...answered(file, found)].sort(worstFirst));
  return isOutOfUse(verdict) ? verdict : null;
}

/** What the untimed rules find in a history, in the order of the rules; worked out once where its whole future is asked about. */
const timeless = new WeakMap<
  PackHistory,
  { readonly rules: HouseRules; readonly found: readonly (readonly Finding[] | null)[] }
>();

function findingsOf(file: CaseFile): readonly Finding[] {
  const { history, rules } = file;
  let kept = timeless.get(history);
  if (kept?.rules !== rules) {
    kept = { rules, found: RULES.map(({ judge, timed }) => (timed ? null : judge(file))) };
    timeless.set(history, kept);
  }
  const { found } = kept;
  const findings: Finding[] = [];
  for (const [i, { judge }] of RULES.entries()) findings.push(...(found[i] ?? judge(file)));
  return findings;
}

/**
 * What the records say about a pack under these house rules at this moment. Pure: the same records, rules and time give
 * the same answer on the server, in a browser and in a worker.
 */
export function assess(history: PackHistory, rules: HouseRules, now: Instant): Assessment {
  const file = caseFile(history, rules, now);
  const weighed = [...answered(file, findingsOf(file))].sort(worstFirst);
  const { life } = history;
  const verdict = verdictOf(life, weighed);
  const findings = isOutOfUse(verdict)
    ? weighed.filter(({ rule }) => RULE_FACTS[rule].asks === undefined)
    : weighed;
  const decides = isOutOfUse(verdict) && isInService(life);
  const needs = decides ? releaseNeeds(file, findings) : [];
  const harm = harmOf(findings);
  return {
    verdict,
    mayFly: isOutOfUse(verdict) ? 'no' : mayFly(findings),
    charged: chargedOf(file),
    findings,
    storage: file.storage,
    steps: stepsFor(file, findings, needs, harm),
    due: isOutOfUse(verdict) ? [] : dueTasks(file),
    life,
    watch: watchOf(file, findings),
    outSince: decides ? outSince(history, findings) : null,
    needs,
    harm,
    latest: file.latest,
    contents: file.contents,
    capacityMah: file.measured.capacityMah,
  };
}

const VERDICT_OF: Readonly<Record<Severity, Verdict>> = {
  note: 'fit',
  watch: 'watch',
  hold: 'hold',
  retire: 'retire-advised',
};

function verdictOf(life: Life, findings: readonly Finding[]): Verdict {
  if (life.state === 'recycled') return 'recycled';
  return isInService(life) ? VERDICT_OF[findings[0]?.severity ?? 'note'] : 'retired';
}

function mayFly(findings: readonly Finding[]): MayFly {
  // A charge that was far too fast may have met a pack that holds little: it is read, and its capacity seen, before it flies.
  const doubtful = (finding: Finding) =>
    finding.rule === 'charge-implausible' && finding.oddity === 'too-fast' && !finding.answered;
  if (findings.some((finding) => RULE_FACTS[finding.rule].beforeFlying === 'measure' || doubtful(finding)))
    return 'measure-first';
  return findings.some(({ rule }) => RULE_FACTS[rule].beforeFlying === 'look') ? 'inspect-first' : 'yes';
}

/** The latest watch that still keeps the pack out of use and that no inspection has ended. */
function watchOf({ history, now }: CaseFile, findings: readonly Finding[]): Assessment['watch'] {
  const serving = isInService(history.life);
  const watched = findings.flatMap((finding) =>
    finding.rule === 'incident' && finding.watchUntil !== null && speaksAgainstUse(finding)
      ? [{ incidentId: finding.incidentId, from: finding.at, until: finding.watchUntil }]
      : [],
  );
  // Nobody inspects a pack that was retired meanwhile; it is still watched to its time.
  const open = watched.filter(({ until }) =>
    serving ? !history.inspections.some(({ at }) => at >= until) : now < until,
  );
  return open.sort((a, b) => b.until - a.until)[0] ?? null;
}

/** When the oldest evidence that keeps it out of use was noted. */
function outSince(history: PackHistory, findings: readonly Finding[]): Instant | null {
  const times = timesOf(history);
  const starts = findings.filter(speaksAgainstUse).map(({ records }) => {
    // What was found last made it so; what it is held against, a baseline say, is older.
    const known = records.flatMap((id) => times.get(id) ?? []);
    return known.length > 0 ? Math.max(...known) : (history.lastRecordAt ?? 0);
  });
  return starts.length > 0 ? Math.min(...starts) : null;
}

function worstFirst(a: Finding, b: Finding): number {
  return SEVERITIES.indexOf(b.severity) - SEVERITIES.indexOf(a.severity);
}
