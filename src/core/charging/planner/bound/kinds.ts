import { isLate } from '../problem';
import type { Mode, Problem, Task } from '../problem';
import type { Jobs, Programme } from './programme';

/** Tasks that are all but alike, taken as so many of the quickest and least of them: what holds for those holds for all. */
export interface Kind {
  readonly tasks: readonly number[];
  readonly modes: readonly Mode[];
  readonly like: Task;
  /** By when it has to be over: its flight, and its storage hour where no hour is missed. */
  readonly latestEnd: number;
  /** For a board's load: how many packs it takes from each kind. */
  readonly takes: ReadonlyMap<number, number>;
}

/** Durations this near count as one kind. */
const ALIKE = 1.02;

/**
 * @param singleTasks whether each task is a kind of its own, which proves more and takes longer
 * @param keepsHours whether only plans that miss no storage hour are asked about
 */
export function kindsOf(
  { tasks }: Problem,
  { singleTasks, keepsHours }: { readonly singleTasks: boolean; readonly keepsHours: boolean },
): readonly Kind[] {
  const kinds: {
    tasks: number[];
    like: Task;
    latestEnd: number;
    modes: Mode[];
    takes: Map<number, number>;
  }[] = [];
  const latestEnd = (task: Task) =>
    Math.min(isLate(task) ? task.ready : Infinity, keepsHours ? task.due : Infinity);
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
        kinds.push({
          tasks: [index],
          like: task,
          latestEnd: latestEnd(task),
          modes: [...task.modes],
          takes: new Map(),
        }) - 1,
      );
    }
  }
  for (const [index, task] of tasks.entries()) {
    if (task.replaces.length === 0) continue;
    const takes = new Map<number, number>();
    for (const one of task.replaces) takes.set(kindOf.get(one)!, (takes.get(kindOf.get(one)!) ?? 0) + 1);
    kinds.push({ tasks: [index], like: task, latestEnd: latestEnd(task), modes: [...task.modes], takes });
  }
  return kinds;
}

/** What only a board can do comes last. */
export function quickest({ modes }: Task): number {
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

/** What share of a kind is done in one mode in one window. */
export interface Share {
  readonly kind: number;
  readonly mode: Mode;
  readonly window: number;
  readonly name: string;
  readonly most: number;
}

/** The shares of a programme: of every kind, in every mode and window in which a whole job of it fits. */
export function sharesFor(
  programme: Programme,
  problem: Problem,
  kinds: readonly Kind[],
  how: Jobs,
): readonly Share[] {
  return kinds.flatMap(({ modes, like, latestEnd, tasks, takes }, kind) =>
    modes.flatMap((mode, m) =>
      problem.windows.flatMap(({ from, to }, window): Share[] => {
        if (Math.max(from, like.release) + mode.minutes > Math.min(to, latestEnd)) return [];
        const share = {
          kind,
          mode,
          window,
          name: `s${kind}m${m}w${window}`,
          most: takes.size > 0 ? 1 : tasks.length,
        };
        programme.upTo(share.name, share.most);
        if (how === 'whole') programme.whole(share.name);
        return [share];
      }),
    ),
  );
}

/** Stations of each class. */
export function stationCounts({ stations }: Problem): Map<number, number> {
  const counts = new Map<number, number>();
  for (const { klass } of stations) counts.set(klass, (counts.get(klass) ?? 0) + 1);
  return counts;
}

/**
 * Each kind as often as there are tasks of it, but for those that go on a board.
 *
 * @param served whether all must be served, or only those with an hour to keep
 */
export function serveAll(
  programme: Programme,
  kinds: readonly Kind[],
  shares: readonly Share[],
  served: boolean,
): void {
  const sharesOf = (kind: number) =>
    shares.filter((one) => one.kind === kind).map(({ name }): [string, number] => [name, 1]);
  const hasHour = (kind: number) => !isLate(kinds[kind]!.like) && kinds[kind]!.latestEnd < Infinity;
  for (const [kind, { tasks, takes }] of kinds.entries()) {
    if (takes.size > 0) continue;
    const onBoards = kinds.flatMap((group, g): [string, number][] => {
      const taken = group.takes.get(kind) ?? 0;
      return taken > 0 ? sharesOf(g).map(([name, factor]) => [name, factor * taken]) : [];
    });
    programme.row([...sharesOf(kind), ...onBoards], served || hasHour(kind) ? '=' : '<=', tasks.length);
  }
}

/** Watt-minutes, or amp-minutes, of a draw. */
export function area({ perMinute }: Mode['draws'][number]): number {
  return sum(perMinute);
}

export function sum(values: Float64Array): number {
  let all = 0;
  for (const one of values) all += one;
  return all;
}
