import { assess, awaitsDecision, isTrend, speaksAgainstUse, subjectOf } from '../assess';
import type { Assessment, Finding, ReleaseNeed } from '../assess';
import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import { fold } from '../record';
import type { AnsweredFinding, RecordDraft, WatchAfter } from '../record';
import type { AtTheGate } from './admit';
import { CLOCK_SLACK_MS } from './clockSlack';

export type DecisionRefusal =
  | { readonly code: 'not-in-service'; readonly field: string }
  | { readonly code: 'nothing-to-release'; readonly field: string }
  /** What the decision answers is not what speaks against the pack now. */
  | { readonly code: 'answers-other'; readonly field: string }
  | { readonly code: 'release-lacks'; readonly field: string; readonly needs: readonly ReleaseNeed[] }
  | {
      readonly code: 'watch-wanted';
      readonly field: string;
      readonly which: 'a-day' | 'for-good' | 'some' | 'future' | 'sooner';
    }
  | { readonly code: 'names-other'; readonly field: string; readonly secondWanted: boolean }
  | { readonly code: 'no-second-wanted'; readonly field: string }
  | { readonly code: 'same-person'; readonly field: string }
  | { readonly code: 'before-last-record'; readonly field: string; readonly lastAt: Instant };

/** A watch longer than this is a watch for good. */
const LONGEST_WATCH_MS = 2 * 366 * DAY_MS;

/** Whether a person may decide this now. The evidence is looked for in the records, not taken from the request. */
export function refusedDecision(
  asked: AtTheGate<Extract<RecordDraft, { kind: 'decision' }>>,
): readonly DecisionRefusal[] {
  const { pack, records, draft, now, circumstances } = asked;
  const { what } = draft.payload;
  const history = fold(pack, records);
  const late = beforeLast(draft.at, history.lastRecordAt);
  if (late.length > 0) return late;
  if (history.life.state !== 'in-service') return [{ code: 'not-in-service', field: 'payload.what' }];
  switch (what.to) {
    case 'hold':
      return [];
    case 'retire': {
      const secondWanted = circumstances.rules.retirementNames === 2;
      return what.secondWanted === secondWanted
        ? []
        : [{ code: 'names-other', field: 'payload.what.secondWanted', secondWanted }];
    }
    case 'release': {
      const assessment = assess(history, circumstances.rules, now);
      return refusedRelease(assessment, what, now);
    }
    default:
      return what satisfies never;
  }
}

function refusedRelease(
  { verdict, findings, needs }: Assessment,
  { answers, watch }: { readonly answers: readonly AnsweredFinding[]; readonly watch: WatchAfter },
  now: Instant,
): DecisionRefusal[] {
  if (!awaitsDecision(verdict)) return [{ code: 'nothing-to-release', field: 'payload.what' }];
  const lacking = needs.filter(({ met }) => !met);
  if (lacking.length > 0) return [{ code: 'release-lacks', field: 'payload.what', needs: lacking }];
  const held = findings.filter(speaksAgainstUse);
  if (!sameAnswers(answers, answersTo(findings)))
    return [{ code: 'answers-other', field: 'payload.what.answers' }];
  const which = watchLacking(held, watch, now);
  return which ? [{ code: 'watch-wanted', field: 'payload.what.watch', which }] : [];
}

/** What a release of a pack answers: everything that keeps it out of use, with the records each rests on. */
export function answersTo(findings: readonly Finding[]): readonly AnsweredFinding[] {
  return findings.filter(speaksAgainstUse).map((finding) => {
    const { rule, records } = finding;
    return isTrend(finding) ? { rule, records, ...subjectOf(finding) } : { rule, records };
  });
}

function sameAnswers(given: readonly AnsweredFinding[], wanted: readonly AnsweredFinding[]): boolean {
  const key = ({ rule, records, cell, value }: AnsweredFinding) =>
    `${rule}:${cell ?? ''}:${value ?? ''}:${[...records].sort().join(',')}`;
  return given.map(key).sort().join('\n') === wanted.map(key).sort().join('\n');
}

/**
 * A recovered pack is watched for life, a crashed one for some time, and an advice to retire is put off to a day. Source:
 * the practice; which day is the custodian's.
 */
export function watchWanted(findings: readonly Finding[]): 'a-day' | 'for-good' | 'some' | null {
  const held = findings.filter(speaksAgainstUse);
  if (held.some(({ rule }) => rule === 'over-discharged')) return 'for-good';
  if (held.some(isTrend)) return 'a-day';
  return held.some((finding) => finding.rule === 'incident' && finding.kind === 'crash') ? 'some' : null;
}

function watchLacking(held: readonly Finding[], watch: WatchAfter, now: Instant) {
  if (typeof watch === 'object' && watch.until <= now) return 'future';
  if (typeof watch === 'object' && watch.until > now + LONGEST_WATCH_MS) return 'sooner';
  const wanted = watchWanted(held);
  switch (wanted) {
    case null:
      return null;
    case 'some':
      return watch === 'none' ? 'some' : null;
    case 'for-good':
      return watch === 'for-good' ? null : 'for-good';
    case 'a-day':
      return typeof watch === 'object' ? null : 'a-day';
    default:
      return wanted satisfies never;
  }
}

/** The second name comes from another person, under the retirement that waits for one. */
export function refusedConfirmation({
  pack,
  records,
  draft,
  actor,
}: AtTheGate<Extract<RecordDraft, { kind: 'confirmation' }>>): readonly DecisionRefusal[] {
  const { life, lastRecordAt } = fold(pack, records);
  if (life.state !== 'retiring' || life.decisionId !== draft.payload.decisionId)
    return [{ code: 'no-second-wanted', field: 'payload.decisionId' }];
  if (life.decidedBy === actor.id) return [{ code: 'same-person', field: 'payload.decisionId' }];
  return beforeLast(draft.at, lastRecordAt);
}

/** A decision knows all that is recorded, so it cannot be dated before it. */
function beforeLast(at: Instant, lastAt: Instant | null): DecisionRefusal[] {
  return lastAt !== null && at < lastAt - CLOCK_SLACK_MS
    ? [{ code: 'before-last-record', field: 'at', lastAt }]
    : [];
}
