import { FULL_OCCASIONS } from '../inspection';
import { MINUTE_MS } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { DecisionEvent, PackHistory } from '../record';
import type { CaseFile } from './caseFile';
import type { Finding, RuleId } from './finding';
import { RULE_FACTS } from './ruleFacts';
import { timesOf } from './times';

type Release = DecisionEvent & { readonly what: Extract<DecisionEvent['what'], { to: 'release' }> };
type Answer = Release['what']['answers'][number];

/**
 * The findings with the weight that decisions leave them. A hold that was released weighs no more than the watch the
 * release asked for; an advice to retire that was answered "keep on caution" comes back when that day has passed. An answer
 * is a matter of evidence: a record, a cell or a figure the decision did not know of is new and holds again, and a release
 * whose own look or reading was taken back later answers nothing any more.
 */
export function answered({ history, now }: CaseFile, findings: readonly Finding[]): readonly Finding[] {
  const releases = releasesOf(history);
  if (releases.length === 0) return findings;
  return findings.map((finding) => {
    if (!speaksAgainstUse(finding)) return finding;
    const release = answerTo(history, releases, finding, now);
    if (!release) return finding;
    const { at, by, what } = release;
    const severity = isWatching(what.watch, now) ? 'watch' : 'note';
    return { ...finding, severity, answered: { at, by, watch: what.watch } };
  });
}

/**
 * Whether a finding takes a pack out of use by itself.
 * @example speaksAgainstUse({ severity: 'hold' }) // => true
 * @example speaksAgainstUse({ severity: 'watch' }) // => false
 */
export function speaksAgainstUse({ severity }: Pick<Finding, 'severity'>): boolean {
  return severity === 'hold' || severity === 'retire';
}

/**
 * What happened, parted into what no release has answered yet and what one has. Told together, the graver old event would
 * stand before a new one, and the answer to the old would cover both.
 * @param events anything that happened, each with the records that tell of it
 */
export function byAnswer<Event extends { readonly records: readonly RecordId[] }>(
  { history }: CaseFile,
  rule: RuleId,
  events: readonly Event[],
): { readonly fresh: readonly Event[]; readonly old: readonly Event[] } {
  const known = new Set(
    releasesOf(history).flatMap(({ what }) =>
      what.answers.filter((answer) => answer.rule === rule).flatMap(({ records }) => records),
    ),
  );
  if (known.size === 0) return { fresh: events, old: [] };
  const isKnown = ({ records }: Event) => records.every((id) => known.has(id));
  return { fresh: events.filter((one) => !isKnown(one)), old: events.filter(isKnown) };
}

function releasesOf({ decisions }: PackHistory): readonly Release[] {
  return decisions.filter((one): one is Release => one.what.to === 'release');
}

/** The latest release that answers a finding, if the releases together know everything it rests on. */
function answerTo(
  history: PackHistory,
  releases: readonly Release[],
  finding: Finding,
  now: Instant,
): Release | null {
  const about = releases.filter(({ what }) => what.answers.some(({ rule }) => rule === finding.rule));
  if (about.length === 0) return null;
  // A trend rests on the newest figures, which change with every reading: it is answered until its day, cell by cell.
  if (isTrend(finding)) {
    return (
      about.findLast(
        ({ what }) =>
          typeof what.watch === 'object' &&
          now < what.watch.until &&
          what.answers.some((answer) => answer.rule === finding.rule && isAbout(answer, finding)),
      ) ?? null
    );
  }
  const valid = about.filter((release) => stillStands(history, release, finding));
  const known = new Set(
    valid.flatMap(({ what }) =>
      what.answers.filter(({ rule }) => rule === finding.rule).flatMap(({ records }) => records),
    ),
  );
  if (!finding.records.every((id) => known.has(id))) return null;
  return (
    valid.findLast(({ what }) =>
      what.answers.some(
        ({ rule, records }) =>
          rule === finding.rule &&
          (finding.records.length === 0 || records.some((id) => finding.records.includes(id))),
      ),
    ) ?? null
  );
}

/**
 * Whether an advice to retire rests on how figures went over time rather than on what happened once.
 * @example isTrend({ rule: 'capacity', severity: 'retire' }) // => true
 * @example isTrend({ rule: 'capacity', severity: 'watch' }) // => false
 */
export function isTrend({ rule, severity }: Pick<Finding, 'rule' | 'severity'>): boolean {
  return severity === 'retire' && RULE_FACTS[rule].takesOut !== 'lasting';
}

/** What a trend is about: the cell, where it is about one, and how far that has gone by a figure that rises as it worsens. */
export function subjectOf(finding: Finding): { readonly cell: number | null; readonly value: number | null } {
  if (finding.rule === 'weak-cell') return { cell: finding.cell, value: finding.belowMv };
  if (finding.rule === 'spread') return { cell: finding.lowestCell, value: finding.mv };
  if (finding.rule === 'weakest-again') return { cell: finding.cell, value: finding.timesAgain };
  if (finding.rule === 'resistance-growth' || finding.rule === 'resistance-siblings')
    return { cell: finding.cell, value: finding.factor };
  if (finding.rule === 'capacity') return { cell: null, value: 100 - finding.percent };
  return { cell: null, value: finding.rule === 'run-time' ? finding.percent : null };
}

/** Half as much again as was answered is a new breach, not the noise of another reading. */
const WORSE = 1.5;

/** Whether an answer knew of this: the same cell, and not much worse by now. Older answers name neither and are taken at their word. */
function isAbout(answer: Answer, finding: Finding): boolean {
  const { cell, value } = subjectOf(finding);
  if (cell !== null && answer.cell !== null && answer.cell !== undefined && answer.cell !== cell)
    return false;
  if (value === null || answer.value === null || answer.value === undefined) return true;
  return value < answer.value * WORSE;
}

/**
 * Whether what a release rested on is still there: the look and the reading between what happened and the decision. Withdrawn
 * since, they take the release with them.
 */
function stillStands(history: PackHistory, release: Release, { rule }: Finding): boolean {
  const { takesOut, answeredByLook } = RULE_FACTS[rule];
  if (takesOut !== 'event' && !answeredByLook) return true;
  const happened = new Set(
    release.what.answers.filter((answer) => answer.rule === rule).flatMap(({ records }) => records),
  );
  const times = timesOf(history);
  const since = Math.max(0, ...[...happened].map((id) => times.get(id) ?? 0));
  const between = ({ at, records }: { readonly at: Instant; readonly records: readonly RecordId[] }) =>
    at >= since && at <= release.at + CLOCK_SLACK_MS && !records.some((id) => happened.has(id));
  const { inspections, readings } = history;
  return (
    inspections.some((look) => FULL_OCCASIONS.has(look.occasion) && between(look)) &&
    readings.some((reading) => reading.condition === 'rested' && between(reading))
  );
}

/** Two clocks of one club may be this far apart. */
const CLOCK_SLACK_MS = 2 * MINUTE_MS;

function isWatching(watch: Release['what']['watch'], now: Instant): boolean {
  if (watch === 'for-good') return true;
  return watch !== 'none' && now < watch.until;
}
