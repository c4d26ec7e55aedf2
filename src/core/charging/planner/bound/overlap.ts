import { SWAP_MINUTES } from '../problem';
import type { Problem } from '../problem';
import { stationCounts } from './kinds';
import type { Kind, Share } from './kinds';
import type { Programme } from './programme';

/** Moments of a window between which is asked what must lie there. */
const CUTS = 10;

/**
 * What lies between two moments wherever in its window a job is put: a job that is longer than half its window is at work in the middle of it,
 * and all such jobs together need the channels, boards and pools for that. Work and draws are least either at the
 * earliest start or at the latest, since a draw never rises.
 */
export function overlapRows(
  programme: Programme,
  problem: Problem,
  kinds: readonly Kind[],
  shares: readonly Share[],
): void {
  for (const [window, { from, to }] of problem.windows.entries()) {
    const here = shares
      .filter((one) => one.window === window)
      .map((share) => {
        const { like, latestEnd } = kinds[share.kind]!;
        return {
          ...share,
          earliest: Math.max(from, like.release),
          latest: Math.min(to, latestEnd) - share.mode.minutes,
        };
      });
    const cuts = Array.from({ length: CUTS + 1 }, (_, i) => Math.round(from + ((to - from) * i) / CUTS));
    const spans = cuts.flatMap((start, i) => cuts.slice(i + 1).map((end) => ({ start, end })));
    const row = (of: readonly Spread[], cap: number, { start, end }: { start: number; end: number }) => {
      const terms = of.flatMap(({ name, most, earliest, latest, before }) => {
        const within = (at: number) => upTo(before, end - at) - upTo(before, start - at);
        const least = Math.min(within(earliest), within(latest));
        return least > 1e-9 ? [{ name, most, least }] : [];
      });
      const room = cap * (end - start);
      // Most of them say nothing.
      if (terms.reduce((all, { most, least }) => all + most * least, 0) <= room) return;
      programme.row(
        terms.map(({ name, least }) => [name, least]),
        '<=',
        room,
      );
    };
    const rows = (of: readonly Spread[], cap: number) => {
      for (const span of spans) row(of, cap, span);
    };
    const busy = (of: typeof here) =>
      of.map((share) => ({
        ...share,
        before: runningSum(new Float64Array(share.mode.minutes + SWAP_MINUTES).fill(1)),
      }));
    for (const [klass, stations] of stationCounts(problem))
      rows(busy(here.filter(({ mode }) => mode.klass === klass)), stations);
    for (let board = 0; board < problem.boards; board++)
      rows(busy(here.filter(({ mode }) => mode.board === board)), 1);
    for (const pool of problem.pools.keys()) {
      for (const press of pressesOf(problem, pool)) {
        const drawn = here.flatMap((share) => {
          const draw = share.mode.draws.find((one) => one.pool === pool);
          return draw ? [{ ...share, before: runningSum(press(draw.perMinute)) }] : [];
        });
        rows(drawn, 1);
      }
    }
  }
}

/** A share with the running sum of what it takes, minute by minute from its start. */
interface Spread {
  readonly name: string;
  readonly most: number;
  readonly earliest: number;
  readonly latest: number;
  readonly before: Float64Array;
}

function runningSum(values: Float64Array): Float64Array {
  const sums = new Float64Array(values.length + 1);
  for (const [i, value] of values.entries()) sums[i + 1] = sums[i]! + value;
  return sums;
}

function upTo(sums: Float64Array, minutes: number): number {
  return sums[Math.max(0, Math.min(sums.length - 1, minutes))]!;
}

/**
 * Functions of a pool's share under which what fits into the pool still fits, applied minute by minute. Beside the share itself: steps
 * floor((k + 1) x) ÷ k, by which jobs that take more than half run one after the other; and for a share e that occurs, all of the pool for
 * what leaves no room beside it for an e, and nothing for what is smaller than e.
 */
export function pressesOf(
  problem: Problem,
  pool: number,
): readonly ((perMinute: Float64Array) => Float64Array)[] {
  const { cap } = problem.pools[pool]!;
  const peaks = problem.tasks.flatMap(({ modes }) =>
    modes.flatMap(({ draws }) =>
      draws.flatMap((draw) => (draw.pool === pool ? [draw.perMinute[0]! / cap] : [])),
    ),
  );
  const narrow = [...new Set(peaks.filter((peak) => peak > 0.1 && peak <= 0.5))]
    .filter((peak) => peaks.some((other) => other > 1 - peak + HAIR))
    .sort((a, b) => b - a)
    .slice(0, NARROWS);
  return [
    (perMinute) => perMinute.map((watts) => watts / cap),
    ...[1, 2, 3].map(
      (parts) => (perMinute: Float64Array) => perMinute.map((watts) => step(watts / cap, parts)),
    ),
    ...narrow.map(
      (least) => (perMinute: Float64Array) =>
        perMinute.map((watts) => {
          const x = watts / cap;
          if (x > 1 - least + HAIR) return 1;
          return x < least - HAIR ? 0 : x;
        }),
    ),
  ];
}

/** So many shares are asked about, the widest first. */
const NARROWS = 3;
const HAIR = 1e-9;

function step(share: number, parts: number): number {
  const x = Math.min(1, share);
  const whole = (parts + 1) * x;
  return Math.abs(whole - Math.round(whole)) < HAIR ? x : Math.floor(whole) / parts;
}
