import type { EquipmentId } from '../../measure';
import type { Built } from './build';
import { isLate } from './problem';
import type { Problem } from './problem';
import { PlanSearch } from './search';
import type { Snapshot } from './search';
import type { Placed } from './timetable';

/** Why a job stands where and when it does. */
export type Reason =
  /** Nothing was asked about it. */
  | { readonly because: 'best-place' }
  | { readonly because: 'locked' }
  /** It comes first: the pack is under its floor. */
  | { readonly because: 'under-floor' }
  /** Full as late as its flight, the end of attendance or the next job on the channel allows. */
  | {
      readonly because: 'as-late-as';
      readonly limit: 'flight' | 'attendance' | 'channel' | 'power';
      readonly elsewhere: Elsewhere | null;
    }
  /** The pack rests after its discharge. */
  | { readonly because: 'after-rest' }
  /** As soon as the pack has cooled, or attendance begins, or the channel or the power is free. */
  | {
      readonly because: 'as-soon-as';
      readonly limit: 'cooled' | 'attendance' | 'channel' | 'power';
      readonly elsewhere: Elsewhere | null;
    };

/** The next best place for the job, and how much worse it is: later by so many minutes, or so many minutes longer at full. */
export interface Elsewhere {
  readonly equipmentId: EquipmentId;
  readonly channel: string | null;
  readonly minutesWorse: number;
}

/** The least thing that would make room for a job that has none. */
export type Lift =
  | { readonly by: 'attendance'; readonly minutes: number }
  /** One span of attendance as long as the job. */
  | { readonly by: 'one-span'; readonly minutes: number }
  | { readonly by: 'channel'; readonly like: number }
  | { readonly by: 'watts'; readonly pool: number; readonly more: number };

/** Why a placed task is where it is, and what the next best place would cost. */
export function reasonFor(built: Built, search: PlanSearch, at: Placed): Reason {
  const { problem } = built;
  const task = problem.tasks[at.task]!;
  if (problem.fixed.some((fixed) => fixed.task === at.task)) return { because: 'locked' };
  if (task.underFloor) return { because: 'under-floor' };
  if (task.after >= 0 && search.best.placed[task.after]!.end + task.gap === at.start)
    return { because: 'after-rest' };
  const elsewhere = nextBest(built, search, at);
  const window = problem.windows.find(({ from, to }) => at.start >= from && at.end <= to)!;
  if (isLate(task)) {
    const limit =
      at.end === task.ready
        ? 'flight'
        : at.end === window.to
          ? 'attendance'
          : isFollowed(search, at)
            ? 'channel'
            : 'power';
    return { because: 'as-late-as', limit, elsewhere };
  }
  const limit =
    at.start === task.release && task.release > 0
      ? 'cooled'
      : at.start === window.from
        ? 'attendance'
        : 'channel';
  return { because: 'as-soon-as', limit, elsewhere };
}

function isFollowed({ best }: PlanSearch, at: Placed): boolean {
  return best.placed.some(
    (other) => other?.station === at.station && other.start >= at.end && other.start - at.end <= 3,
  );
}

/** The task's best place on any other station with all others as they are. */
function nextBest({ problem, stations }: Built, { best }: PlanSearch, at: Placed): Elsewhere | null {
  const closed = {
    ...problem,
    stations: problem.stations.map((one, i) => (i === at.station ? { ...one, klass: -1 } : one)),
  };
  const without = best.placed.map((one) => (one?.task === at.task ? null : one));
  const place = new PlanSearch({ ...closed, fixed: [] }, { from: { ...best, placed: without } }).findPlace(
    at.task,
  );
  if (!place) return null;
  const end = place.start + place.mode.minutes;
  const late = isLate(problem.tasks[at.task]!);
  const { equipment, channel } = stations[place.station]!;
  return { equipmentId: equipment.id, channel, minutesWorse: late ? at.end - end : end - at.end };
}

/** Attendance is asked for in steps of this many minutes, up to the last. */
const MORE_MINUTES = [5, 10, 15, 20, 30, 40, 60, 90, 120, 180, 240];
const MORE_SHARES = [0.25, 0.5, 1];

/** So many tries make room where the others only have to move together. */
const LIFT_TRIES = 25;

/** Tries one relaxation after the other, the least first: with everything else as it is, then with a few tries at moving it. */
export function liftFor(problem: Problem, best: Snapshot, task: number): Lift | null {
  const fits = (relaxed: Problem) => {
    const search = new PlanSearch({ ...relaxed, fixed: [] }, { from: best });
    if (search.findPlace(task)) return true;
    search.improve(LIFT_TRIES);
    return search.best.placed[task] !== null && search.best.weighed.cost.hard < best.weighed.cost.hard;
  };
  for (const minutes of MORE_MINUTES) {
    const windows = problem.windows.map(({ from, to }, i) => ({
      from,
      to: Math.min(to + minutes, problem.windows[i + 1]?.from ?? Infinity),
    }));
    if (fits({ ...problem, windows })) return { by: 'attendance', minutes };
  }
  const classes = [...new Set(problem.tasks[task]!.modes.map(({ klass }) => klass))];
  for (const klass of classes) {
    const stations = [...problem.stations, { klass, lastSetting: -1 }];
    if (fits({ ...problem, stations }))
      return { by: 'channel', like: problem.stations.findIndex((one) => one.klass === klass) };
  }
  for (const share of MORE_SHARES) {
    for (const [pool, { cap }] of problem.pools.entries()) {
      const pools = problem.pools.map((one, i) => (i === pool ? { ...one, cap: cap * (1 + share) } : one));
      if (fits({ ...problem, pools })) return { by: 'watts', pool, more: Math.round(cap * share) };
    }
  }
  return null;
}
