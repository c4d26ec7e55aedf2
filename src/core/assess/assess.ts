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
import type { Finding, NextStep, RuleId, Severity } from './finding';
import { RULES } from './judges';
import type { Judged } from './judges';
import { RULE_FACTS } from './ruleFacts';
import type { RulesPart } from './ruleFacts';
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
  const verdict = verdictOf(history.life, worstBy(TAKING_OUT, caseFile(history, rules, now)));
  return isOutOfUse(verdict) ? verdict : null;
}

const TAKING_OUT = RULES.filter(({ mayTakeOut }) => mayTakeOut);
const OTHERS = RULES.filter(({ mayTakeOut }) => !mayTakeOut);

/** The verdict alone, as {@link assess} would give it: one caution is as good as all of them. */
export function verdictUnder(history: PackHistory, rules: HouseRules, now: Instant): Verdict {
  const file = caseFile(history, rules, now);
  const worst = worstBy(TAKING_OUT, file);
  const isCautioned = () => OTHERS.some((one) => worstBy([one], file) !== 'note');
  return verdictOf(history.life, worst === 'note' && isCautioned() ? 'watch' : worst);
}

/** The gravest that some judges find. */
function worstBy(judges: readonly Judged[], file: CaseFile): Severity {
  return worstOf(judges.flatMap(({ judge }) => answered(file, judge(file))));
}

/** What was found of a pack: of each rule that found anything, the gravest. */
export type Gravest = Readonly<Partial<Record<RuleId, Severity>>>;

/**
 * The verdict that other house rules would give a pack, where it is known what was found under those in force: only rules that go by what changed
 * are judged.
 * @param told the verdict and what was found, at the same moment
 * @param changed as {@link changedParts} has it for the pack
 */
export function verdictAfter(
  history: PackHistory,
  told: { readonly verdict: Verdict; readonly found: Gravest },
  changed: ReadonlySet<RulesPart>,
  after: HouseRules,
  now: Instant,
): Verdict {
  if (!isInService(history.life)) return told.verdict;
  const file = caseFile(history, after, now);
  let worst: Severity = 'note';
  for (const one of RULES) {
    const { ids, reads } = one;
    const isTouched = [...changed].some((part) => reads.has(part));
    const found = isTouched ? [worstBy([one], file)] : ids.map((id) => told.found[id] ?? 'note');
    worst = found.reduce(graver, worst);
  }
  const verdict = verdictOf(history.life, worst);
  // Of a pack out of use no more was told than what makes it so: for one that would be in use again the rest counts, too.
  return isOutOfUse(told.verdict) && !isOutOfUse(verdict) ? verdictUnder(history, after, now) : verdict;
}

/** Where a pack stands towards its storage band, as {@link assess} would say. */
export function storageUnder(history: PackHistory, rules: HouseRules, now: Instant): StorageState {
  return caseFile(history, rules, now).storage;
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
  const verdict = verdictOf(life, weighed[0]?.severity ?? 'note');
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

function verdictOf(life: Life, worst: Severity): Verdict {
  if (life.state === 'recycled') return 'recycled';
  return isInService(life) ? VERDICT_OF[worst] : 'retired';
}

function worstOf(findings: readonly Finding[]): Severity {
  return findings.reduce<Severity>((worst, { severity }) => graver(worst, severity), 'note');
}

function graver(a: Severity, b: Severity): Severity {
  return SEVERITIES.indexOf(a) >= SEVERITIES.indexOf(b) ? a : b;
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
