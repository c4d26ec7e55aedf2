import { isLithium } from '../chemistry';
import { DAY_MS, HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { leakedPercent } from '../storage';
import { assess } from './assess';
import type { Assessment } from './assess';
import { caseFile } from './caseFile';
import { watchEnds } from './rules/incident';
import { longFull } from './rules/longFull';
import { notKnownAt } from './rules/notKnown';
import { rechargeSoon } from './rules/rechargeSoon';

/** What is said of a pack from a moment on, until the next segment begins, if nothing more is recorded. */
export interface Segment {
  readonly from: Instant;
  readonly assessment: Assessment;
}

/**
 * What will be said of a pack from a moment on, and when that changes if nothing more is recorded: a pack that lies untouched
 * leaves its band, stores itself, is due for a look, is not known any more. Lists pick the segment that holds; nothing is judged a
 * second time elsewhere. The first segment begins at `from`.
 */
export function timeline(history: PackHistory, rules: HouseRules, from: Instant): readonly Segment[] {
  const first = { from, assessment: assess(history, rules, from) };
  const later = [...new Set(changesAfter(history, rules, from, first.assessment))].sort((a, b) => a - b);
  return [first, ...later.map((at) => ({ from: at, assessment: assess(history, rules, at) }))];
}

/** A change of pace, and a loss on the shelf, are told for so long. */
const NEWS_DAYS = 120;
const YEAR_MS = 365.25 * DAY_MS;

/** The moments at which time alone may change what is said. Too many are harmless, one too few is a list that is wrong. */
function changesAfter(
  history: PackHistory,
  rules: HouseRules,
  from: Instant,
  { due, storage, findings }: Assessment,
): readonly Instant[] {
  const { pack, receivedAt, decisions, incidents } = history;
  const bledAt = 'bledAt' in storage ? storage.bledAt : null;
  const service = pack.inServiceAt ?? receivedAt;
  const candidates: (Instant | null)[] = [
    ...due.map(({ dueAt }) => dueAt),
    bledAt,
    notKnownAt(caseFile(history, rules, from)),
    receivedAt === null ? null : receivedAt + rules.returnDays * DAY_MS + 1,
    service === null ? null : service + rules.health.ageYears[pack.dutyClass] * YEAR_MS,
    ...decisions.map(({ what }) =>
      what.to === 'release' && typeof what.watch === 'object' ? what.watch.until : null,
    ),
    ...incidents.map((event) => watchEnds(event, rules)),
    ...findings.map((finding) => {
      if (finding.rule === 'wears-faster') return finding.since + NEWS_DAYS * DAY_MS + 1;
      return finding.rule === 'shelf-loss' ? finding.toAt + NEWS_DAYS * DAY_MS : null;
    }),
    ...findings.map((finding) =>
      'at' in finding ? finding.at + rules.incidents.overnightHours * HOUR_MS : null,
    ),
    ...lapses(history, rules, from, bledAt),
    ...flips(history, rules, from),
  ];
  return candidates.filter((at): at is Instant => at !== null && at > from);
}

/** When the storage state lapses, and when the charge falls under the house's line: looked for where each may first be so. */
function lapses(history: PackHistory, rules: HouseRules, from: Instant, bledAt: Instant | null) {
  const { storage, contents } = caseFile(history, rules, from);
  const found: Instant[] = [];
  const stateAt = (at: Instant) => caseFile(history, rules, at).storage.state;
  if (storage.state === 'in-band' || storage.state === 'pending' || bledAt !== null)
    found.push(firstChange(stateAt, Math.max(from, bledAt ?? from), HORIZON_MS));
  if (contents && isLithium(history.pack.chemistry)) {
    const line = rules.flight.chargedPercent;
    const charged = (at: Instant) =>
      String((caseFile(history, rules, at).contents?.lowest.percent ?? 0) >= line - 1e-9);
    const spare = contents.lowest.percent - line;
    const until = history.pack.smart?.autoStorage ? HORIZON_MS : (spare / leakedPercent(DAY_MS) + 1) * DAY_MS;
    if (spare > 0) found.push(firstChange(charged, from, until));
    // Carried from a charge it leaks down to its floor some day; a reading is told as it was read.
    const low = (at: Instant) => String(rechargeSoon(caseFile(history, rules, at)).length);
    if (contents.basis !== 'read' && contents.basis !== 'used')
      found.push(firstChange(low, from, HORIZON_MS));
  }
  return found;
}

/** When too long full begins or ends to be said: looked for by the week, then to the hour. */
function flips(history: PackHistory, rules: HouseRules, from: Instant): readonly Instant[] {
  const { contents, measured } = caseFile(history, rules, from);
  const said = (at: Instant) => String(longFull(caseFile(history, rules, at)).length > 0);
  const now = said(from);
  if (now === 'false' && (!contents || measured.carried.stretches.length === 0)) return [];
  if (now === 'false' && !('dueAt' in caseFile(history, rules, from).storage)) return [];
  const found: Instant[] = [];
  let before = now;
  for (let at = from + WEEK_MS; at <= from + HORIZON_MS; at += WEEK_MS) {
    const then = said(at);
    if (then !== before) found.push(firstChange(said, at - WEEK_MS, WEEK_MS));
    before = then;
  }
  return found;
}

const WEEK_MS = 7 * DAY_MS;
/** Nobody asks a register about longer than this without a record. */
const HORIZON_MS = 800 * DAY_MS;

/** The first moment, to the millisecond, at which an answer differs from that at the beginning; the end where it never does. */
function firstChange(answerAt: (at: Instant) => string, from: Instant, span: number): Instant {
  const before = answerAt(from);
  let [low, high] = [from, from + Math.ceil(span)];
  if (answerAt(high) === before) return high;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (answerAt(middle) === before) low = middle;
    else high = middle;
  }
  return high;
}
