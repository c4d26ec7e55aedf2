import loadSolver from 'highs';
import type { Highs } from 'highs';
import { Planning, planFaults, proveBound } from '../src/core/charging';
import type { Bound, PlanInput, Wishes } from '../src/core/charging';
import { lastSpanProgramme, leadingWish, placesProgramme } from '../src/core/charging/planner/bound';
import { buildProblem } from '../src/core/charging/planner/build';
import { isLate } from '../src/core/charging/planner/problem';
import type { Problem } from '../src/core/charging/planner/problem';
import type { Snapshot } from '../src/core/charging/planner/search';
import { Timetable } from '../src/core/charging/planner/timetable';
import { weigh, windowOf } from '../src/core/charging/planner/wishes';
import { anEvening, FAMILIES } from '../src/core/testing/evenings';
import type { Family } from '../src/core/testing/evenings';
import { exactProgramme, noShorterAttendance } from './exactPlan';
import { median, ms, say } from './measure';

/** Evenings of each family; PLAN_EVENINGS asks for others. */
const EVENINGS = Number(process.env.PLAN_EVENINGS ?? 18);
/** Small evenings of each family that are held against an exact search; PLAN_SMALL asks for others. */
const SMALL = Number(process.env.PLAN_SMALL ?? 9);
/** Only families with this in their name. */
const ONLY = process.env.PLAN_FAMILY ?? '';
const BOUND_SECONDS = 10;
const EXACT_SECONDS = 60;

let solver: Highs | null = null;

async function solve(programme: string, seconds = BOUND_SECONDS): Promise<number | null> {
  solver ??= await loadSolver();
  try {
    return proveBound(solver, programme, seconds);
  } catch {
    solver = null;
    return null;
  }
}

/** Tonight's plan against what can be proven, family by family, and against the next pack on the next free channel. */
export async function benchPlan(): Promise<void> {
  const asked = FAMILIES.filter((family) => family.includes(ONLY));
  for (const family of asked) await benchFamily(family);
  for (const family of asked) await benchSmall(family);
}

function wholePlan(input: PlanInput): { planning: Planning; firstMs: number; wholeMs: number } {
  const began = performance.now();
  const planning = new Planning(input);
  const firstMs = performance.now() - began;
  while (!planning.done) planning.improve(60);
  return { planning, firstMs, wholeMs: performance.now() - began };
}

async function benchFamily(family: Family): Promise<void> {
  const ratios: number[] = [];
  const notServed: number[] = [];
  const overnight: number[] = [];
  const within: number[] = [];
  const firsts: number[] = [];
  const wholes: number[] = [];
  const bounds: number[] = [];
  const sums = { plan: NOTHING, hand: NOTHING };
  let faults = 0;
  let unproven = 0;
  for (let seed = 1; seed <= EVENINGS; seed++) {
    const input = anEvening(family, seed);
    const { planning, firstMs, wholeMs } = wholePlan(input);
    firsts.push(firstMs);
    wholes.push(wholeMs);
    const plan = planning.plan({ explained: false });
    faults += planFaults(input, plan.jobs).length;
    const asked = performance.now();
    const bound = await planning.bound(solve);
    bounds.push(performance.now() - asked);
    if (!bound) unproven += 1;
    else if (bound.wish === 'notReady') notServed.push(bound.has - bound.atLeast);
    else if (bound.wish !== 'missed') ratios.push(ratioOf(bound));
    if (family === 'fly, short morning span' && bound?.wish === 'fullMinutes') {
      const { problem } = buildProblem(input);
      overnight.push(await overnightBeyond(problem, planning.best));
      within.push(await ratioWithin(problem, planning.best));
    }
    sums.plan = added(sums.plan, plan.wishes);
    sums.hand = added(sums.hand, byHand(input));
  }
  const at = quantilesOf(ratios);
  say(
    family,
    `n ${ratios.length}`,
    `÷ bound ${at(0.5)} / ${at(0.9)} / ${at(1)}`,
    `not served beyond the bound ${notServed.join(' ') || '-'}`,
    `faults ${faults}`,
    `unproven ${unproven}`,
    `first ${ms(median(firsts))}, worst ${ms(Math.max(...firsts))}; whole ${ms(median(wholes))}, worst ${ms(Math.max(...wholes))}; bound ${ms(median(bounds))}`,
  );
  say('', `plan ${told(sums.plan)}`, `by hand ${told(sums.hand)}`);
  if (overnight.length === 0) return;
  say('', `packs full overnight beyond what is proven: ${overnight.join(' ')}`);
  const inside = quantilesOf(within);
  say('', `with as many in each span, ÷ bound ${inside(0.5)} / ${inside(0.9)} / ${inside(1)}`);
}

function quantilesOf(values: readonly number[]): (share: number) => string {
  const sorted = [...values].sort((a, b) => a - b);
  return (share) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]?.toFixed(3) ?? '-';
}

/** Packs that wait full from an earlier span than the last, less those that must. */
async function overnightBeyond(problem: Problem, best: Snapshot): Promise<number> {
  const inSpan = flownFrom(problem, best);
  const late = inSpan.reduce((sum, packs) => sum + packs, 0);
  const most = await solve(lastSpanProgramme(problem, best.weighed.wishes.missed === 0));
  return Math.floor((most ?? late) + 1e-6) - inSpan.at(-1)!;
}

/** Minutes at full to the fewest there can be with as many packs in each span. */
async function ratioWithin(problem: Problem, best: Snapshot): Promise<number> {
  const { missed, fullMinutes } = best.weighed.wishes;
  let atLeast = 0;
  for (const how of ['parts', 'whole'] as const) {
    const solved = await solve(placesProgramme(problem, missed === 0, how, flownFrom(problem, best)));
    atLeast = Math.max(atLeast, solved === null ? 0 : -solved);
  }
  return fullMinutes / atLeast;
}

/** How many packs for a flight are charged in each span. */
function flownFrom(problem: Problem, { placed }: Snapshot): number[] {
  const inSpan = problem.windows.map(() => 0);
  for (const [index, at] of placed.entries()) {
    const task = problem.tasks[index]!;
    if (at && isLate(task)) inSpan[windowOf(problem, at.start)]! += task.packs;
  }
  return inSpan;
}

/** Few packs: what is proven, or else the whole problem minute by minute. */
async function benchSmall(family: Family): Promise<void> {
  let [proven, exact, open] = [0, 0, 0];
  const beyond: string[] = [];
  for (let seed = 1; seed <= SMALL; seed++) {
    const input = anEvening(family, seed, { packs: 5 + (seed % 3) });
    const { planning } = wholePlan(input);
    const bound = await planning.bound(solve);
    if (bound && ratioOf(bound) <= 1.01) {
      proven += 1;
      continue;
    }
    const { wishes } = planning.best.weighed;
    const { problem } = buildProblem(input);
    const wish = leadingWish(problem, wishes);
    const has = wish === 'notReady' ? wishes.notReady + wishes.leftOut : wishes[wish];
    const atLeast = await exactBest(problem, wish, wishes, has);
    if (ratioOf({ wish, has, atLeast }) <= 1.01) exact += 1;
    else {
      open += 1;
      beyond.push(`${wish} ${has}, at least ${atLeast.toFixed(0)}`);
    }
  }
  say(
    `${family}, 5 to 7 packs`,
    `within 1 %: ${proven} by the bound, ${exact} by exact search`,
    `not settled: ${open}`,
    beyond.join('; '),
  );
}

/** The best there is, or what of it is settled in the time. */
async function exactBest(
  problem: Problem,
  wish: 'missed' | 'notReady' | 'fullMinutes' | 'attendedMinutes',
  { missed }: Wishes,
  has: number,
): Promise<number> {
  if (wish === 'missed') return 0;
  if (wish === 'attendedMinutes') {
    const within = Math.ceil(has / 1.01);
    return noShorterAttendance(problem, within) ? within : 0;
  }
  const solved = await solve(exactProgramme(problem, wish, missed === 0), EXACT_SECONDS);
  if (solved === null) return 0;
  if (wish !== 'notReady') return solved;
  const asked = problem.tasks.reduce(
    (sum, { replaces, packs }) => sum + (replaces.length > 0 ? 0 : packs),
    0,
  );
  return asked - Math.floor(solved + 1e-6);
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
