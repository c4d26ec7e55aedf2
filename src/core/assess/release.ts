import { CHEMISTRY, isLithium } from '../chemistry';
import { INCIDENT_FACTS } from '../incident';
import { FULL_OCCASIONS, meaningOf, thickerPercent } from '../inspection';
import { HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import type { InspectionEvent } from '../record';
import type { HouseRules } from '../rules';
import { isTrend, speaksAgainstUse } from './answered';
import type { CaseFile } from './caseFile';
import { lowestCell } from './caseFile';
import { RULE_FACTS } from './ruleFacts';
import { timesOf } from './times';
import type { Finding, RuleId } from './finding';
import { endOf } from './rules/recovery';

/** One thing a release wants, whether it is there, and the finding that wants it. */
export type ReleaseNeed = { readonly because: RuleId; readonly met: boolean } & (
  | { readonly need: 'watch-over'; readonly until: Instant }
  /** A full inspection since then in which nothing held; `found` is what the newest one since then found. */
  | {
      readonly need: 'inspection';
      readonly since: Instant;
      readonly afterCrash: boolean;
      readonly found: 'none yet' | 'sound' | 'faults';
    }
  | { readonly need: 'reading'; readonly since: Instant }
  /** A supervised recovery that came up, and a reading after its rest. */
  | { readonly need: 'recovery'; readonly readFrom: Instant | null }
  /** Nothing releases it: it can only be retired. */
  | { readonly need: 'nothing-releases' }
  /** An advice to retire may be answered only with a day until which the pack stays on caution. */
  | { readonly need: 'a-day' }
);

/**
 * What a release of this pack wants for each finding that keeps it out of use. Source: the practice: a watched pack is
 * inspected when its watch is over, whatever was wrongly charged lies outdoors first, and the cells are read afterwards.
 */
export function releaseNeeds(file: CaseFile, findings: readonly Finding[]): readonly ReleaseNeed[] {
  const all = findings.filter(speaksAgainstUse).flatMap((finding) => needsOf(file, finding));
  return all.filter((need, i) => !all.some((other, j) => j !== i && covers(other, need, j < i)));
}

/** Whether another need asks for at least as much, so that this one need not be told; of two alike the first is. */
function covers(other: ReleaseNeed, need: ReleaseNeed, isFirst: boolean): boolean {
  const since = (one: ReleaseNeed) => ('since' in one ? one.since : 'until' in one ? one.until : 0);
  if (other.need !== need.need) return false;
  if (other.need === 'inspection' && need.need === 'inspection' && need.afterCrash && !other.afterCrash)
    return false;
  const milder =
    other.need === 'inspection' && need.need === 'inspection' && other.afterCrash && !need.afterCrash;
  if (since(other) !== since(need)) return since(other) > since(need);
  return milder || isFirst;
}

function needsOf(file: CaseFile, finding: Finding): ReleaseNeed[] {
  const because = finding.rule;
  if (isTrend(finding)) return [{ need: 'a-day', because, met: true }];
  switch (finding.rule) {
    case 'incident': {
      if (finding.severity === 'retire' || !INCIDENT_FACTS[finding.kind].mayReturn)
        return [{ need: 'nothing-releases', because, met: false }];
      const since = finding.watchUntil ?? finding.at;
      return [
        ...watchNeed(file, finding.watchUntil, because),
        inspectionNeed(file, since, because, finding.kind === 'crash'),
        readingNeed(file, since, because),
      ];
    }
    case 'damage-floor':
    case 'over-discharged':
      return overDischargedNeeds(file, finding);
    case 'hot-charge':
    case 'wrong-setting':
    case 'charge-implausible':
    case 'overfull': {
      const until = newestOf(file, finding, finding.at) + file.rules.incidents.overnightHours * HOUR_MS;
      return [
        ...watchNeed(file, until, because),
        inspectionNeed(file, until, because),
        readingNeed(file, until, because),
      ];
    }
    case 'hot-use':
    case 'held-by-hand':
    case 'swollen':
      return [inspectionNeed(file, finding.at, because), readingNeed(file, finding.at, because)];
    case 'inspection-failed': {
      const newest = Math.max(
        ...finding.failures.filter(({ means }) => means === 'hold').map(({ at }) => at),
        0,
      );
      return [inspectionNeed(file, newest + 1, because), readingNeed(file, newest, because)];
    }
    case 'recovery':
    case 'second-name':
      return finding.rule === 'recovery' && finding.how === 'running'
        ? [{ need: 'recovery', because, met: false, readFrom: null }]
        : [{ need: 'nothing-releases', because, met: false }];
    case 'spread':
    case 'weak-cell':
    case 'cell-drift':
    case 'weakest-again':
    case 'charge-failed':
    case 'shelf-loss':
    case 'wears-faster':
    case 'cooling':
    case 'not-known':
    case 'field-charged':
    case 'self-storing':
    case 'smart-settings':
    case 'memory-unread':
    case 'own-faults':
    case 'balance-due':
    case 'charge-habits':
    case 'two-hands':
    case 'deep-use':
    case 'cold-use':
    case 'resistance-growth':
    case 'resistance-siblings':
    case 'resistance-jump':
    case 'capacity':
    case 'run-time':
    case 'long-full':
    case 'cycles':
    case 'age':
    case 'landed-low':
    case 'over-discharge-event':
    case 'recharge-soon':
    case 'storage-high':
    case 'storage-low':
    case 'storage-pending':
    case 'written-late':
    case 'not-rested':
    case 'unmeasured':
    case 'unlogged':
    case 'not-as-delivered':
    case 'inspection-asked':
    case 'inspection-due':
    case 'long-rest':
    case 'baseline-missing':
    case 'nimh-top-up':
    case 'idle':
      return [{ need: 'a-day', because, met: true }];
    default:
      return finding satisfies never;
  }
}

/** By the house's school: never, or after a supervised recovery. A nickel pack has neither and is looked over and read. */
function overDischargedNeeds(
  file: CaseFile,
  finding: Extract<Finding, { rule: 'damage-floor' | 'over-discharged' }>,
): ReleaseNeed[] {
  const { history, rules } = file;
  const { rule: because } = finding;
  const since = newestOf(file, finding, finding.low.at);
  if (!isLithium(history.pack.chemistry))
    return [inspectionNeed(file, since, because), readingNeed(file, since, because)];
  const { floorMv: recoverableMv } = rules.recovery;
  if (rules.overDischarged === 'retire' || finding.low.mv <= recoverableMv)
    return [{ need: 'nothing-releases', because, met: false }];
  const begun = history.recoveries.findLast(({ step, at }) => step === 'begun' && at >= since);
  const ended = begun && endOf(history.recoveries, begun);
  if (ended && ended.how !== 'reached') return [{ need: 'nothing-releases', because, met: false }];
  const readFrom = ended ? ended.at + rules.recovery.restHours * HOUR_MS : null;
  const floorMv = rules.floors[history.pack.chemistry].overDischargeMv ?? 0;
  const read =
    readFrom !== null &&
    file.rested.some((one) => one.at >= readFrom && lowestCell(one).mv >= floorMv) &&
    lowestCell(file.rested.at(-1)!).mv >= floorMv;
  return [
    inspectionNeed(file, since, because),
    { need: 'recovery', because, met: ended !== undefined && read, readFrom },
  ];
}

/** When the newest of the records a finding rests on happened. */
function newestOf({ history }: CaseFile, { records }: Finding, otherwise: Instant): Instant {
  const times = timesOf(history);
  return Math.max(otherwise, ...records.map((id) => times.get(id) ?? 0));
}

/** Until when nobody goes near the pack for any of these findings, answered ones left out; 0 when nobody need keep off. */
export function watchedUntil(findings: readonly Finding[], { incidents }: HouseRules): Instant {
  const ends = findings.filter(speaksAgainstUse).map((finding) => {
    if (finding.rule === 'incident') return finding.watchUntil ?? 0;
    if (!RULE_FACTS[finding.rule].abnormalCharge || !('at' in finding)) return 0;
    return finding.at + incidents.overnightHours * HOUR_MS;
  });
  return Math.max(0, ...ends);
}

function watchNeed({ now }: CaseFile, until: Instant | null, because: RuleId): ReleaseNeed[] {
  return until === null ? [] : [{ need: 'watch-over', because, until, met: now >= until }];
}

function inspectionNeed(
  file: CaseFile,
  since: Instant,
  because: RuleId,
  afterCrash = false,
): ReleaseNeed & { need: 'inspection' } {
  const newest = file.history.inspections.findLast(
    ({ at, occasion }) =>
      at >= since && (afterCrash ? occasion === 'after-crash' : FULL_OCCASIONS.has(occasion)),
  );
  const found = newest ? (isSound(file, newest) ? 'sound' : 'faults') : 'none yet';
  return { need: 'inspection', because, since, afterCrash, found, met: found === 'sound' };
}

/** Nothing in it would hold the pack. */
export function isSound({ history, rules }: CaseFile, look: InspectionEvent): boolean {
  const holds = look.items.some(({ key, answer, failMeans }) => {
    const said = rules.checklists[look.occasion].find((item) => item.key === key)?.failMeans ?? failMeans;
    return answer === 'fail' && meaningOf(key, said) === 'hold';
  });
  const baseline = history.inspections.find(({ thicknessMm }) => thicknessMm !== null)?.thicknessMm ?? null;
  const grown =
    baseline !== null &&
    look.thicknessMm !== null &&
    thickerPercent(look.thicknessMm, baseline) >= rules.swelling.holdPercent;
  return !holds && !grown && (look.swelling === null || look.swelling === 'none');
}

/** A pack whose cells rest where they may be charged again. */
function readingNeed(file: CaseFile, since: Instant, because: RuleId): ReleaseNeed {
  const { chemistry } = file.history.pack;
  const { damageMv } = file.rules.floors[chemistry];
  const { plausibleMaxMv } = CHEMISTRY[chemistry];
  const met = file.rested.some(
    ({ at, cellsMv }) => at >= since && cellsMv.every((mv) => mv >= damageMv && mv <= plausibleMaxMv),
  );
  return { need: 'reading', because, since, met };
}
