import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { Forecast } from '../forecast';
import { KNEE_DAYS, kneeShare, paceDrift, pastLine, STEP_MEAN, STEP_SD } from './filter';
import type { Hypothesis, Wear } from './filter';
import { below, quantile } from './normal';

/** So many futures are walked, always the same ones: the same question has the same answer, and a page does not flicker. */
const DRAWS = 200;
const SHORT_STEPS = 18;
const SHORT_DAYS = 30;
const LONG_DAYS = 90;
/** Beyond five years no battery forecast is worth a date. */
const HORIZON_DAYS = 5 * 365;
const STEP_HAZARD = 1 / 2500;
/**
 * The shares of the futures between which a range lies, near at hand and {@link FAR_DAYS} ahead. It holds four times in five: tuned on
 * lives of many shapes by two scorings (docs/bench.md); tune again with any prior. Far ahead most packs last longer than their futures
 * say, since knees and steps that may come are among these: a range as wide as near at hand would hold nine times in ten.
 */
const EARLIEST = { near: 0.12, far: 0.23 };
const LATEST = { near: 0.915, far: 0.895 };
const FAR_DAYS = 180;
/** Where a knee may have begun, few values tell yet how steep it is: then the range begins earlier. */
const EARLIEST_IN_A_KNEE = 0.06;
const KNEE_SHARE = 0.08;
/** Crossings trail off to the late side: the likeliest lies a little before their median. */
const EXPECTED = 0.47;
/** So sure a crossing must be before it is called one. */
const SURE = 0.93;

/** The futures of a measure: at each moment walked to, the level of each draw. */
export interface Futures {
  readonly at: readonly Instant[];
  readonly levels: readonly Float64Array[];
}

/**
 * Walks the futures of a measure from its last value on: hypotheses by their weight, pace and level by their spread, knees and steps
 * that may come, pace that drifts. An old last value widens by itself, since the time since is walked too.
 * @param clock clock days from one moment to a later one, in the future too
 */
export function futuresOf(wear: Wear, clock: (from: Instant, to: Instant) => number): Futures {
  const { way, kneeHazard } = wear.prior;
  const moments: Instant[] = [wear.lastAt];
  for (let days = 0; days < HORIZON_DAYS;) {
    days += moments.length <= SHORT_STEPS ? SHORT_DAYS : LONG_DAYS;
    moments.push(wear.lastAt + days * DAY_MS);
  }
  const steps = moments.slice(1).map((at, i) => clock(moments[i]!, at));
  const levels = moments.map(() => new Float64Array(DRAWS));
  const drift = Math.sqrt(paceDrift(way));
  for (let draw = 0; draw < DRAWS; draw++) {
    const one = chosen(wear.hypotheses, (draw + 0.5) / DRAWS);
    let { level, pace } = begin(one, draw);
    let kneeIn = -Math.log(1 - spread(draw, 5)) / kneeHazard;
    let stepIn = -Math.log(1 - spread(draw, 7)) / STEP_HAZARD;
    const knee = Math.abs((way / KNEE_DAYS) * (1 + quantile(spread(draw, 11))));
    const step = Math.max(0, way * (STEP_MEAN + STEP_SD * quantile(spread(draw, 13))));
    levels[0]![draw] = level;
    for (let i = 0; i < steps.length; i++) {
      const days = steps[i]!;
      level += pace * days;
      if (kneeIn < days) {
        level += knee * (days - Math.max(0, kneeIn));
        pace += knee;
        kneeIn = Infinity;
      } else kneeIn -= days;
      if (stepIn < days) {
        level += step;
        stepIn = Infinity;
      } else stepIn -= days;
      pace = Math.max(0, pace + drift * Math.sqrt(days) * DRIFTS[(draw * 37 + i * 101) % DRIFTS.length]!);
      levels[i + 1]![draw] = level;
    }
  }
  return { at: moments, levels };
}

function chosen(hypotheses: readonly Hypothesis[], share: number): Hypothesis {
  let left = share;
  for (const one of hypotheses) {
    if (left < one.weight) return one;
    left -= one.weight;
  }
  return hypotheses.at(-1)!;
}

/** Pace and level of one draw: wear does not run backwards, so the pace is cut at nothing, and the level goes with it. */
function begin({ level, pace, ll, lp, pp }: Hypothesis, draw: number): { level: number; pace: number } {
  const sd = Math.sqrt(Math.max(pp, 1e-12));
  const least = below(-pace / sd);
  const drawn = pace + sd * quantile(least + (1 - least) * spread(draw, 2));
  const given = level + (lp / Math.max(pp, 1e-12)) * (drawn - pace);
  const left = Math.sqrt(Math.max(0, ll - (lp * lp) / Math.max(pp, 1e-12)));
  return { level: given + left * quantile(spread(draw, 3)), pace: Math.max(0, drawn) };
}

/** An evenly spread share for each draw and purpose: the radical inverse of the draw's number. */
function spread(index: number, base: number): number {
  let [share, unit, left] = [0, 1 / base, index + 1];
  while (left > 0) {
    share += (left % base) * unit;
    left = Math.floor(left / base);
    unit /= base;
  }
  return Math.min(1 - 1e-6, Math.max(1e-6, share));
}

/** How far a pace drifts in each step of each draw, standard normal; worked out once. */
const DRIFTS = Array.from({ length: 1009 }, (_, i) => quantile(spread(i, 17)));

/** When a measure passes a line, as far as its futures tell. */
export function crossingOf(wear: Wear, futures: Futures, line: number, now: Instant): Forecast {
  if (pastLine(wear, line, true) >= SURE) return { state: 'crossed', at: passedAt(wear, line) };
  const crossings = Array.from({ length: DRAWS }, (_, draw) => crossingIn(futures, draw, line));
  const all = crossings.map((at) => (at === null ? Infinity : Math.max(now, at))).sort((a, b) => a - b);
  const ahead = all.filter((at) => at > now);
  if (ahead.length === 0)
    return { state: 'range', earliest: now, expected: now, latest: now, alreadyShare: 1 };
  const of = (list: readonly number[], share: number) =>
    list[Math.min(list.length - 1, Math.floor(share * list.length))]!;
  const expected = of(ahead, EXPECTED);
  if (!Number.isFinite(expected)) return { state: 'not-in-sight' };
  const far = Math.min(1, (expected - now) / (FAR_DAYS * DAY_MS));
  const between = (share: { near: number; far: number }) => share.near + (share.far - share.near) * far;
  const latest = of(ahead, between(LATEST));
  return {
    state: 'range',
    earliest: of(all, kneeShare(wear) > KNEE_SHARE ? EARLIEST_IN_A_KNEE : between(EARLIEST)),
    expected,
    latest: Number.isFinite(latest) ? latest : null,
    alreadyShare: 1 - ahead.length / all.length,
  };
}

function crossingIn({ at, levels }: Futures, draw: number, line: number): Instant | null {
  if (levels[0]![draw]! >= line) return at[0]!;
  for (let i = 1; i < at.length; i++) {
    const level = levels[i]![draw]!;
    if (level < line) continue;
    const before = levels[i - 1]![draw]!;
    return at[i - 1]! + ((line - before) / (level - before)) * (at[i]! - at[i - 1]!);
  }
  return null;
}

/** In how many days a measure passes a line, one figure a future, rising; nought where it has by now, endless where not in five years. */
export function daysToLine(futures: Futures, line: number, now: Instant): Float64Array {
  return Float64Array.from({ length: DRAWS }, (_, draw) => {
    const at = crossingIn(futures, draw, line);
    return at === null ? Infinity : Math.max(0, (at - now) / DAY_MS);
  }).sort();
}

/** How likely a measure passes a line before a moment. */
export function passesBy(futures: Futures, line: number, until: Instant): number {
  let count = 0;
  for (let draw = 0; draw < DRAWS; draw++) {
    const at = crossingIn(futures, draw, line);
    if (at !== null && at <= until) count += 1;
  }
  return count / DRAWS;
}

/** When the believed level passed a line; the last value where it only just has. */
function passedAt({ path, lastAt }: Wear, line: number): Instant {
  for (let i = path.length - 1; i > 0; i--) {
    const [before, after] = [path[i - 1]!, path[i]!];
    if (before.level < line && after.level >= line)
      return before.at + ((line - before.level) / (after.level - before.level)) * (after.at - before.at);
  }
  return path[0] && path[0].level >= line ? path[0].at : lastAt;
}

/** The band a chart draws: at each moment the levels between which four futures in five lie, and the middle one. */
export function bandAt(
  futures: Futures,
): readonly { at: Instant; low: number; middle: number; high: number }[] {
  return futures.at.map((at, i) => {
    const sorted = [...futures.levels[i]!].sort((a, b) => a - b);
    const of = (share: number) => sorted[Math.floor(share * DRAWS)]!;
    return { at, low: of(0.1), middle: of(0.5), high: of(0.9) };
  });
}
