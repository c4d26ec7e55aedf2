import { horizonOf, isLate, SWAP_MINUTES } from '../problem';
import type { Mode, Problem } from '../problem';
import { area, kindsOf, quickest, serveAll, sharesFor, stationCounts, sum } from './kinds';
import type { Kind, Share } from './kinds';
import { overlapRows, pressesOf } from './overlap';
import { Programme } from './programme';
import type { Jobs } from './programme';

/** Minutes at full if every pack had the bench for itself. */
export function closedFull({ tasks, windows }: Problem): number {
  let minutes = 0;
  const groups = tasks.filter(({ replaces }) => replaces.length > 0);
  if (groups.length > 0) return 0;
  for (const task of tasks) {
    if (!isLate(task) || task.modes.length === 0) continue;
    const latest = Math.max(
      ...windows.map(({ from, to }) => {
        const end = Math.min(to, task.ready);
        return end - quickest(task) >= Math.max(from, task.release) ? end : -Infinity;
      }),
    );
    if (latest > -Infinity) minutes += (task.flight - latest) * task.packs;
  }
  return minutes;
}

/** A programme with its shares: each task is served once, whole within one window, and channels and boards have the time for it. */
function dealt(
  problem: Problem,
  kinds: readonly Kind[],
  how: Jobs,
): { programme: Programme; shares: readonly Share[]; ends: (window: number) => number } {
  const programme = new Programme('Maximize');
  const lastReady = Math.max(...problem.tasks.filter(isLate).map(({ ready }) => ready));
  const shares = sharesFor(programme, problem, kinds, how);
  serveAll(programme, kinds, shares, true);
  overlapRows(programme, problem, kinds, shares);
  let flightSum = 0;
  for (const { like, tasks, takes } of kinds)
    if (isLate(like) && takes.size === 0) flightSum += like.flight * like.packs * tasks.length;
  programme.constant(-flightSum);
  for (const [window, { from, to }] of problem.windows.entries()) {
    const here = shares.filter((one) => one.window === window);
    const work = (of: readonly Share[]) =>
      of.map(({ name, mode }): [string, number] => [name, mode.minutes + SWAP_MINUTES]);
    for (const [klass, stations] of stationCounts(problem)) {
      const most = stations * (to - from + SWAP_MINUTES);
      programme.row(work(here.filter(({ mode }) => mode.klass === klass)), '<=', most);
    }
    for (let board = 0; board < problem.boards; board++) {
      programme.row(work(here.filter(({ mode }) => mode.board === board)), '<=', to - from + SWAP_MINUTES);
    }
    for (const pool of problem.pools.keys()) {
      for (const press of pressesOf(problem, pool)) {
        programme.row(
          here.flatMap(({ name, mode }) =>
            mode.draws
              .filter((draw) => draw.pool === pool)
              .map((draw): [string, number] => [name, sum(press(draw.perMinute))]),
          ),
          '<=',
          to - from,
        );
      }
    }
  }
  return { programme, shares, ends: (window) => Math.min(problem.windows[window]!.to, lastReady) };
}

/** Places on a channel beyond as many as there is room for jobs like it: after quicker ones a job can be later in the row. */
const FURTHER_PLACES = 3;

/**
 * Terms that add up to the latest sum of all ends: a job before which r − 1 others run on the same channel keeps those waiting full for
 * its own length, and of each class only so many jobs can be the r-th. A load of n packs counts as n pieces of an n-th of its length,
 * which end, in the sum, (n − 1) / 2 lengths before it.
 */
function placeTerms(
  programme: Programme,
  problem: Problem,
  kinds: readonly Kind[],
  { shares, ends }: Pick<ReturnType<typeof dealt>, 'shares' | 'ends'>,
  how: Jobs,
): [string, number][] {
  const counts = stationCounts(problem);
  const held = new Map<string, { klass: number; held: [string, number][] }>();
  const terms: [string, number][] = [];
  for (const { kind, mode, window, name: share, most } of shares) {
    const { like } = kinds[kind]!;
    if (!isLate(like)) continue;
    const length = mode.minutes + SWAP_MINUTES;
    const piece = length / like.packs;
    const room = Math.floor((ends(window) - problem.windows[window]!.from + SWAP_MINUTES) / piece);
    const last = room + FURTHER_PLACES;
    const places: [string, number][] = [];
    for (let r = 1; r <= last; r++) {
      const name = `${share}r${r}`;
      programme.upTo(name, most * like.packs);
      if (how === 'whole') programme.whole(name);
      places.push([name, 1]);
      terms.push([name, -r * piece]);
      // The last place stands for all that come after it, and any number may have it.
      const key = `${mode.klass} ${window} ${r}`;
      const row = held.get(key) ?? { klass: mode.klass, held: [] };
      if (r < last) row.held.push([name, 1]);
      held.set(key, row);
    }
    programme.row([...places, [share, -like.packs]], '=', 0);
    terms.push([share, like.packs * ends(window) + ((like.packs + 1) / 2) * length]);
  }
  for (const row of held.values()) programme.row(row.held, '<=', counts.get(row.klass) ?? 0);
  return terms;
}

/**
 * The fewest minutes at full by places on the channels alone: what pools hold counts over a whole window only.
 *
 * @param perWindow how many packs for a flight each window has, where only such plans are asked about
 */
export function placesProgramme(
  problem: Problem,
  keepsHours: boolean,
  how: Jobs,
  perWindow?: readonly number[],
): string {
  const kinds = kindsOf(problem, { singleTasks: false, keepsHours });
  const { programme, ...deal } = dealt(problem, kinds, how);
  for (const [name, factor] of placeTerms(programme, problem, kinds, deal, how))
    programme.objective(name, factor);
  for (const [window, count] of (perWindow ?? []).entries()) {
    const late = deal.shares.filter((one) => one.window === window && isLate(kinds[one.kind]!.like));
    programme.row(
      late.map(({ name, kind }) => [name, kinds[kind]!.like.packs]),
      '=',
      count,
    );
  }
  return programme.text();
}

/** Buckets of this many minutes, where a job ends: the finer, the more is proven and the longer it takes. */
function bucketFor({ windows }: Problem, kinds: readonly Kind[]): number {
  const shares = kinds.reduce((all, { modes }) => all + modes.length, 0) * windows.length;
  if (shares <= 60) return 5;
  return shares <= 150 ? 10 : 20;
}

/**
 * The fewest minutes at full by places, and by when work and energy can be done. A job that ends at e and lasts d has the middle of its
 * work at e − d/2, and the middle of its energy at e − d + c for a centroid c; both middles are means over the time its work and
 * its energy lie in, which channels and pools bound bucket by bucket. Each bucket counts by its end, so that no plan is cut off.
 */
export function fullProgramme(problem: Problem, keepsHours: boolean): string {
  const kinds = kindsOf(problem, { singleTasks: false, keepsHours });
  const buckets = bucketsOf(problem, bucketFor(problem, kinds));
  const { programme, shares, ends: windowEnds } = dealt(problem, kinds, 'parts');
  const work: { name: string; mode: Mode; bucket: number }[] = [];
  const energy: { name: string; pool: number; bucket: number }[] = [];
  for (const [kind, { like, latestEnd, modes }] of kinds.entries()) {
    const late = isLate(like);
    const ends: [string, number][] = [];
    const own = shares.filter((one) => one.kind === kind);
    for (const { mode, window, name: share } of own) {
      const parts: [string, number][] = [];
      for (const [b, { from, to, window: where }] of buckets.entries()) {
        if (where !== window || to <= like.release || from >= latestEnd) continue;
        const name = `${share}b${b}`;
        work.push({ name, mode, bucket: b });
        parts.push([name, 1]);
        // No job works on itself twice at a time.
        programme.row(
          [
            [name, 1],
            [share, from - Math.min(to, latestEnd)],
          ],
          '<=',
          0,
        );
        ends.push([name, Math.min(to, latestEnd) / mode.minutes]);
      }
      // What is for no flight may do its work after the last bucket.
      programme.row([...parts, [share, -mode.minutes]], late ? '=' : '<=', 0);
      ends.push([share, mode.minutes / 2]);
    }
    if (!late) continue;
    // The sum of the ends of all tasks of a kind, from above: by their work, and by the energy of each pool.
    const sum = `e${kind}`;
    programme.objective(sum, like.packs);
    programme.row([[sum, 1], ...ends.map(([name, factor]) => [name, -factor] as const)], '<=', 0);
    for (const pool of problem.pools.keys()) {
      const drawOf = ({ draws }: Mode) => draws.find((draw) => draw.pool === pool);
      if (!modes.every(drawOf)) continue;
      const byEnergy: [string, number][] = [];
      const smallest = Math.min(...modes.map((mode) => area(drawOf(mode)!)));
      for (const window of problem.windows.keys()) {
        const taken: [string, number][] = [];
        for (const [b, { from, to, window: where }] of buckets.entries()) {
          if (where !== window || to <= like.release || from >= latestEnd) continue;
          const name = `g${kind}p${pool}b${b}`;
          energy.push({ name, pool, bucket: b });
          taken.push([name, 1]);
          byEnergy.push([name, Math.min(to, latestEnd) / smallest]);
        }
        const here = own.filter((one) => one.window === window);
        programme.row([...taken, ...here.map(({ name }) => [name, -smallest] as const)], '=', 0);
      }
      for (const { mode, name } of own) byEnergy.push([name, mode.minutes - centroid(drawOf(mode)!)]);
      programme.row([[sum, 1], ...byEnergy.map(([name, factor]) => [name, -factor] as const)], '<=', 0);
    }
  }
  for (const [b, { from, to }] of buckets.entries()) {
    const here = work.filter(({ bucket }) => bucket === b);
    const fits = (of: typeof here, stations: number) =>
      programme.row(
        of.map(({ name }) => [name, 1]),
        '<=',
        stations * (to - from),
      );
    for (const [klass, stations] of stationCounts(problem))
      fits(
        here.filter(({ mode }) => mode.klass === klass),
        stations,
      );
    for (let board = 0; board < problem.boards; board++)
      fits(
        here.filter(({ mode }) => mode.board === board),
        1,
      );
    for (const [pool, { cap }] of problem.pools.entries()) {
      programme.row(
        energy.filter((one) => one.bucket === b && one.pool === pool).map(({ name }) => [name, 1]),
        '<=',
        cap * (to - from),
      );
    }
  }
  // The latest sum of all ends by places holds as well.
  const late = kinds.flatMap(({ like }, kind): [string, number][] =>
    isLate(like) ? [[`e${kind}`, like.packs]] : [],
  );
  const places = placeTerms(programme, problem, kinds, { shares, ends: windowEnds }, 'parts');
  programme.row([...late, ...places.map(([name, factor]) => [name, -factor] as const)], '<=', 0);
  return programme.text();
}

interface Bucket {
  readonly window: number;
  readonly from: number;
  readonly to: number;
}

/** Buckets of the attended time back from the last flight: fine where jobs end, coarser before. */
function bucketsOf(problem: Problem, fine: number): Bucket[] {
  const last = Math.min(
    horizonOf(problem.windows),
    Math.max(...problem.tasks.filter(isLate).map(({ ready }) => ready)),
  );
  const cuts = new Set(problem.tasks.filter(isLate).map(({ ready }) => ready));
  const buckets: Bucket[] = [];
  for (const [window, { from, to }] of problem.windows.entries()) {
    let end = Math.min(to, last);
    let size = fine;
    let made = 0;
    while (end > from) {
      let start = Math.max(from, end - size);
      for (const cut of cuts) if (cut > start && cut < end) start = cut;
      buckets.push({ window, from: start, to: end });
      end = start;
      made += 1;
      if (made % 16 === 0) size = Math.min(fine * 4, size * 2);
    }
  }
  return buckets;
}

/** The mean minute at which a draw's energy is taken. */
function centroid({ perMinute }: Mode['draws'][number]): number {
  let [sum, weighted] = [0, 0];
  for (let i = 0; i < perMinute.length; i++) {
    sum += perMinute[i]!;
    weighted += perMinute[i]! * (i + 0.5);
  }
  return sum > 0 ? weighted / sum : perMinute.length / 2;
}
