import { horizonOf, SWAP_MINUTES } from './problem';
import type { Draw, Mode, Problem } from './problem';

/** A task at its place. */
export interface Placed {
  readonly task: number;
  readonly mode: Mode;
  readonly station: number;
  readonly start: number;
  readonly end: number;
}

/** Room for what rounding leaves of a sum that fills a pool exactly. */
const HAIR = 1e-6;

/**
 * Which task is where and when, with what is left of stations, boards, pools and stores at every minute. Tasks are put in and taken
 * out thousands of times, so it is a thing that changes; it never holds two tasks on one station, nor a pool beyond its cap.
 */
export class Timetable {
  readonly placed: (Placed | null)[];
  readonly #stations: Interval[][];
  readonly #boards: Interval[][];
  readonly #used: readonly Float64Array[];
  readonly #energy: Float64Array;

  constructor(readonly problem: Problem) {
    const { tasks, stations, boards, pools, stores, occupied } = problem;
    const minutes = Math.max(horizonOf(problem.windows), ...occupied.map(({ to }) => to)) + 1;
    this.placed = tasks.map(() => null);
    this.#stations = stations.map(() => []);
    this.#boards = Array.from({ length: boards }, () => []);
    this.#used = pools.map(() => new Float64Array(minutes));
    this.#energy = new Float64Array(stores.length);
    for (const { station, board, from, to, draws } of occupied) {
      insertSorted(this.#stations[station]!, { from, to });
      if (board >= 0) insertSorted(this.#boards[board]!, { from, to });
      this.#draw(draws, from, 1);
    }
    for (const { task, mode, station, start } of problem.fixed) {
      this.put({ task, mode: tasks[task]!.modes[mode]!, station, start });
    }
  }

  put({ task, mode, station, start }: Omit<Placed, 'end'>): void {
    const end = start + mode.minutes;
    this.placed[task] = { task, mode, station, start, end };
    const interval = { from: start, to: end, task };
    insertSorted(this.#stations[station]!, interval);
    if (mode.board >= 0) insertSorted(this.#boards[mode.board]!, interval);
    this.#draw(mode.draws, start, 1);
    for (const { store, wh } of mode.energy) this.#energy[store]! += wh;
  }

  takeOut(task: number): Placed | null {
    const placed = this.placed[task] ?? null;
    if (!placed) return null;
    const { mode, station, start } = placed;
    this.placed[task] = null;
    removeTask(this.#stations[station]!, task);
    if (mode.board >= 0) removeTask(this.#boards[mode.board]!, task);
    this.#draw(mode.draws, start, -1);
    for (const { store, wh } of mode.energy) this.#energy[store]! -= wh;
    return placed;
  }

  /** The tasks of a station in their order. */
  order(station: number): readonly Interval[] {
    return this.#stations[station]!;
  }

  isEmpty(station: number): boolean {
    return this.#stations[station]!.length === 0;
  }

  /** The first start from `from` on at which the task is over by `to`; -1 where there is none. */
  earliest(mode: Mode, station: number, from: number, to: number): number {
    if (!this.#hasEnergy(mode)) return -1;
    const on = this.#stations[station]!;
    const board = mode.board >= 0 ? this.#boards[mode.board]! : null;
    let start = from;
    for (;;) {
      if (start + mode.minutes > to) return -1;
      const before = start;
      start = afterClash(on, start, mode.minutes);
      if (board) start = afterClash(board, start, mode.minutes);
      // Pools take the longest to look through: only where nothing else is in the way.
      if (start === before) start = this.#afterShortage(mode.draws, start);
      if (start === before) return start;
    }
  }

  /** The last start at which the task is over by `to` and not begun before `from`; -1 where there is none. */
  latest(mode: Mode, station: number, from: number, to: number): number {
    if (!this.#hasEnergy(mode)) return -1;
    const on = this.#stations[station]!;
    const board = mode.board >= 0 ? this.#boards[mode.board]! : null;
    let start = to - mode.minutes;
    for (;;) {
      if (start < from) return -1;
      const after = start;
      start = beforeClash(on, start, mode.minutes);
      if (board) start = beforeClash(board, start, mode.minutes);
      if (start === after) start = this.#beforeShortage(mode.draws, start);
      if (start === after) return start;
    }
  }

  /** What a pool has left at its tightest minute of a span. */
  leastLeft(pool: number, from: number, to: number): number {
    const used = this.#used[pool]!;
    let most = 0;
    for (let minute = from; minute < to; minute++) most = Math.max(most, used[minute] ?? 0);
    return this.problem.pools[pool]!.cap - most;
  }

  #hasEnergy({ energy }: Mode): boolean {
    return energy.every(
      ({ store, wh }) => this.#energy[store]! + wh <= this.problem.stores[store]!.wh + HAIR,
    );
  }

  #draw(draws: readonly Draw[], start: number, sign: 1 | -1): void {
    for (const { pool, perMinute } of draws) {
      const used = this.#used[pool]!;
      for (let i = 0; i < perMinute.length; i++) used[start + i]! += sign * perMinute[i]!;
    }
  }

  /**
   * The start itself where the pools have enough, else the first one that is past the last clash. Draws never rise, so a clash at a
   * minute stays one for every start up to that minute.
   */
  #afterShortage(draws: readonly Draw[], start: number): number {
    let next = start;
    for (const { pool, perMinute } of draws) {
      const used = this.#used[pool]!;
      const cap = this.problem.pools[pool]!.cap + HAIR;
      for (let i = perMinute.length - 1; i >= 0; i--) {
        if (used[start + i]! + perMinute[i]! > cap) {
          next = Math.max(next, start + i + 1);
          break;
        }
      }
    }
    return next;
  }

  /** The same backwards: the last start at which what is drawn at the clashing minute has fallen to what is left there. */
  #beforeShortage(draws: readonly Draw[], start: number): number {
    let next = start;
    for (const { pool, perMinute } of draws) {
      const used = this.#used[pool]!;
      const cap = this.problem.pools[pool]!.cap + HAIR;
      for (let i = 0; i < perMinute.length; i++) {
        const left = cap - used[start + i]!;
        if (perMinute[i]! <= left) continue;
        let fits = i + 1;
        while (fits < perMinute.length && perMinute[fits]! > left) fits += 1;
        next = Math.min(next, start + i - fits);
        break;
      }
    }
    return next;
  }
}

interface Interval {
  readonly from: number;
  readonly to: number;
  readonly task?: number;
}

function insertSorted(list: Interval[], interval: Interval): void {
  let i = list.length;
  while (i > 0 && list[i - 1]!.from > interval.from) i -= 1;
  list.splice(i, 0, interval);
}

function removeTask(list: Interval[], task: number): void {
  list.splice(
    list.findIndex((one) => one.task === task),
    1,
  );
}

/** The first start from `start` on that clashes with nothing in the list, the time to change packs counted. */
function afterClash(list: readonly Interval[], start: number, minutes: number): number {
  let at = start;
  for (const { from, to } of list) {
    if (to + SWAP_MINUTES <= at) continue;
    if (from >= at + minutes + SWAP_MINUTES) break;
    at = to + SWAP_MINUTES;
  }
  return at;
}

function beforeClash(list: readonly Interval[], start: number, minutes: number): number {
  let at = start;
  for (let i = list.length - 1; i >= 0; i--) {
    const { from, to } = list[i]!;
    if (from >= at + minutes + SWAP_MINUTES) continue;
    if (to + SWAP_MINUTES <= at) break;
    at = from - SWAP_MINUTES - minutes;
  }
  return at;
}
