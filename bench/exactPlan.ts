import { isLate, SWAP_MINUTES } from '../src/core/charging/planner/problem';
import type { Mode, Problem, Task } from '../src/core/charging/planner/problem';
import { Programme } from '../src/core/charging/planner/bound/programme';

/** The start of a task at a minute in one of its modes, as a variable that is 0 or 1. */
interface Start {
  readonly name: string;
  readonly task: number;
  readonly mode: Mode;
  readonly window: number;
  readonly at: number;
  readonly end: number;
}

/**
 * The whole problem minute by minute, for few packs: every start of every task, every channel, board, pool and store at every minute.
 * Its solution is the best plan there is in one wish; nothing is relaxed but that stations of one class are counted, not named.
 */
export function exactProgramme(
  problem: Problem,
  wish: 'notReady' | 'fullMinutes',
  keepsHours: boolean,
): string {
  const programme = new Programme(wish === 'notReady' ? 'Maximize' : 'Minimize');
  const starts = startsOf(problem, keepsHours);
  for (const { name } of starts) {
    programme.upTo(name, 1);
    programme.whole(name);
  }
  const of = (task: number) => starts.filter((one) => one.task === task);
  const ones = (some: readonly Start[]) => some.map(({ name }): [string, number] => [name, 1]);
  for (const [index, task] of problem.tasks.entries()) {
    if (task.replaces.length > 0) continue;
    const groups = problem.tasks.flatMap(({ replaces }, i) => (replaces.includes(index) ? [i] : []));
    const served = [index, ...groups].flatMap((one) => ones(of(one)));
    const must = wish !== 'notReady' || (keepsHours && task.due < Infinity);
    programme.row(served, must ? '=' : '<=', 1);
    if (task.after < 0) continue;
    for (const after of of(index)) {
      const before = of(task.after).filter(({ end }) => end + task.gap <= after.at);
      programme.row([[after.name, 1], ...before.map(({ name }): [string, number] => [name, -1])], '<=', 0);
    }
  }
  everyMinute(programme, problem, starts);
  for (const [store, { wh }] of problem.stores.entries()) {
    programme.row(
      starts.flatMap(({ name, mode }) =>
        mode.energy.filter((one) => one.store === store).map((one): [string, number] => [name, one.wh]),
      ),
      '<=',
      wh,
    );
  }
  for (const { name, task: index, end } of starts) {
    const task = problem.tasks[index]!;
    if (wish === 'notReady') programme.objective(name, task.packs);
    if (wish === 'fullMinutes' && isLate(task)) programme.objective(name, (task.flight - end) * task.packs);
  }
  return programme.text();
}

function startsOf(problem: Problem, keepsHours: boolean): Start[] {
  return problem.tasks.flatMap((task, index) =>
    task.modes.flatMap((mode, m) =>
      problem.windows.flatMap(({ from, to }, window) => {
        const latest = Math.min(to, isLate(task) ? task.ready : Infinity, keepsHours ? task.due : Infinity);
        const starts: Start[] = [];
        for (let at = Math.max(from, task.release); at + mode.minutes <= latest; at++)
          starts.push({
            name: `z${index}m${m}t${at}`,
            task: index,
            mode,
            window,
            at,
            end: at + mode.minutes,
          });
        return starts;
      }),
    ),
  );
}

function everyMinute(programme: Programme, problem: Problem, starts: readonly Start[]): void {
  const counts = new Map<number, number>();
  for (const { klass } of problem.stations) counts.set(klass, (counts.get(klass) ?? 0) + 1);
  for (const { from, to } of problem.windows) {
    for (let minute = from; minute < to; minute++) {
      const busy = starts.filter(({ at, end }) => at <= minute && minute < end + SWAP_MINUTES);
      const fits = (some: readonly Start[], cap: number, takes: (start: Start) => number) => {
        if (some.length > 0)
          programme.row(
            some.map((one) => [one.name, takes(one)]),
            '<=',
            cap,
          );
      };
      for (const [klass, stations] of counts)
        fits(
          busy.filter(({ mode }) => mode.klass === klass),
          stations,
          () => 1,
        );
      for (let board = 0; board < problem.boards; board++)
        fits(
          busy.filter(({ mode }) => mode.board === board),
          1,
          () => 1,
        );
      for (const [pool, { cap }] of problem.pools.entries()) {
        const drawn = ({ mode, at }: Start) =>
          mode.draws.find((draw) => draw.pool === pool)?.perMinute[minute - at] ?? 0;
        fits(
          busy.filter((one) => drawn(one) > 0),
          cap,
          drawn,
        );
      }
    }
  }
}

/**
 * Whether no plan of one span of attendance takes fewer than so many minutes: every way of dealing jobs to channels is looked through for
 * every minute at which the first may begin. Pools are left out, so that a no is proof and a yes may only be their doing.
 */
export function noShorterAttendance(problem: Problem, minutes: number): boolean {
  const [window] = problem.windows;
  if (
    problem.windows.length !== 1 ||
    problem.tasks.some(({ replaces, after }) => replaces.length > 0 || after >= 0)
  )
    return false;
  const tasks = [...problem.tasks].sort((a, b) => quickest(b) - quickest(a));
  const latestFirst = Math.max(window!.from, ...tasks.map(({ release }) => release));
  for (let first = window!.from; first <= latestFirst; first++) {
    const by = first + minutes - 1;
    const held = problem.stations.map((): { release: number; minutes: number }[] => []);
    if (deal(problem, tasks, 0, held, first, by)) return false;
  }
  return true;
}

function deal(
  problem: Problem,
  tasks: readonly Task[],
  index: number,
  held: { release: number; minutes: number }[][],
  first: number,
  by: number,
): boolean {
  const task = tasks[index];
  if (!task) return true;
  const tried = new Set<string>();
  for (const [station, { klass }] of problem.stations.entries()) {
    const ways = task.modes.filter((mode) => mode.klass === klass).map((mode) => mode.minutes);
    if (ways.length === 0) continue;
    // Stations of a class that hold the same are the same.
    const alike = `${klass} ${JSON.stringify(held[station])}`;
    if (tried.has(alike)) continue;
    tried.add(alike);
    held[station]!.push({ release: Math.max(first, task.release), minutes: Math.min(...ways) });
    const fits = endOf(held[station]!) <= by;
    const found = fits && deal(problem, tasks, index + 1, held, first, by);
    held[station]!.pop();
    if (found) return true;
  }
  return false;
}

/** When a channel is done with its jobs at the earliest: in the order in which they may begin. */
function endOf(jobs: readonly { readonly release: number; readonly minutes: number }[]): number {
  let end = -Infinity;
  for (const { release, minutes } of [...jobs].sort((a, b) => a.release - b.release))
    end = Math.max(end + SWAP_MINUTES, release) + minutes;
  return end;
}

function quickest({ modes }: Task): number {
  return Math.min(...modes.map(({ minutes }) => minutes));
}
