import { isLate } from '../problem';
import type { Problem } from '../problem';
import type { Wishes } from '../wishes';
import { attendanceProgramme, closedAttendance, lastSpanProgramme, servedProgramme } from './attendance';
import { closedFull, fullProgramme, placesProgramme } from './full';
import type { Jobs } from './programme';

export { lastSpanProgramme, placesProgramme };
export { proveBound } from './prove';

/** What no plan can do better than, in the first wish that is not met in full. */
export interface Bound {
  readonly wish: keyof Wishes;
  readonly atLeast: number;
  /** What the plan has of it. */
  readonly has: number;
}

/** Solves a linear or mixed-integer programme in LP format; answers what is proven of its objective, or null where nothing is. */
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
 * How good any plan can be at best in its leading wish, proven by relaxing the problem, to fractions of jobs and to
 * whole ones: every plan is a solution of the relaxed programme, so none is better than its optimum. Null where nothing was proven.
 */
export async function provenBound(problem: Problem, wishes: Wishes, solve: Solve): Promise<Bound | null> {
  const wish = leadingWish(problem, wishes);
  // A plan that does better in this wish and misses hours for it is no better plan.
  const keepsHours = wishes.missed === 0;
  const proven = async (programmes: readonly string[]): Promise<readonly number[]> => {
    const solved: (number | null)[] = [];
    for (const programme of programmes) solved.push(await solve(programme));
    return solved.filter((one) => one !== null);
  };
  const both = (programme: (how: Jobs) => string) => proven([programme('parts'), programme('whole')]);
  switch (wish) {
    case 'attendedMinutes': {
      const solved = await both((how) => attendanceProgramme(problem, keepsHours, how));
      const least = solved.map((minutes) => Math.ceil(minutes - HAIR));
      return bound(wish, wishes.attendedMinutes, Math.max(closedAttendance(problem), ...least));
    }
    case 'fullMinutes': {
      const solved = [
        ...(await both((how) => placesProgramme(problem, keepsHours, how))),
        ...(await proven([fullProgramme(problem, keepsHours)])),
      ];
      const least = solved.map((minutes) => -minutes - HAIR);
      return bound(wish, wishes.fullMinutes, Math.max(closedFull(problem), ...least));
    }
    case 'notReady': {
      const solved = await both((how) => servedProgramme(problem, keepsHours, how));
      if (solved.length === 0) return null;
      const asked = problem.tasks.reduce(
        (sum, { replaces, packs }) => sum + (replaces.length > 0 ? 0 : packs),
        0,
      );
      const most = Math.floor(Math.min(...solved) + HAIR);
      return bound(wish, wishes.notReady + wishes.leftOut, asked - most);
    }
    case 'missed':
      return bound(wish, wishes.missed, 0);
    default:
      return wish satisfies never;
  }
}

/** What solvers leave of a whole number. */
const HAIR = 1e-6;

function bound(wish: keyof Wishes, has: number, atLeast: number): Bound {
  return { wish, has, atLeast: Math.max(0, Math.min(has, atLeast)) };
}
