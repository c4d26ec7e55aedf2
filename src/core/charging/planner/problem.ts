/**
 * A plan's problem in plain figures: minutes from the start of the plan, numbered stations, pools and boards. What it was made
 * of is in `demand.ts`; everything here is what the search and the bound look at thousands of times.
 */

/** A span of minutes during which somebody watches the bench; spans that touch or overlap are one. */
export interface Window {
  readonly from: number;
  readonly to: number;
}

/** Watts or amps that several stations share at every minute. */
export interface Pool {
  readonly unit: 'W' | 'A';
  readonly cap: number;
}

/** Energy that can be drawn in all, watt-hours: what a field pack holds. */
export interface Store {
  readonly wh: number;
}

/** A channel or a load: one job at a time. Stations of one class can do the same things in the same time. */
export interface Station {
  readonly klass: number;
  /** What it was last set to, as a number; -1 where nobody knows. */
  readonly lastSetting: number;
}

/** What a job takes of a pool, minute by minute from its start; never rises. */
export interface Draw {
  readonly pool: number;
  readonly perMinute: Float64Array;
}

/** A way of doing a job: on stations of this class, at this current. */
export interface Mode {
  readonly klass: number;
  readonly amps: number;
  readonly minutes: number;
  readonly draws: readonly Draw[];
  /** What it takes out of each store, watt-hours. */
  readonly energy: readonly { readonly store: number; readonly wh: number }[];
  readonly setting: number;
  readonly board: number;
}

export interface Task {
  /** How many packs it serves: more than one on a board. */
  readonly packs: number;
  readonly release: number;
  /** The minute a storage clock runs out; Infinity where none does. */
  readonly due: number;
  /** For a flight: full by `ready`, flown at `flight`. NaN for all else. */
  readonly flight: number;
  readonly ready: number;
  readonly underFloor: boolean;
  /** The task that must be over `gap` minutes before; -1 for none. */
  readonly after: number;
  readonly gap: number;
  readonly modes: readonly Mode[];
  /** For a board's load: the tasks it stands for. Empty for a task of its own. */
  readonly replaces: readonly number[];
}

/** A task that stands and is not moved. */
export interface Fixed {
  readonly task: number;
  readonly mode: number;
  readonly station: number;
  readonly start: number;
}

/** What already takes a station, from a job that runs. */
export interface Occupied {
  readonly station: number;
  readonly board: number;
  readonly from: number;
  readonly to: number;
  readonly draws: readonly Draw[];
}

export interface Problem {
  readonly windows: readonly Window[];
  readonly pools: readonly Pool[];
  readonly stores: readonly Store[];
  readonly stations: readonly Station[];
  readonly boards: number;
  readonly tasks: readonly Task[];
  readonly fixed: readonly Fixed[];
  readonly occupied: readonly Occupied[];
}

/** Minutes it takes to have one pack off a channel and the next one on. */
export const SWAP_MINUTES = 2;

/** The last minute of the last window. */
export function horizonOf(windows: readonly Window[]): number {
  return windows.reduce((latest, { to }) => Math.max(latest, to), 0);
}

export function isLate(task: Task): boolean {
  return !Number.isNaN(task.flight);
}
