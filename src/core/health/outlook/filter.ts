import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import { below } from './normal';

/**
 * How far a measure has worn, followed value by value by a multi-process Kalman filter (Harrison and Stevens 1976): a list of
 * hypotheses about its true level and pace, among them that a knee or a step has just begun. It bends where wear bends, is not
 * moved by one wild value, and knows how little it knows.
 */

/** One value of wear, turned so that it rises: percent lost, or percent of resistance gained. */
export interface WearValue {
  readonly at: Instant;
  readonly value: number;
  /** The variance of its noise, in the value's own unit squared. */
  readonly noise: number;
}

/** What a measure is like: where its watch line lies and what is taken of a pack of which nothing is known. */
export interface WearPrior {
  /** The way from new to the watch line, in the value's unit; every prior is told in it. */
  readonly way: number;
  readonly startMean: number;
  readonly startSd: number;
  /** The error all values share, because their baseline or instrument is off; it never averages out. */
  readonly sharedSd: number;
  /** Whether the shared error grows with the value (a baseline's relative error) or is the same everywhere. */
  readonly sharedScales: boolean;
  /** Pace in ways a day, and how far it differs among packs: siblings may have told. */
  readonly pace: { readonly mean: number; readonly sd: number };
  /** Knees a clock day; siblings may have told. */
  readonly kneeHazard: number;
}

/** A guess about level, pace and shared error, with how sure each is. */
export interface Hypothesis {
  readonly weight: number;
  readonly level: number;
  readonly pace: number;
  readonly shared: number;
  /** Covariances: level-level, level-pace, level-shared, pace-pace, pace-shared, shared-shared. */
  readonly ll: number;
  readonly lp: number;
  readonly ls: number;
  readonly pp: number;
  readonly ps: number;
  readonly ss: number;
  /** The newest change of course it believes in, and how many values it has seen since; null for none. */
  readonly change: { readonly at: Instant; readonly how: 'knee' | 'step'; readonly seen: number } | null;
}

/** What is believed after the last value, and the path that led there. */
export interface Wear {
  readonly prior: WearPrior;
  readonly hypotheses: readonly Hypothesis[];
  readonly lastAt: Instant;
  readonly count: number;
  /** The mean level after each value. */
  readonly path: readonly { readonly at: Instant; readonly level: number }[];
  /** How well the values were foretold, as the logarithm of their likelihood. */
  readonly likelihood: number;
}

/** Of all packs this pace is usual: the watch line after about two years. */
export const USUAL_DAYS = 770;
const KEPT = 10;
/** One value in twenty-five is wild; one in two hundred says nothing at all, mistyped or of another pack. */
const WILD_SHARE = 0.04;
const WILD_VARIANCE = 20;
const ABSURD_SHARE = 0.005;
const ABSURD_VARIANCE = 900;
/** A knee adds about this pace: the whole way again in 220 days. */
export const KNEE_DAYS = 220;
/** Wear eases about this often, by this share of its pace, give or take: cells settle, winters pass. */
const EASE_DAYS = 900;
const EASED = 0.5;
const EASE_SD = 0.6;
export const STEP_MEAN = 0.3;
export const STEP_SD = 0.25;

/** How a pace drifts by itself, variance a clock day, in ways. */
export function paceDrift(way: number): number {
  return ((0.4 * way) / 800) ** 2 / 365;
}

/** What is taken of a pack that is new. */
function asNew(prior: WearPrior): Hypothesis {
  return {
    weight: 1,
    level: prior.startMean,
    pace: prior.pace.mean * prior.way,
    shared: 0,
    ll: prior.startSd ** 2,
    lp: 0,
    ls: 0,
    pp: (prior.pace.sd * prior.way) ** 2,
    ps: 0,
    ss: prior.sharedSd ** 2,
    change: null,
  };
}

/** A pack of which nothing was measured since it was new. */
export function unworn(prior: WearPrior, at: Instant): Wear {
  return { prior, hypotheses: [asNew(prior)], lastAt: at, count: 0, path: [], likelihood: 0 };
}

/**
 * Follows a measure through its values.
 * @param values in the order they were taken, at least one
 * @param clock clock days from the first moment to the second: time without use ages less
 */
export function followWear(
  values: readonly WearValue[],
  prior: WearPrior,
  clock: (from: Instant, to: Instant) => number,
): Wear | null {
  const first = values[0];
  if (!first) return null;
  let hypotheses: Hypothesis[] = [asNew(prior)];
  const path: { at: Instant; level: number }[] = [];
  let lastAt = first.at;
  let likelihood = 0;
  for (const one of values) {
    const days = one === first ? 0 : clock(lastAt, one.at);
    if (days > 0) hypotheses = branched(hypotheses, days, lastAt, one.at, prior);
    const updated = hypotheses.map((hypothesis) => withValue(hypothesis, one, prior));
    const total = updated.reduce((sum, { weight }) => sum + weight, 0);
    likelihood += Math.log(Math.max(total, 1e-300));
    const heaviest = updated.sort((a, b) => b.weight - a.weight).slice(0, KEPT);
    const shareOf = ({ weight }: Hypothesis) => weight / Math.max(total, 1e-300);
    const kept = heaviest.reduce((sum, one) => sum + shareOf(one), 0);
    hypotheses = heaviest.map((one) => weighing(one, shareOf(one) / kept));
    path.push({ at: one.at, level: meanLevel(hypotheses) });
    lastAt = one.at;
  }
  return { prior, hypotheses, lastAt, count: values.length, path, likelihood };
}

/** Every hypothesis goes on; and of all of them together a knee, a step or an easing may have begun in the gap. Easing is no news. */
function branched(
  before: readonly Hypothesis[],
  days: number,
  from: Instant,
  to: Instant,
  { way, kneeHazard }: WearPrior,
): Hypothesis[] {
  const kneeShare = Math.min(0.3, days * Math.max(1 / 600, kneeHazard));
  const stepShare = Math.min(0.3, days / 1200);
  const easeShare = Math.min(0.2, days / EASE_DAYS);
  const gone = before.map((hypothesis) => goneOn(hypothesis, days, way));
  const merged = mergedOf(gone);
  const middle = from + (to - from) / 2;
  const knee = way / KNEE_DAYS;
  const eased = EASED * Math.max(0, merged.pace);
  const { level, pace, shared, ll, lp, ls, pp, ps, ss } = merged;
  const hypotheses = gone.map((one) => weighing(one, one.weight * (1 - kneeShare - stepShare - easeShare)));
  hypotheses.push(
    atAnotherPace(merged, knee, knee, days, {
      weight: kneeShare,
      change: { at: middle, how: 'knee', seen: 0 },
    }),
    atAnotherPace(merged, -eased, EASE_SD * eased, days, { weight: easeShare, change: null }),
    {
      weight: stepShare,
      level: level + STEP_MEAN * way,
      pace,
      shared,
      ll: ll + (STEP_SD * way) ** 2,
      lp,
      ls,
      pp,
      ps,
      ss,
      change: { at: middle, how: 'step', seen: 0 },
    },
  );
  return hypotheses;
}

// Written out rather than spread: a filter goes through some ten thousand of them for a pack, and spreading took half of its time.

function weighing(one: Hypothesis, weight: number): Hypothesis {
  const { level, pace, shared, ll, lp, ls, pp, ps, ss, change } = one;
  return { weight, level, pace, shared, ll, lp, ls, pp, ps, ss, change };
}

/** A hypothesis whose pace changed in the middle of the gap, by about so much. */
function atAnotherPace(
  { level, pace, shared, ll, lp, ls, pp, ps, ss }: Hypothesis,
  by: number,
  sd: number,
  days: number,
  { weight, change }: Pick<Hypothesis, 'weight' | 'change'>,
): Hypothesis {
  return {
    weight,
    level: level + (by * days) / 2,
    pace: pace + by,
    shared,
    ll: ll + (sd ** 2 * days ** 2) / 4,
    lp: lp + (sd ** 2 * days) / 2,
    ls,
    pp: pp + sd ** 2,
    ps,
    ss,
    change,
  };
}

/** A hypothesis after so many clock days without a value. */
function goneOn(one: Hypothesis, days: number, way: number): Hypothesis {
  const q = paceDrift(way);
  const { weight, level, pace, shared, ll, lp, ls, pp, ps, ss, change } = one;
  return {
    weight,
    level: level + pace * days,
    pace,
    shared,
    ll: ll + 2 * days * lp + days ** 2 * pp + (q * days ** 3) / 3,
    lp: lp + days * pp + (q * days ** 2) / 2,
    ls: ls + days * ps,
    pp: pp + q * days,
    ps,
    ss,
    change,
  };
}

/** One hypothesis with the mean and spread of all. */
function mergedOf(list: readonly Hypothesis[]): Hypothesis {
  let [total, level, pace, shared] = [0, 0, 0, 0];
  for (const one of list) {
    total += one.weight;
    level += one.weight * one.level;
    pace += one.weight * one.pace;
    shared += one.weight * one.shared;
  }
  level /= total;
  pace /= total;
  shared /= total;
  let [ll, lp, ls, pp, ps, ss] = [0, 0, 0, 0, 0, 0];
  for (const one of list) {
    const [l, p, s] = [one.level - level, one.pace - pace, one.shared - shared];
    ll += one.weight * (one.ll + l ** 2);
    lp += one.weight * (one.lp + l * p);
    ls += one.weight * (one.ls + l * s);
    pp += one.weight * (one.pp + p ** 2);
    ps += one.weight * (one.ps + p * s);
    ss += one.weight * (one.ss + s ** 2);
  }
  return {
    weight: 1,
    level,
    pace,
    shared,
    ll: ll / total,
    lp: lp / total,
    ls: ls / total,
    pp: pp / total,
    ps: ps / total,
    ss: ss / total,
    change: null,
  };
}

/** A hypothesis after a value: heavier the better it foretold that value. Its noise is a mixture, so that a wild one moves little. */
function withValue(one: Hypothesis, { value, noise }: WearValue, prior: WearPrior): Hypothesis {
  // The value is level plus shared error, the latter perhaps growing with the level.
  const h = prior.sharedScales ? 100 + one.level : 1;
  const hl = prior.sharedScales ? 1 + one.shared : 1;
  const expected = one.level + h * one.shared;
  const gl = one.ll * hl + one.ls * h;
  const gp = one.lp * hl + one.ps * h;
  const gs = one.ls * hl + one.ss * h;
  const spread = hl * gl + h * gs;
  const off = value - expected;
  const ordinary = (1 - WILD_SHARE - ABSURD_SHARE) * density(off, spread + noise);
  const wild = WILD_SHARE * density(off, spread + WILD_VARIANCE * noise);
  const absurd = ABSURD_SHARE * density(off, spread + ABSURD_VARIANCE * noise);
  const likelihood = Math.max(ordinary + wild + absurd, 1e-300);
  const precision = (ordinary + wild / WILD_VARIANCE + absurd / ABSURD_VARIANCE) / likelihood;
  const s = spread + noise / Math.max(precision, 1 / ABSURD_VARIANCE);
  return {
    weight: one.weight * likelihood,
    level: one.level + (gl / s) * off,
    pace: one.pace + (gp / s) * off,
    shared: one.shared + (gs / s) * off,
    ll: one.ll - (gl * gl) / s,
    lp: one.lp - (gl * gp) / s,
    ls: one.ls - (gl * gs) / s,
    pp: one.pp - (gp * gp) / s,
    ps: one.ps - (gp * gs) / s,
    ss: one.ss - (gs * gs) / s,
    change: one.change && { ...one.change, seen: one.change.seen + 1 },
  };
}

function density(off: number, variance: number): number {
  return Math.exp((-off * off) / (2 * variance)) / Math.sqrt(2 * Math.PI * variance);
}

function meanLevel(hypotheses: readonly Hypothesis[]): number {
  return hypotheses.reduce((sum, { weight, level }) => sum + weight * level, 0);
}

/** So many values a change of course must have seen before anybody is condemned by it. Source: the practice: three that agree. */
const AGREEING = 3;

/**
 * How likely the true level is past a line after the last value.
 * @param settled only by hypotheses whose newest change at least three values agree on: two bad values in a row read as a step
 */
export function pastLine({ hypotheses }: Wear, line: number, settled: boolean): number {
  const heard = settled
    ? hypotheses.filter(({ change }) => change === null || change.seen >= AGREEING)
    : hypotheses;
  const total = heard.reduce((sum, { weight }) => sum + weight, 0);
  if (total < 1e-9) return 0;
  const past = heard.reduce(
    (sum, { weight, level, ll }) => sum + weight * below((level - line) / Math.sqrt(Math.max(ll, 1e-9))),
    0,
  );
  return past / total;
}

/** How likely it is that a knee has begun, as a share. */
export function kneeShare({ hypotheses }: Wear): number {
  return hypotheses.reduce((sum, { change, weight }) => (change?.how === 'knee' ? sum + weight : sum), 0);
}

/** The change of course most of the weight believes in, if it is younger than so many days; null when there is none. */
export function recentChange(
  { hypotheses, lastAt }: Wear,
  withinDays: number,
): {
  readonly at: Instant;
  readonly how: 'knee' | 'step';
  readonly seen: number;
  readonly share: number;
} | null {
  const young = hypotheses.filter(({ change }) => change && lastAt - change.at <= withinDays * DAY_MS);
  const heaviest = [...young].sort((a, b) => b.weight - a.weight)[0]?.change;
  if (!heaviest) return null;
  const share = young.reduce((sum, { weight }) => sum + weight, 0);
  return { ...heaviest, share };
}
