import { isLate, SWAP_MINUTES } from '../src/core/charging/planner/problem';
import type { Mode, Problem } from '../src/core/charging/planner/problem';
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
  wish: 'notReady' | 'fullMinutes' | 'attendedMinutes',
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
  if (wish === 'attendedMinutes') attended(programme, problem, starts);
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

/** From the first start to the last end of each window, by two steps for every minute: whether it has begun, whether it is over. */
function attended(programme: Programme, problem: Problem, starts: readonly Start[]): void {
  for (const [window, { from, to }] of problem.windows.entries()) {
    const here = starts.filter((one) => one.window === window);
    for (let minute = from; minute < to; minute++) {
      const [begun, over] = [`b${window}t${minute}`, `o${window}t${minute}`];
      programme.upTo(begun, 1);
      programme.upTo(over, 1);
      programme.objective(begun, 1);
      programme.objective(over, -1);
      if (minute > from) {
        programme.row(
          [
            [`b${window}t${minute - 1}`, 1],
            [begun, -1],
          ],
          '<=',
          0,
        );
        programme.row(
          [
            [`o${window}t${minute - 1}`, 1],
            [over, -1],
          ],
          '<=',
          0,
        );
      }
      programme.row(
        [
          [over, 1],
          [begun, -1],
        ],
        '<=',
        0,
      );
      for (const task of problem.tasks.keys()) {
        const own = here.filter((one) => one.task === task);
        const started = own.filter(({ at }) => at <= minute);
        const unended = own.filter(({ end }) => end > minute);
        programme.row([...started.map(({ name }): [string, number] => [name, 1]), [begun, -1]], '<=', 0);
        programme.row([...unended.map(({ name }): [string, number] => [name, 1]), [over, 1]], '<=', 1);
      }
    }
  }
}
