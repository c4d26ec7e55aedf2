import { isLate, SWAP_MINUTES } from '../problem';
import type { Problem } from '../problem';
import { kindsOf, quickest, serveAll, sharesFor, stationCounts, sum } from './kinds';
import type { Kind, Share } from './kinds';
import { overlapRows, pressesOf } from './overlap';
import { Programme } from './programme';
import type { Jobs } from './programme';

/**
 * Shares of kinds over windows: the work of every class, the energy of every pool, every board, and the longest job of each window fit
 * into the minutes attended there. `span(window)` names what they must fit into: a variable, or the window's own length.
 */
function assignment(
  programme: Programme,
  problem: Problem,
  kinds: readonly Kind[],
  shares: readonly Share[],
  span: (window: number) => {
    readonly terms: readonly (readonly [string, number])[];
    readonly constant: number;
  },
): void {
  const counts = stationCounts(problem);
  for (const window of problem.windows.keys()) {
    const here = shares.filter((one) => one.window === window);
    const room = span(window);
    const fits = (terms: [string, number][], times: number, more: number) =>
      programme.row(
        [...terms, ...room.terms.map(([name, factor]) => [name, -factor * times] as const)],
        '<=',
        room.constant * times + more,
      );
    for (const [klass, stations] of counts) {
      const work = here.filter(({ mode }) => mode.klass === klass);
      fits(
        work.map(({ name, mode }) => [name, mode.minutes + SWAP_MINUTES]),
        stations,
        stations * SWAP_MINUTES,
      );
    }
    for (let board = 0; board < problem.boards; board++) {
      fits(
        here
          .filter(({ mode }) => mode.board === board)
          .map(({ name, mode }) => [name, mode.minutes + SWAP_MINUTES]),
        1,
        SWAP_MINUTES,
      );
    }
    for (const pool of problem.pools.keys()) {
      for (const press of pressesOf(problem, pool)) {
        fits(
          here.flatMap(({ name, mode }) =>
            mode.draws
              .filter((draw) => draw.pool === pool)
              .map((draw): [string, number] => [name, sum(press(draw.perMinute))]),
          ),
          1,
          0,
        );
      }
    }
    for (const kind of kinds.keys()) {
      const own = here.filter((one) => one.kind === kind);
      fits(
        own.map(({ name, mode, most }) => [name, mode.minutes / most]),
        1,
        0,
      );
    }
  }
  for (const [store, { wh }] of problem.stores.entries()) {
    programme.row(
      shares.flatMap(({ name, mode }) =>
        mode.energy.filter((one) => one.store === store).map((one): [string, number] => [name, one.wh]),
      ),
      '<=',
      wh,
    );
  }
}

/** The fewest minutes of attendance: a window is used or not, and its minutes are enough for the work in it. */
export function attendanceProgramme(problem: Problem, keepsHours: boolean, how: Jobs): string {
  const programme = new Programme('Minimize');
  const kinds = kindsOf(problem, { singleTasks: true, keepsHours });
  const several = problem.windows.length > 1;
  for (const [window, { from, to }] of problem.windows.entries()) {
    programme.objective(`a${window}`, 1);
    programme.upTo(`a${window}`, to - from);
    if (several) {
      programme.upTo(`y${window}`, 1);
      programme.whole(`y${window}`);
      programme.row(
        [
          [`a${window}`, 1],
          [`y${window}`, from - to],
        ],
        '<=',
        0,
      );
    }
  }
  const shares = sharesFor(programme, problem, kinds, how);
  assignment(programme, problem, kinds, shares, (window) => ({
    terms: [[`a${window}`, 1]],
    constant: 0,
  }));
  serveAll(programme, kinds, shares, true);
  for (const [window] of problem.windows.entries()) {
    if (!several) continue;
    // Nothing is done in a window that is not used: without this the swap minutes would let a little through.
    for (const [kind, { tasks, takes }] of kinds.entries()) {
      const own = shares.filter((one) => one.kind === kind && one.window === window);
      programme.row(
        [...own.map(({ name }) => [name, 1] as const), [`y${window}`, -(takes.size > 0 ? 1 : tasks.length)]],
        '<=',
        0,
      );
    }
  }
  return programme.text();
}

/** The most packs that can be served at all in what is attended. */
export function servedProgramme(problem: Problem, keepsHours: boolean, how: Jobs): string {
  const programme = new Programme('Maximize');
  const kinds = kindsOf(problem, { singleTasks: true, keepsHours });
  const shares = sharesFor(programme, problem, kinds, how);
  assignment(programme, problem, kinds, shares, (window) => ({
    terms: [],
    constant: problem.windows[window]!.to - problem.windows[window]!.from,
  }));
  overlapRows(programme, problem, kinds, shares);
  serveAll(programme, kinds, shares, false);
  for (const { kind, name } of shares) programme.objective(name, kinds[kind]!.like.packs);
  return programme.text();
}

/** The most packs for a flight that can be charged within the last span of attendance, where every pack is served: the others wait full. */
export function lastSpanProgramme(problem: Problem, keepsHours: boolean): string {
  const programme = new Programme('Maximize');
  const kinds = kindsOf(problem, { singleTasks: true, keepsHours });
  const shares = sharesFor(programme, problem, kinds, 'whole');
  assignment(programme, problem, kinds, shares, (window) => ({
    terms: [],
    constant: problem.windows[window]!.to - problem.windows[window]!.from,
  }));
  overlapRows(programme, problem, kinds, shares);
  serveAll(programme, kinds, shares, true);
  for (const { kind, window, name } of shares) {
    const { like } = kinds[kind]!;
    if (window === problem.windows.length - 1 && isLate(like)) programme.objective(name, like.packs);
  }
  return programme.text();
}

/** Attendance by closed forms: the longest job, and the (km+1)-th job, which comes after k others on some of m channels. */
export function closedAttendance(problem: Problem): number {
  if (problem.windows.length !== 1 || problem.tasks.some(({ replaces }) => replaces.length > 0)) return 0;
  const minutes = problem.tasks.map(quickest).sort((a, b) => b - a);
  const m = problem.stations.length;
  let most = minutes[0] ?? 0;
  for (let k = 1; k * m < minutes.length; k++) {
    let sum = k * SWAP_MINUTES;
    for (let i = 0; i <= k; i++) sum += minutes[k * m - i]!;
    most = Math.max(most, sum);
  }
  return most;
}
