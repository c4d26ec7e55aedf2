import loadSolver from 'highs';
import type { LegacyHighs } from 'highs';
import { Planning, planFaults } from '../src/core/charging';
import type { Bound, PlanInput, Wishes } from '../src/core/charging';
import { buildProblem } from '../src/core/charging/planner/build';
import { Timetable } from '../src/core/charging/planner/timetable';
import { weigh } from '../src/core/charging/planner/wishes';
import { anEvening, FAMILIES } from '../src/core/testing/evenings';
import type { Family } from '../src/core/testing/evenings';
import { median, ms, say } from './measure';

/** Evenings of each family; PLAN_EVENINGS asks for others. */
const EVENINGS = Number(process.env.PLAN_EVENINGS ?? 18);
const SOLVER_SECONDS = 20;

let solver: LegacyHighs | null = null;

async function solve(programme: string): Promise<number | null> {
  solver ??= await loadSolver();
  try {
    const solved = solver.solve(programme, { time_limit: SOLVER_SECONDS });
    return solved.Status === 'Optimal' ? solved.ObjectiveValue : null;
  } catch {
    solver = null;
    return null;
  }
}

/** Tonight's plan against what can be proven, family by family, and against the next pack on the next free channel. */
export async function benchPlan(): Promise<void> {
  for (const family of FAMILIES) await benchFamily(family);
}

async function benchFamily(family: Family): Promise<void> {
  const ratios: number[] = [];
  const notServed: number[] = [];
  const firsts: number[] = [];
  const wholes: number[] = [];
  const bounds: number[] = [];
  const sums = { plan: NOTHING, hand: NOTHING };
  let faults = 0;
  let unproven = 0;
  for (let seed = 1; seed <= EVENINGS; seed++) {
    const input = anEvening(family, seed);
    const began = performance.now();
    const planning = new Planning(input);
    firsts.push(performance.now() - began);
    while (!planning.done) planning.improve(60);
    wholes.push(performance.now() - began);
    const plan = planning.plan({ explained: false });
    faults += planFaults(input, plan.jobs).length;
    const asked = performance.now();
    const bound = await planning.bound(solve);
    bounds.push(performance.now() - asked);
    if (!bound) unproven += 1;
    else if (bound.wish === 'notReady') notServed.push(bound.has - bound.atLeast);
    else if (bound.wish !== 'missed') ratios.push(ratioOf(bound));
    sums.plan = added(sums.plan, plan.wishes);
    sums.hand = added(sums.hand, byHand(input));
  }
  const sorted = [...ratios].sort((a, b) => a - b);
  const at = (share: number) =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]?.toFixed(3) ?? '-';
  say(
    family,
    `n ${ratios.length}`,
    `÷ bound ${at(0.5)} / ${at(0.9)} / ${at(1)}`,
    `not served beyond the bound ${notServed.join(' ') || '-'}`,
    `faults ${faults}`,
    `unproven ${unproven}`,
    `first ${ms(median(firsts))}, worst ${ms(Math.max(...firsts))}; whole ${ms(median(wholes))}; bound ${ms(median(bounds))}`,
  );
  say('', `plan ${told(sums.plan)}`, `by hand ${told(sums.hand)}`);
}

function ratioOf({ has, atLeast }: Bound): number {
  return atLeast > 0 ? has / atLeast : has > 0 ? Infinity : 1;
}

type Told = Pick<Wishes, 'missed' | 'notReady' | 'leftOut' | 'fullMinutes' | 'attendedMinutes'>;
const NOTHING: Told = { missed: 0, notReady: 0, leftOut: 0, fullMinutes: 0, attendedMinutes: 0 };

function added(one: Told, other: Wishes): Told {
  return {
    missed: one.missed + other.missed,
    notReady: one.notReady + other.notReady,
    leftOut: one.leftOut + other.leftOut,
    fullMinutes: one.fullMinutes + other.fullMinutes,
    attendedMinutes: one.attendedMinutes + other.attendedMinutes,
  };
}

function told({ missed, notReady, leftOut, fullMinutes, attendedMinutes }: Told): string {
  return `${missed} hours missed, ${notReady} not ready, ${leftOut} left out, ${Math.round(fullMinutes / 60)} h full, ${Math.round(attendedMinutes / 60)} h attended`;
}

/** What a person does: the next pack to whichever channel is free first, at the most it may have, from when somebody is there. */
function byHand(input: PlanInput): Wishes {
  const { problem } = buildProblem(input);
  const timetable = new Timetable(problem);
  for (const [index, task] of problem.tasks.entries()) {
    if (task.replaces.length > 0) continue;
    const before = task.after < 0 ? null : timetable.placed[task.after];
    if (task.after >= 0 && !before) continue;
    const from = Math.max(task.release, before ? before.end + task.gap : 0);
    const ways = task.modes.flatMap((mode) =>
      problem.stations.flatMap(({ klass }, station) =>
        klass === mode.klass
          ? problem.windows.flatMap((window) => {
              const start = timetable.earliest(
                mode,
                station,
                Math.max(from, window.from),
                Math.min(window.to, Number.isNaN(task.ready) ? Infinity : task.ready),
              );
              return start < 0 ? [] : [{ task: index, mode, station, start }];
            })
          : [],
      ),
    );
    const [first] = ways.sort((a, b) => a.start - b.start || b.mode.amps - a.mode.amps);
    if (first) timetable.put(first);
  }
  return weigh(
    timetable,
    problem.tasks.map(({ replaces }) => replaces.length === 0),
  ).wishes;
}
