import { seededRandom } from '../../random';
import type { Random } from '../../random';
import { isLate } from './problem';
import type { Mode, Problem, Task } from './problem';
import { Timetable } from './timetable';
import type { Placed } from './timetable';
import { weigh, WEIGHTS, windowOf } from './wishes';
import type { Weighed } from './wishes';

/** How an insertion looks for its place. */
interface Manner {
  /** Share of stations that are overlooked, so that the search does not always fall into the same place. */
  readonly blink: number;
  /** What a watt-minute of a pool costs, as a share of the pool: cheap modes are preferred where power is short. */
  readonly powerPrice: number;
}

const PLAIN: Manner = { blink: 0, powerPrice: 0 };

/** A solution as the places of its tasks. */
export interface Snapshot {
  readonly placed: readonly (Placed | null)[];
  readonly grouped: readonly boolean[];
  readonly weighed: Weighed;
}

/**
 * A search for a timetable: constructs a first one by inserting every task at its best place, then takes some tasks out and puts
 * them back otherwise, and keeps what is better. Its effort is counted, never its seconds, so that the same problem
 * always ends in the same plan. Within a plan nothing hard is ever broken: the timetable refuses it.
 */
export class PlanSearch {
  best: Snapshot;
  /** Looks at a place for a task, and what a try costs besides: proportional to the time on any machine, and the same on all. */
  effort = 0;
  readonly #timetable: Timetable;
  readonly #grouped: boolean[];
  readonly #random: Random;
  readonly #stationsOf: ReadonlyMap<number, readonly number[]>;
  readonly #fixed: ReadonlySet<number>;
  readonly #followers: readonly (readonly number[])[];
  readonly #groupOf: readonly (readonly number[])[];
  /** Minutes of a whole pool that each mode takes. */
  readonly #powerShares: ReadonlyMap<Mode, number>;
  /** Which tasks are for a flight. */
  readonly #late: readonly boolean[];
  /** First start and last end within each window, of all that is placed now. */
  readonly #first: Float64Array;
  readonly #last: Float64Array;
  #current: Weighed;
  #sinceGain = 0;
  readonly #whole: number;

  /**
   * @param whole the effort the search will be given in all
   * @param from what to begin with in place of a construction: its places that are still to be had are kept
   */
  constructor(
    readonly problem: Problem,
    {
      seed = 1,
      from = null,
      whole = 0,
    }: {
      readonly seed?: number;
      readonly from?: Pick<Snapshot, 'placed' | 'grouped'> | null;
      readonly whole?: number;
    } = {},
  ) {
    const { tasks, stations, windows, fixed } = problem;
    this.#timetable = new Timetable(problem);
    this.#random = seededRandom(seed);
    this.#fixed = new Set(fixed.map(({ task }) => task));
    const byClass = new Map<number, number[]>();
    for (const [index, { klass }] of stations.entries())
      byClass.set(klass, [...(byClass.get(klass) ?? []), index]);
    this.#stationsOf = byClass;
    this.#whole = whole;
    this.#late = tasks.map(isLate);
    this.#powerShares = new Map(
      tasks.flatMap(({ modes }) => modes.map((mode) => [mode, powerShare(problem, mode)] as const)),
    );
    this.#followers = tasks.map((_, index) => tasks.flatMap(({ after }, i) => (after === index ? [i] : [])));
    this.#groupOf = tasks.map((_, index) =>
      tasks.flatMap(({ replaces }, i) => (replaces.includes(index) ? [i] : [])),
    );
    this.#first = new Float64Array(windows.length);
    this.#last = new Float64Array(windows.length);
    this.#grouped = tasks.map(({ replaces }, index) => replaces.length > 0 && this.#fixed.has(index));
    this.#current = this.#weigh();
    this.best = this.#snapshot();
    if (from) this.#beginWith(from);
    else this.#construct();
  }

  /** Makes so many tries; answers whether a better plan was found. */
  improve(tries: number): boolean {
    const before = this.best;
    for (let i = 0; i < tries; i++) this.#try();
    return this.best !== before;
  }

  /** Whether a task is asked for: not replaced by a board's load, and a board's load only where it is used. */
  #active(task: number): boolean {
    return this.problem.tasks[task]!.replaces.length > 0
      ? this.#grouped[task]!
      : !this.#groupOf[task]!.some((group) => this.#grouped[group]);
  }

  #weigh(): Weighed {
    return weigh(
      this.#timetable,
      this.problem.tasks.map((_, task) => this.#active(task)),
    );
  }

  #snapshot(): Snapshot {
    return { placed: [...this.#timetable.placed], grouped: [...this.#grouped], weighed: this.#current };
  }

  #construct(): void {
    const groups = this.problem.tasks.flatMap(({ replaces }, i) =>
      replaces.length > 0 && !this.#fixed.has(i) ? [i] : [],
    );
    const starts: { grouped: boolean; price: number; longFirst: boolean }[] = [
      { grouped: true, price: 0, longFirst: false },
      { grouped: true, price: 0.5, longFirst: true },
      ...(groups.length > 0
        ? [
            { grouped: false, price: 0, longFirst: false },
            { grouped: false, price: 0.5, longFirst: true },
          ]
        : []),
    ];
    for (const { grouped, price, longFirst } of starts) {
      for (const task of this.problem.tasks.keys()) if (!this.#fixed.has(task)) this.#timetable.takeOut(task);
      this.#chooseGroups(groups, grouped);
      this.#insertAll(this.#openTasks(), { blink: 0, powerPrice: price }, longFirst, 0);
      this.#compact();
      this.#current = this.#weigh();
      if (isBetter(this.#current, this.best.weighed)) this.best = this.#snapshot();
    }
    this.#restore(this.best);
  }

  #beginWith({ placed, grouped }: Pick<Snapshot, 'placed' | 'grouped'>): void {
    for (const task of this.problem.tasks.keys()) this.#grouped[task] = grouped[task] ?? false;
    for (const [task, at] of placed.entries()) if (at && !this.#fixed.has(task)) this.#timetable.put(at);
    this.#current = this.#weigh();
    this.best = this.#snapshot();
  }

  /** Loads that share no pack, the fullest first. */
  #chooseGroups(groups: readonly number[], on: boolean): void {
    for (const group of groups) this.#grouped[group] = false;
    if (!on) return;
    const bySize = [...groups].sort((a, b) => this.problem.tasks[b]!.packs - this.problem.tasks[a]!.packs);
    for (const group of bySize) if (this.#mayGroup(group)) this.#grouped[group] = true;
  }

  #mayGroup(group: number): boolean {
    return this.problem.tasks[group]!.replaces.every(
      (task) => !this.#fixed.has(task) && !this.#groupOf[task]!.some((other) => this.#grouped[other]),
    );
  }

  #openTasks(): number[] {
    return this.problem.tasks.flatMap((_, task) =>
      this.#active(task) && !this.#timetable.placed[task] ? [task] : [],
    );
  }

  #restore({ placed, grouped, weighed }: Snapshot): void {
    for (const task of this.problem.tasks.keys()) if (!this.#fixed.has(task)) this.#timetable.takeOut(task);
    for (const [task, on] of grouped.entries()) this.#grouped[task] = on;
    for (const [task, at] of placed.entries()) if (at && !this.#fixed.has(task)) this.#timetable.put(at);
    this.#current = weighed;
  }

  #try(): void {
    this.effort += EFFORT_A_TRY + EFFORT_A_TASK * this.problem.tasks.length;
    const groupedBefore = [...this.#grouped];
    const chosen = this.#choose();
    const removed: Placed[] = [];
    for (const task of chosen) {
      for (const one of [...this.#followers[task]!, task]) {
        const at = this.#fixed.has(one) ? null : this.#timetable.takeOut(one);
        if (at) removed.push(at);
      }
    }
    this.#toggleGroups(chosen);
    for (const task of this.problem.tasks.keys()) {
      if (this.#active(task) || this.#fixed.has(task)) continue;
      const at = this.#timetable.takeOut(task);
      if (at) removed.push(at);
    }
    const open = this.#openTasks();
    const manner = {
      blink: this.#random() * 0.15,
      powerPrice: this.#random() < 0.5 ? 0 : this.#random() * 0.8,
    };
    this.#insertAll(open, manner, this.#random() < 0.3, 0.35);
    let now = this.#weigh();
    const moved: Placed[] = [];
    if (isNear(now, this.best.weighed)) {
      moved.push(...this.#compact());
      now = this.#weigh();
    }
    if (this.#accepts(now)) {
      this.#current = now;
      if (isBetter(now, this.best.weighed)) {
        this.best = this.#snapshot();
        this.#sinceGain = 0;
      }
    } else {
      for (const task of open) this.#timetable.takeOut(task);
      for (const { task } of moved) this.#timetable.takeOut(task);
      for (const [task, on] of groupedBefore.entries()) this.#grouped[task] = on;
      const wereOpen = new Set(open);
      const back = new Map(moved.filter(({ task }) => !wereOpen.has(task)).map((at) => [at.task, at]));
      for (const at of [...removed, ...back.values()]) {
        if (!this.#timetable.placed[at.task]) this.#timetable.put(at);
      }
    }
    this.#sinceGain += 1;
    if (this.#sinceGain > RETURN_AFTER) {
      this.#restore(this.best);
      this.#sinceGain = 0;
    }
  }

  #accepts(now: Weighed): boolean {
    const { cost } = this.best.weighed;
    if (now.cost.hard !== this.#current.cost.hard) return now.cost.hard < this.#current.cost.hard;
    if (now.cost.soft <= this.#current.cost.soft) return true;
    return (
      now.cost.hard <= cost.hard && now.cost.soft <= cost.soft * (1 + this.#slack() * this.#random()) + 0.5
    );
  }

  /** How much worse than the best a plan may be to be gone on from: wide at first, so that the search does not stay where it began. */
  #slack(): number {
    const ahead = this.#whole > 0 ? Math.max(0, 1 - this.effort / this.#whole) : 0;
    return NARROW + WIDE * ahead * ahead;
  }

  /** Tasks to take out: of one or two channels, near each other in time, those that wait longest full, or any. */
  #choose(): number[] {
    const { placed } = this.#timetable;
    const movable = placed.flatMap((at) => (at && !this.#fixed.has(at.task) ? [at] : []));
    if (movable.length === 0) return [];
    const size = Math.min(
      movable.length,
      2 + Math.floor(this.#random() * Math.min(11, 2 + movable.length / 3)),
    );
    const seed = movable[Math.floor(this.#random() * movable.length)]!;
    if (this.problem.windows.length > 1 && this.#random() < 0.2) return this.#chooseAcross(movable);
    const way = this.#random();
    const distance = (at: Placed): number => {
      const apart = Math.abs(at.start - seed.start);
      if (way < 0.25) {
        const other = (seed.station + 1) % this.problem.stations.length;
        return at.station === seed.station || at.station === other ? this.#random() : 2;
      }
      if (way < 0.5) return apart + this.#random() * 30;
      if (way < 0.65) return at.mode.setting === seed.mode.setting ? this.#random() : 2;
      if (way < 0.8) return this.#regret(at) * (0.6 + this.#random());
      return this.#random();
    };
    return movable
      .map((at) => ({ task: at.task, far: at.task === seed.task && way < 0.65 ? -1 : distance(at) }))
      .sort((a, b) => a.far - b.far)
      .slice(0, size)
      .map(({ task }) => task);
  }

  /** What fills one span of attendance on some channels, and as much of what had to go into another: who is there is dealt anew. */
  #chooseAcross(movable: readonly Placed[]): number[] {
    const seed = movable[Math.floor(this.#random() * movable.length)]!;
    const window = windowOf(this.problem, seed.start);
    const here = movable.filter(({ start }) => windowOf(this.problem, start) === window);
    const there = movable.filter(({ start }) => windowOf(this.problem, start) !== window);
    const some = (of: readonly Placed[], most: number) =>
      of
        .map((at) => ({ task: at.task, far: this.#random() }))
        .sort((a, b) => a.far - b.far)
        .slice(0, 1 + Math.floor(this.#random() * most))
        .map(({ task }) => task);
    const [one, other] = [seed.station, this.#random() < 0.5 ? seed.station : this.#anyStation()];
    return [
      ...some(
        here.filter(({ station }) => station === one || station === other),
        6,
      ),
      ...some(there, 4),
    ];
  }

  #anyStation(): number {
    return Math.floor(this.#random() * this.problem.stations.length);
  }

  /** The worse a task stands, the lower. */
  #regret({ task: index, end, start }: Placed): number {
    const task = this.problem.tasks[index]!;
    return this.#late[index] ? end - task.ready : Math.min(0, task.release - start);
  }

  #toggleGroups(chosen: readonly number[]): void {
    if (this.#random() > 0.25) return;
    const groups = this.problem.tasks.flatMap(({ replaces }, i) =>
      replaces.length > 0 && !this.#fixed.has(i) ? [i] : [],
    );
    if (groups.length === 0) return;
    const near = groups.filter(
      (group) =>
        chosen.includes(group) || this.problem.tasks[group]!.replaces.some((task) => chosen.includes(task)),
    );
    const among = near.length > 0 ? near : groups;
    const group = among[Math.floor(this.#random() * among.length)]!;
    if (this.#grouped[group]) this.#grouped[group] = false;
    else {
      for (const task of this.problem.tasks[group]!.replaces) {
        for (const other of this.#groupOf[task]!) if (!this.#fixed.has(other)) this.#grouped[other] = false;
      }
      if (this.#mayGroup(group)) this.#grouped[group] = true;
    }
  }

  /** Puts open tasks in, the most pressing first; `noise` shakes the order. */
  #insertAll(open: readonly number[], manner: Manner, longFirst: boolean, noise: number): void {
    this.#findSpans();
    const rank = (index: number) => {
      const task = this.problem.tasks[index]!;
      const minutes = Math.min(...task.modes.map((mode) => mode.minutes));
      const shaken = minutes * (1 + noise * (this.#random() * 2 - 1));
      if (task.underFloor) return -1e9 + shaken;
      if (task.due < Infinity) return -1e6 + task.due * (1 + noise * this.#random());
      if (this.#followers[index]!.length > 0) return -1e5 - shaken;
      if (this.#late[index]) return longFirst ? 1e4 - shaken : shaken;
      return longFirst ? 2e4 + shaken : 2e4 - shaken;
    };
    const order = open
      .filter((task) => this.problem.tasks[task]!.modes.length > 0)
      .map((task) => ({ task, rank: rank(task) }))
      .sort((a, b) => a.rank - b.rank);
    const ordered = order.map(({ task }) => task);
    // What must wait for another comes after it, whatever its own rank.
    for (const task of ordered.filter((one) => this.problem.tasks[one]!.after < 0))
      this.#insert(task, manner);
    for (const task of ordered.filter((one) => this.problem.tasks[one]!.after >= 0))
      this.#insert(task, manner);
    // Nothing is emptied that cannot be charged again.
    for (const task of ordered) {
      const alone = this.#followers[task]!.some((follower) => !this.#timetable.placed[follower]);
      if (alone && !this.#fixed.has(task)) this.#timetable.takeOut(task);
    }
  }

  #findSpans(): void {
    this.#first.fill(Infinity);
    this.#last.fill(-Infinity);
    for (const at of this.#timetable.placed) if (at) this.#extendSpan(at);
  }

  #extendSpan({ start, end }: Placed): void {
    const window = windowOf(this.problem, start);
    if (window < 0) return;
    this.#first[window] = Math.min(this.#first[window]!, start);
    this.#last[window] = Math.max(this.#last[window]!, end);
  }

  #insert(index: number, manner: Manner): boolean {
    const found = this.findPlace(index, manner);
    if (!found) return false;
    this.#timetable.put(found);
    this.#extendSpan(this.#timetable.placed[index]!);
    return true;
  }

  /** The best place for a task among what is placed now; null where none fits. */
  findPlace(index: number, manner: Manner = PLAIN): Omit<Placed, 'end'> | null {
    const task = this.problem.tasks[index]!;
    const bounds = this.#bounds(index, task);
    if (!bounds) return null;
    let best: Omit<Placed, 'end'> | null = null;
    let bestCost = Infinity;
    for (const mode of task.modes) {
      const seen = new Set<number>();
      for (const station of this.#stationsOf.get(mode.klass) ?? []) {
        if (manner.blink > 0 && this.#random() < manner.blink) continue;
        if (this.#timetable.isEmpty(station)) {
          const { lastSetting } = this.problem.stations[station]!;
          if (seen.has(lastSetting)) continue;
          seen.add(lastSetting);
        }
        this.effort += 1;
        const price = manner.powerPrice > 0 ? manner.powerPrice * this.#powerShares.get(mode)! : 0;
        for (const start of this.#starts(index, mode, station, bounds, bestCost - price)) {
          const cost = this.#costOf(index, mode, station, start) + price;
          if (cost < bestCost) [bestCost, best] = [cost, { task: index, mode, station, start }];
        }
      }
    }
    return best;
  }

  #bounds(index: number, task: Task): { readonly from: number; readonly to: number } | null {
    let from = task.release;
    if (task.after >= 0) {
      const before = this.#timetable.placed[task.after];
      if (!before) return null;
      from = Math.max(from, before.end + task.gap);
    }
    let to = this.#late[index] ? task.ready : Infinity;
    for (const follower of this.#followers[index]!) {
      const then = this.#timetable.placed[follower];
      if (then) to = Math.min(to, then.start - this.problem.tasks[follower]!.gap);
    }
    return { from, to };
  }

  /** Starts worth weighing on one station: as late as can be for a flight; else at once, and within what is attended anyway. */
  #starts(
    index: number,
    mode: Mode,
    station: number,
    bounds: { readonly from: number; readonly to: number },
    below: number,
  ): number[] {
    const starts: number[] = [];
    const { windows } = this.problem;
    const task = this.problem.tasks[index]!;
    const late = this.#late[index]!;
    for (let i = 0; i < windows.length; i++) {
      const window = late ? windows.length - 1 - i : i;
      const from = Math.max(windows[window]!.from, bounds.from);
      const to = Math.min(windows[window]!.to, bounds.to);
      if (from + mode.minutes > to) continue;
      if (late) {
        // No start in this or an earlier window can be cheaper than its very end.
        if (WEIGHTS.full * task.packs * (task.flight - to) >= below) break;
        const start = this.#timetable.latest(mode, station, from, to);
        if (start >= 0) {
          starts.push(start);
          break;
        }
        continue;
      }
      if (this.#endCost(index, from + mode.minutes) >= below) continue;
      const start = this.#timetable.earliest(mode, station, from, to);
      if (start < 0) continue;
      starts.push(start);
      const open = this.#first[window]!;
      if (open > start && open < Infinity) {
        const within = this.#timetable.earliest(mode, station, Math.max(open, from), to);
        if (within >= 0) starts.push(within);
        const before = this.#timetable.latest(
          mode,
          station,
          from,
          Math.min(to, Math.max(this.#last[window]!, from + mode.minutes)),
        );
        if (before >= 0) starts.push(before);
      }
    }
    return starts;
  }

  #endCost(index: number, end: number): number {
    const task = this.problem.tasks[index]!;
    if (this.#late[index]) return WEIGHTS.full * task.packs * (task.flight - end);
    const missed = end > task.due ? 1e5 * task.packs : 0;
    return missed + (task.underFloor ? 1e3 : 0.02) * end * task.packs;
  }

  #costOf(index: number, mode: Mode, station: number, start: number): number {
    const end = start + mode.minutes;
    const window = windowOf(this.problem, start);
    const open = this.#first[window]! < Infinity;
    const growth = open
      ? Math.max(0, this.#first[window]! - start) + Math.max(0, end - this.#last[window]!)
      : mode.minutes;
    return this.#endCost(index, end) + growth + WEIGHTS.change * this.#changesBy(mode, station, start);
  }

  #changesBy(mode: Mode, station: number, start: number): number {
    let before = this.problem.stations[station]!.lastSetting;
    let after = -2;
    for (const { from, task } of this.#timetable.order(station)) {
      if (task === undefined) continue;
      const { setting } = this.#timetable.placed[task]!.mode;
      if (from < start) before = setting;
      else {
        after = setting;
        break;
      }
    }
    const between = after === -2 ? 0 : Number(mode.setting !== after) - Number(before !== after);
    return Number(before !== mode.setting) + between;
  }

  /** Pushes every early task as early and every late one as late as its channel allows; answers where they were. */
  #compact(): Placed[] {
    const moved: Placed[] = [];
    const all = this.#timetable.placed.filter((at) => at !== null && !this.#fixed.has(at.task)) as Placed[];
    const early = all.filter(({ task }) => !this.#late[task]).sort((a, b) => a.start - b.start);
    const late = all.filter(({ task }) => this.#late[task]).sort((a, b) => b.end - a.end);
    // Where somebody is there for a flight, early ones stay within those minutes; elsewhere they begin as soon as they can.
    const flown = new Set(late.map(({ start }) => windowOf(this.problem, start)));
    this.#findSpans();
    for (const at of early) {
      const bounds = this.#bounds(at.task, this.problem.tasks[at.task]!);
      const window = windowOf(this.problem, at.start);
      const from = flown.has(window) ? this.#first[window]! : this.problem.windows[window]!.from;
      this.#timetable.takeOut(at.task);
      const start = bounds
        ? this.#timetable.earliest(at.mode, at.station, Math.max(from, bounds.from), at.end)
        : -1;
      this.#timetable.put(start >= 0 && start < at.start ? { ...at, start } : at);
      if (start >= 0 && start < at.start) moved.push(at);
    }
    for (const at of late) {
      const task = this.problem.tasks[at.task]!;
      const window = this.problem.windows[windowOf(this.problem, at.start)]!;
      this.#timetable.takeOut(at.task);
      const start = this.#timetable.latest(at.mode, at.station, at.start, Math.min(window.to, task.ready));
      this.#timetable.put(start > at.start ? { ...at, start } : at);
      if (start > at.start) moved.push(at);
    }
    return moved;
  }
}

/** What a try costs besides its looks, in looks: measured over all families of evenings. */
const EFFORT_A_TRY = 20;
const EFFORT_A_TASK = 2;

/** After so many tries without a gain the search goes back to the best plan it knows. */
const RETURN_AFTER = 400;

/** Shares of the best plan's cost. */
const NARROW = 0.002;
const WIDE = 0.06;

function powerShare({ pools }: Problem, { draws }: Mode): number {
  return draws.reduce(
    (sum, { pool, perMinute }) => sum + perMinute.reduce((all, one) => all + one, 0) / pools[pool]!.cap,
    0,
  );
}

function isBetter(one: Weighed, other: Weighed): boolean {
  return (
    one.cost.hard < other.cost.hard ||
    (one.cost.hard === other.cost.hard && one.cost.soft < other.cost.soft - 1e-9)
  );
}

/** Close enough to the best for tidying up to be worth it. */
function isNear(one: Weighed, best: Weighed): boolean {
  return one.cost.hard <= best.cost.hard && one.cost.soft <= best.cost.soft * 1.03 + 10;
}
