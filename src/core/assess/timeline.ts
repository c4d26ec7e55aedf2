import { isLithium } from '../chemistry';
import { measure } from '../health';
import { DAY_MS, HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { contentsMv, fullTimeBetween, storageChanges } from '../storage';
import type { Carried } from '../storage';
import { assess } from './assess';
import type { Assessment } from './assess';
import { caseFile } from './caseFile';
import type { CaseFile } from './caseFile';
import { chargedBy } from './charged';
import { watchEnds } from './rules/incident';
import { inspectionDueAt } from './rules/inspectionDue';
import { fullDays } from './rules/longFull';
import { notKnownAt } from './rules/notKnown';

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
  { due, findings }: Assessment,
): readonly Instant[] {
  const { pack, receivedAt, decisions, incidents } = history;
  const file = caseFile(history, rules, from);
  const service = pack.inServiceAt ?? receivedAt;
  const candidates: (Instant | null)[] = [
    ...due.map(({ dueAt }) => dueAt),
    // No task where a season's start covers it, and yet a sentence.
    inspectionDueAt(file),
    notKnownAt(file),
    receivedAt === null ? null : receivedAt + rules.returnDays * DAY_MS + 1,
    service === null ? null : service + rules.health.ageYears[pack.dutyClass] * YEAR_MS,
    ...decisions.map(({ what }) =>
      what.to === 'release' && typeof what.watch === 'object' ? what.watch.until : null,
    ),
    ...incidents.map((event) => watchEnds(event, rules)),
    ...findings.map((finding) => {
      if (finding.rule === 'wears-faster') return finding.lastAt + NEWS_DAYS * DAY_MS + 1;
      return finding.rule === 'shelf-loss' ? finding.toAt + NEWS_DAYS * DAY_MS : null;
    }),
    ...findings.map((finding) =>
      'at' in finding ? finding.at + rules.incidents.overnightHours * HOUR_MS : null,
    ),
    ...storageChanges(pack, file.measured.evidence, rules),
    ...fallings(file, from),
    ...flips(file, from),
  ];
  return candidates.filter((at): at is Instant => at !== null && at > from);
}

/**
 * When the charge falls under the house's line for a flight, or what a charge left under the recharge-soon floor: each is a point on
 * a falling line, looked for where the line is known to fall.
 */
function fallings(file: CaseFile, from: Instant): readonly Instant[] {
  const { history, rules, contents } = file;
  const { pack } = history;
  const { chemistry } = pack;
  if (!contents || !isLithium(chemistry)) return [];
  const at = (moment: Instant) => carriedTo(file, moment).contents;
  const found: Instant[] = [];
  const charged = (moment: Instant) => chargedBy(at(moment), rules);
  // Charged, then to be charged first; and of a use counted long ago nobody knows at last.
  const first = firstChange(charged, from, HORIZON_MS);
  found.push(first, firstChange(charged, first, HORIZON_MS));
  if (contents.basis === 'read' || contents.basis === 'used') {
    // A smart pack's reading turns into what it bled itself down to.
    if (!pack.smart?.autoStorage) return found;
  }
  const { rechargeSoonMv } = rules.floors[chemistry];
  const low = (moment: Instant) => {
    const then = at(moment);
    return String(then !== null && Math.min(...contentsMv(chemistry, then)) < rechargeSoonMv);
  };
  found.push(firstChange(low, from, HORIZON_MS));
  return found;
}

/** When too long full begins or ends to be said: looked for by the week, then to the millisecond. */
function flips(file: CaseFile, from: Instant): readonly Instant[] {
  const { history, rules } = file;
  const { pack } = history;
  if (!isLithium(pack.chemistry) || pack.fieldPack) return [];
  const ahead = carriedTo(file, from + HORIZON_MS);
  const limit = rules.health.fullDaysAYear;
  // Too little in all that time is too little in every year of it.
  if (fullTimeBetween(history, ahead, rules, from - YEAR_MS, from + HORIZON_MS).days < limit * SURE)
    return [];
  const said = (at: Instant) => String(fullDays(history, ahead, rules, at).days >= limit);
  const found: Instant[] = [];
  let before = said(from);
  for (let at = from + WEEK_MS; at <= from + HORIZON_MS; at += WEEK_MS) {
    const then = said(at);
    if (then !== before) found.push(firstChange(said, at - WEEK_MS, WEEK_MS));
    before = then;
  }
  return found;
}

/** The pack carried to a moment, if nothing more happens. */
function carriedTo({ history, rules, rested, measured, now }: CaseFile, moment: Instant): Carried {
  // What a clock ahead of ours dated later than the moment judged was not carried yet.
  const isWhole = (measured.evidence.at(-1)?.at ?? now) <= now;
  const carried = isWhole ? measured.carried.until(moment) : null;
  return carried ?? measure(history, rested, rules, moment).carried;
}

/** Sums of parts differ in their last digits. */
const SURE = 0.999;
const WEEK_MS = 7 * DAY_MS;
/** In this time the fullest pack has leaked empty, and nothing more comes by itself. */
const HORIZON_MS = 1_100 * DAY_MS;

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
