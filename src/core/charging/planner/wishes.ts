import { isLate } from './problem';
import type { Problem } from './problem';
import type { Timetable } from './timetable';

/** How well a plan does, in the order in which the wishes count. Minutes of several packs add up. */
export interface Wishes {
  /** Packs under their floor that get nothing, and the minutes until the others are up again. */
  readonly floorsOut: number;
  readonly floorMinutes: number;
  /** Storage hours that are missed though they could be met. */
  readonly missed: number;
  /** Packs not full by their flight, and all others left out. */
  readonly notReady: number;
  readonly leftOut: number;
  /** Minutes that packs wait full for their flight. */
  readonly fullMinutes: number;
  /** Minutes from the first start to the last end within each span of attendance. */
  readonly attendedMinutes: number;
  /** Settings to be changed between two jobs of a channel, but for the current. */
  readonly changes: number;
}

/** The wishes as two figures: what must never be traded, and what may be weighed; the second decides between equals of the first. */
export interface Cost {
  readonly hard: number;
  readonly soft: number;
}

/** A minute of waiting full against a minute of attendance and a changed setting: hours at full lead, but not at any price. */
const FULL_WEIGHT = 8;
const CHANGE_WEIGHT = 0.3;
/** The ends of all jobs break ties, so that a search sees which way is down. */
const END_WEIGHT = 0.0005;

export interface Weighed {
  readonly wishes: Wishes;
  readonly cost: Cost;
}

/** @param active which tasks are asked for: a board's load, or each of the packs it stands for */
export function weigh(timetable: Timetable, active: readonly boolean[]): Weighed {
  const { problem, placed } = timetable;
  let [floorsOut, floorMinutes, missed, notReady, leftOut, fullMinutes, ends] = [0, 0, 0, 0, 0, 0, 0];
  const first = problem.windows.map(() => Infinity);
  const last = problem.windows.map(() => -Infinity);
  for (const [index, task] of problem.tasks.entries()) {
    if (!active[index]) continue;
    const at = placed[index];
    if (!at) {
      if (task.underFloor) floorsOut += task.packs;
      if (isLate(task)) notReady += task.packs;
      else leftOut += task.packs;
      if (task.due < Infinity) missed += task.packs;
      continue;
    }
    const window = windowOf(problem, at.start);
    first[window] = Math.min(first[window]!, at.start);
    last[window] = Math.max(last[window]!, at.end);
    ends += at.end * task.packs;
    if (task.underFloor) floorMinutes += at.end * task.packs;
    if (at.end > task.due) missed += task.packs;
    if (isLate(task)) fullMinutes += (task.flight - at.end) * task.packs;
  }
  let attendedMinutes = 0;
  for (const [window, from] of first.entries()) if (from < Infinity) attendedMinutes += last[window]! - from;
  const changes = countChanges(timetable);
  const wishes = {
    floorsOut,
    floorMinutes,
    missed,
    notReady,
    leftOut,
    fullMinutes,
    attendedMinutes,
    changes,
  };
  return {
    wishes,
    cost: {
      hard: floorsOut * 1e12 + floorMinutes * 1e6 + missed * 1e3 + notReady + leftOut,
      soft: FULL_WEIGHT * fullMinutes + attendedMinutes + CHANGE_WEIGHT * changes + END_WEIGHT * ends,
    },
  };
}

/** What placing a task costs softly, but for the changes of settings, which depend on its neighbours. */
export const WEIGHTS = { full: FULL_WEIGHT, change: CHANGE_WEIGHT, end: END_WEIGHT } as const;

/** The span of attendance a minute lies in. */
export function windowOf({ windows }: Pick<Problem, 'windows'>, minute: number): number {
  return windows.findIndex(({ from, to }) => minute >= from && minute < to);
}

function countChanges(timetable: Timetable): number {
  let changes = 0;
  for (const [station, { lastSetting }] of timetable.problem.stations.entries()) {
    let before = lastSetting;
    for (const { task } of timetable.order(station)) {
      if (task === undefined) continue;
      const { setting } = timetable.placed[task]!.mode;
      if (setting !== before) changes += 1;
      before = setting;
    }
  }
  return changes;
}
