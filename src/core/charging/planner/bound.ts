import { horizonOf, isLate, SWAP_MINUTES } from './problem';
import type { Mode, Problem, Task } from './problem';
import type { Wishes } from './wishes';

/** What no plan can do better than, in the first wish that is not met in full. */
export interface Bound {
  readonly wish: keyof Wishes;
  readonly atLeast: number;
  /** What the plan has of it. */
  readonly has: number;
}

/** Solves a linear or mixed-integer programme in LP format; answers the objective, or null where it could not prove one. */
export type Solve = (programme: string) => Promise<number | null>;

/** The wishes for which a bound is worked out. */
type Led = 'notReady' | 'missed' | 'fullMinutes' | 'attendedMinutes';

/** The wish a plan is measured by: the first, in their order, of which it leaves something to be wished. */
export function leadingWish(problem: Problem, wishes: Wishes): Led {
  if (wishes.notReady + wishes.leftOut > 0) return 'notReady';
  if (wishes.missed > 0) return 'missed';
  return problem.tasks.some(isLate) ? 'fullMinutes' : 'attendedMinutes';
}

/**
 * How good any plan can be at best in its leading wish, proven by relaxing the problem to fractions of jobs: every plan is a solution
 * of the relaxed programme, so none is better than its optimum. Null where nothing was proven.
 */
export async function provenBound(problem: Problem, wishes: Wishes, solve: Solve): Promise<Bound | null> {
  const wish = leadingWish(problem, wishes);
  switch (wish) {
    case 'attendedMinutes': {
      const has = wishes.attendedMinutes;
      const solved = await solve(attendanceProgramme(problem));
      return bound(
        wish,
        has,
        Math.max(closedAttendance(problem), solved === null ? 0 : Math.ceil(solved - 1e-6)),
      );
    }
    case 'fullMinutes': {
      const solved = await solve(fullProgramme(problem));
      return bound(wish, wishes.fullMinutes, Math.max(closedFull(problem), solved === null ? 0 : -solved));
    }
    case 'notReady': {
      const has = wishes.notReady + wishes.leftOut;
      const served = await solve(servedProgramme(problem));
      const asked = problem.tasks.reduce(
        (sum, { replaces, packs }) => sum + (replaces.length > 0 ? 0 : packs),
        0,
      );
      return served === null ? null : bound(wish, has, asked - Math.floor(served + 1e-6));
    }
    case 'missed':
      return bound(wish, wishes.missed, 0);
    default:
      return wish satisfies never;
  }
}

function bound(wish: keyof Wishes, has: number, atLeast: number): Bound {
  return { wish, has, atLeast: Math.max(0, Math.min(has, atLeast)) };
}

/** Tasks that are all but alike, taken as so many of the quickest and least of them: what holds for those holds for all. */
interface Kind {
  readonly tasks: readonly number[];
  readonly modes: readonly Mode[];
  readonly like: Task;
  /** For a board's load: how many packs it takes from each kind. */
  readonly takes: ReadonlyMap<number, number>;
}

/** Durations this near count as one kind. */
const ALIKE = 1.07;

function kindsOf({ tasks }: Problem, singleTasks = false): readonly Kind[] {
  const kinds: { tasks: number[]; like: Task; modes: Mode[]; takes: Map<number, number> }[] = [];
  const kindOf = new Map<number, number>();
  const order = [...tasks.keys()].sort((a, b) => quickest(tasks[a]!) - quickest(tasks[b]!));
  for (const index of order) {
    const task = tasks[index]!;
    if (task.replaces.length > 0) continue;
    const found = singleTasks ? -1 : kinds.findIndex(({ like }) => isAlike(like, task));
    if (found >= 0) {
      const kind = kinds[found]!;
      kind.tasks.push(index);
      kind.modes = kind.modes.map((mode, i) => least(mode, task.modes[i]!));
      kindOf.set(index, found);
    } else {
      kindOf.set(
        index,
        kinds.push({ tasks: [index], like: task, modes: [...task.modes], takes: new Map() }) - 1,
      );
    }
  }
  for (const [index, task] of tasks.entries()) {
    if (task.replaces.length === 0) continue;
    const takes = new Map<number, number>();
    for (const one of task.replaces) takes.set(kindOf.get(one)!, (takes.get(kindOf.get(one)!) ?? 0) + 1);
    kinds.push({ tasks: [index], like: task, modes: [...task.modes], takes });
  }
  return kinds;
}

/** What only a board can do comes last. */
function quickest({ modes }: Task): number {
  return Math.min(1e9, ...modes.map(({ minutes }) => minutes));
}

function isAlike(one: Task, other: Task): boolean {
  return (
    one.packs === other.packs &&
    Object.is(one.flight, other.flight) &&
    one.release === other.release &&
    one.due === other.due &&
    one.after < 0 &&
    other.after < 0 &&
    one.modes.length === other.modes.length &&
    one.modes.every(
      (mode, i) =>
        mode.klass === other.modes[i]!.klass &&
        mode.board === other.modes[i]!.board &&
        other.modes[i]!.minutes <= mode.minutes * ALIKE &&
        mode.minutes <= other.modes[i]!.minutes * ALIKE,
    )
  );
}

/** The quicker and the smaller of two modes, minute by minute. */
function least(one: Mode, other: Mode): Mode {
  const minutes = Math.min(one.minutes, other.minutes);
  return {
    ...one,
    minutes,
    draws: one.draws.map(({ pool, perMinute }, i) => ({
      pool,
      perMinute: perMinute
        .slice(0, minutes)
        .map((watts, minute) => Math.min(watts, other.draws[i]!.perMinute[minute] ?? 0)),
    })),
    energy: one.energy.map(({ store, wh }, i) => ({ store, wh: Math.min(wh, other.energy[i]!.wh) })),
  };
}

function area({ perMinute }: Mode['draws'][number]): number {
  let sum = 0;
  for (const one of perMinute) sum += one;
  return sum;
}

/** Lines of a programme in LP format, written term by term. */
class Programme {
  readonly #rows: string[] = [];
  readonly #bounds: string[] = [];
  readonly #whole: string[] = [];
  readonly #objective = new Map<string, number>();
  #constant = 0;

  constructor(readonly sense: 'Minimize' | 'Maximize') {}

  row(terms: Iterable<readonly [string, number]>, relation: '<=' | '>=' | '=', right: number): void {
    const written = expression(terms);
    if (written) this.#rows.push(` r${this.#rows.length}: ${written} ${relation} ${number(right)}`);
  }

  objective(name: string, factor: number): void {
    this.#objective.set(name, (this.#objective.get(name) ?? 0) + factor);
  }

  constant(value: number): void {
    this.#constant += value;
  }

  upTo(name: string, most: number): void {
    this.#bounds.push(` 0 <= ${name} <= ${number(most)}`);
  }

  whole(name: string): void {
    this.#whole.push(` ${name}`);
  }

  text(): string {
    // A constant in the objective is not read by every solver: it is a variable that is fixed at one.
    const goal = [...this.#objective, ...(this.#constant === 0 ? [] : [['one', this.#constant] as const])];
    return [
      this.sense,
      ` goal: ${expression(goal) || '0 one'}`,
      'Subject To',
      ...this.#rows,
      ' fixed: one = 1',
      'Bounds',
      ...this.#bounds,
      ...(this.#whole.length > 0 ? ['General', ...this.#whole] : []),
      'End',
    ].join('\n');
  }
}

/** Lines are broken: some readers take no more than so many characters. */
const TERMS_A_LINE = 12;

function expression(terms: Iterable<readonly [string, number]>): string {
  const sums = new Map<string, number>();
  for (const [name, factor] of terms) sums.set(name, (sums.get(name) ?? 0) + factor);
  const written = [...sums]
    .filter(([, factor]) => factor !== 0)
    .map(([name, factor]) => `${factor < 0 ? '-' : '+'} ${number(Math.abs(factor))} ${name}`);
  const lines: string[] = [];
  for (let i = 0; i < written.length; i += TERMS_A_LINE)
    lines.push(written.slice(i, i + TERMS_A_LINE).join(' '));
  return lines.join('\n   ');
}

function number(value: number): string {
  return Number(value.toPrecision(12)).toString();
}

/** Stations of each class. */
function stationCounts({ stations }: Problem): Map<number, number> {
  const counts = new Map<number, number>();
  for (const { klass } of stations) counts.set(klass, (counts.get(klass) ?? 0) + 1);
  return counts;
}

/**
 * Shares of kinds over windows: the work of every class, the energy of every pool, every board, and the longest job of each window fit
 * into the minutes attended there. `span(window)` names what they must fit into: a variable, or the window's own length.
 */
function assignment(
  programme: Programme,
  problem: Problem,
  kinds: readonly Kind[],
  span: (window: number) => {
    readonly terms: readonly (readonly [string, number])[];
    readonly constant: number;
  },
): (kind: number) => [string, number][] {
  const counts = stationCounts(problem);
  const shares: { kind: number; mode: Mode; window: number; name: string; most: number }[] = [];
  for (const [kind, { modes, like, tasks, takes }] of kinds.entries()) {
    for (const [m, mode] of modes.entries()) {
      for (const [window, { from, to }] of problem.windows.entries()) {
        const ends = Math.min(to, isLate(like) ? like.ready : Infinity);
        if (Math.max(from, like.release) + mode.minutes > ends) continue;
        const name = `x${kind}m${m}w${window}`;
        shares.push({ kind, mode, window, name, most: takes.size > 0 ? 1 : tasks.length });
        programme.upTo(name, takes.size > 0 ? 1 : tasks.length);
      }
    }
  }
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
    for (const [pool, { cap }] of problem.pools.entries()) {
      fits(
        here.flatMap(({ name, mode }) =>
          mode.draws
            .filter((draw) => draw.pool === pool)
            .map((draw): [string, number] => [name, area(draw) / cap]),
        ),
        1,
        0,
      );
      // Jobs that take more than half of a pool run one after the other, whatever the sum says: true at every minute, so of all.
      for (const parts of [1, 2, 3]) {
        fits(
          here.flatMap(({ name, mode }) =>
            mode.draws
              .filter((draw) => draw.pool === pool)
              .map((draw): [string, number] => [name, stepped(draw.perMinute, cap, parts)]),
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
  return (kind) => shares.filter((one) => one.kind === kind).map(({ name }) => [name, 1]);
}

/** The sum of a draw's minutes under the step function u(x) = floor((k + 1) x) ÷ k: what fits into a pool still fits after it. */
function stepped(perMinute: Float64Array, cap: number, parts: number): number {
  let sum = 0;
  for (const watts of perMinute) {
    const x = Math.min(1, watts / cap);
    const whole = (parts + 1) * x;
    sum += Math.abs(whole - Math.round(whole)) < 1e-9 ? x : Math.floor(whole) / parts;
  }
  return sum;
}

/** Each kind as often as there are tasks of it, but for those that go on a board. */
function serveAll(
  programme: Programme,
  kinds: readonly Kind[],
  sharesOf: (kind: number) => [string, number][],
  served: boolean,
): void {
  for (const [kind, { tasks, takes }] of kinds.entries()) {
    if (takes.size > 0) continue;
    const onBoards = kinds.flatMap((group, g): [string, number][] => {
      const taken = group.takes.get(kind) ?? 0;
      return taken > 0 ? sharesOf(g).map(([name, factor]) => [name, factor * taken]) : [];
    });
    programme.row([...sharesOf(kind), ...onBoards], served ? '=' : '<=', tasks.length);
  }
}

/** The fewest minutes of attendance: whole windows are used or not, jobs in fractions. */
export function attendanceProgramme(problem: Problem): string {
  const programme = new Programme('Minimize');
  const kinds = kindsOf(problem);
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
  const sharesOf = assignment(programme, problem, kinds, (window) => ({
    terms: [[`a${window}`, 1]],
    constant: 0,
  }));
  serveAll(programme, kinds, sharesOf, true);
  for (const [window] of problem.windows.entries()) {
    if (!several) continue;
    // Nothing is done in a window that is not used: without this the swap minutes would let a little through.
    for (const [kind, { tasks, takes }] of kinds.entries()) {
      const own = sharesOf(kind).filter(([name]) => name.endsWith(`w${window}`));
      programme.row([...own, [`y${window}`, -(takes.size > 0 ? 1 : tasks.length)]], '<=', 0);
    }
  }
  return programme.text();
}

/** The most packs that can be served at all in what is attended. */
function servedProgramme(problem: Problem): string {
  const programme = new Programme('Maximize');
  const kinds = kindsOf(problem);
  const sharesOf = assignment(programme, problem, kinds, (window) => ({
    terms: [],
    constant: problem.windows[window]!.to - problem.windows[window]!.from,
  }));
  serveAll(programme, kinds, sharesOf, false);
  for (const [kind, { like }] of kinds.entries()) {
    for (const [name] of sharesOf(kind)) programme.objective(name, like.packs);
  }
  return programme.text();
}

/** Attendance by closed forms: the longest job, and the (km+1)-th job, which comes after k others on some of m channels. */
function closedAttendance(problem: Problem): number {
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

/** Minutes at full if every pack had the bench for itself. */
function closedFull({ tasks, windows }: Problem): number {
  let sum = 0;
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
    if (latest > -Infinity) sum += (task.flight - latest) * task.packs;
  }
  return sum;
}

interface Bucket {
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
  for (const { from, to } of problem.windows) {
    let end = Math.min(to, last);
    let size = fine;
    let made = 0;
    while (end > from) {
      let start = Math.max(from, end - size);
      for (const cut of cuts) if (cut > start && cut < end) start = cut;
      buckets.push({ from: start, to: end });
      end = start;
      made += 1;
      if (made % 16 === 0) size = Math.min(fine * 4, size * 2);
    }
  }
  return buckets;
}

/**
 * The fewest minutes at full. A job that ends at e and lasts d has the middle of its work at e − d/2, and the middle of its energy at
 * e − d + c for a centroid c; both middles are means over the time its work and its energy lie in, which channels and pools bound
 * bucket by bucket. Each bucket counts by its end, so that no plan is cut off.
 */
export function fullProgramme(problem: Problem, fine = 10): string {
  const programme = new Programme('Maximize');
  const kinds = kindsOf(problem);
  const buckets = bucketsOf(problem, fine);
  const counts = stationCounts(problem);
  const work: { name: string; mode: Mode; bucket: number }[] = [];
  const energy: { name: string; pool: number; bucket: number }[] = [];
  let flightSum = 0;
  const shareNames = (kind: number): [string, number][] =>
    kinds[kind]!.modes.map((_, m) => [`s${kind}m${m}`, 1]);
  serveAll(programme, kinds, shareNames, true);
  for (const [kind, { like, tasks, takes, modes }] of kinds.entries()) {
    const most = takes.size > 0 ? 1 : tasks.length;
    const late = isLate(like);
    if (late && takes.size === 0) flightSum += like.flight * like.packs * tasks.length;
    const ends: [string, number][] = [];
    for (const [m, mode] of modes.entries()) {
      const share = `s${kind}m${m}`;
      programme.upTo(share, most);
      const latestStart = late ? like.ready : Infinity;
      const open = buckets.flatMap((bucket, b) =>
        bucket.to > like.release && bucket.from < latestStart ? [b] : [],
      );
      const own: [string, number][] = [];
      for (const b of open) {
        const { from, to } = buckets[b]!;
        const name = `t${kind}m${m}b${b}`;
        work.push({ name, mode, bucket: b });
        own.push([name, 1]);
        // No job works on itself twice at a time.
        programme.row(
          [
            [name, 1],
            [share, -(Math.min(to, latestStart) - from)],
          ],
          '<=',
          0,
        );
        ends.push([name, Math.min(to, latestStart) / mode.minutes]);
      }
      programme.row([...own, [share, -mode.minutes]], '=', 0);
      ends.push([share, mode.minutes / 2]);
    }
    if (!late) continue;
    // The sum of the ends of all tasks of a kind, from above: by their work, and by the energy of each pool.
    const sum = `e${kind}`;
    programme.objective(sum, like.packs);
    programme.row([[sum, 1], ...ends.map(([name, factor]) => [name, -factor] as const)], '<=', 0);
    for (const pool of problem.pools.keys()) {
      if (!modes.every(({ draws }) => draws.some((draw) => draw.pool === pool))) continue;
      const byEnergy: [string, number][] = [];
      const taken: [string, number][] = [];
      const draws = modes.map(({ draws: all }) => all.find((draw) => draw.pool === pool)!);
      const least = Math.min(...draws.map(area));
      for (const [b, { from, to }] of buckets.entries()) {
        if (to <= like.release || from >= like.ready) continue;
        const name = `g${kind}p${pool}b${b}`;
        energy.push({ name, pool, bucket: b });
        taken.push([name, 1]);
        byEnergy.push([name, Math.min(to, like.ready) / least]);
      }
      const shares = modes.map((_, m): [string, number] => [`s${kind}m${m}`, 1]);
      programme.row([...taken, ...shares.map(([name]) => [name, -least] as const)], '=', 0);
      for (const [m, mode] of modes.entries())
        byEnergy.push([`s${kind}m${m}`, mode.minutes - centroid(draws[m]!)]);
      programme.row([[sum, 1], ...byEnergy.map(([name, factor]) => [name, -factor] as const)], '<=', 0);
    }
  }
  for (const [b, { from, to }] of buckets.entries()) {
    const here = work.filter(({ bucket }) => bucket === b);
    for (const [klass, stations] of counts) {
      programme.row(
        here.filter(({ mode }) => mode.klass === klass).map(({ name }) => [name, 1]),
        '<=',
        stations * (to - from),
      );
    }
    for (let board = 0; board < problem.boards; board++) {
      programme.row(
        here.filter(({ mode }) => mode.board === board).map(({ name }) => [name, 1]),
        '<=',
        to - from,
      );
    }
    for (const [pool, { cap }] of problem.pools.entries()) {
      programme.row(
        energy.filter((one) => one.bucket === b && one.pool === pool).map(({ name }) => [name, 1]),
        '<=',
        cap * (to - from),
      );
    }
  }
  // The swap after each job: all but the last on a channel keep it busy two minutes more.
  for (const [klass, stations] of counts) {
    const attended = buckets.reduce((sum, { from, to }) => sum + to - from, 0);
    const shares = kinds.flatMap(({ modes }, kind) =>
      modes.flatMap((mode, m): [string, number][] =>
        mode.klass === klass ? [[`s${kind}m${m}`, mode.minutes + SWAP_MINUTES]] : [],
      ),
    );
    programme.row(shares, '<=', stations * (attended + SWAP_MINUTES * problem.windows.length));
  }
  programme.constant(-flightSum);
  // Maximised is the sum of the ends less that of the flights: the least minutes at full with the sign turned.
  return programme.text();
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
