import { isLithium } from '../../chemistry';
import { MINUTE_MS } from '../../measure';
import type { EquipmentId, Instant, PackId } from '../../measure';
import type { ChargerSetting } from '../setting';
import { provenBound } from './bound';
import type { Bound, Solve } from './bound';
import { buildProblem } from './build';
import type { Built, Obstacle, Refused } from './build';
import { liftFor, reasonFor } from './explain';
import type { Lift, Reason } from './explain';
import type { JobKind, Need, PlanInput } from './input';
import { PlanSearch } from './search';
import type { Snapshot } from './search';
import type { Wishes } from './wishes';

/** A job of the plan, with all that stands on its card. */
export interface PlannedJob {
  readonly do: JobKind;
  readonly packs: readonly { readonly id: PackId; readonly tag: string; readonly need: Need }[];
  readonly equipmentId: EquipmentId;
  /** Null for an external load. */
  readonly channel: string | null;
  readonly boardId: EquipmentId | null;
  readonly adapterId: EquipmentId | null;
  readonly setting: ChargerSetting;
  readonly start: Instant;
  readonly end: Instant;
  /** The most watts it draws at the output. */
  readonly peakW: number;
  readonly locked: boolean;
  readonly reason: Reason;
}

/** Packs for which nothing stands in the plan, which limit stands in the way, and the least that would lift it. */
export interface LeftOut {
  readonly packs: readonly { readonly id: PackId; readonly tag: string; readonly need: Need }[];
  readonly why: Refused['why'];
  /** What the job would take, minutes; null where no charger can do it at all. */
  readonly minutes: number | null;
  readonly lift: Lift | null;
}

export interface Plan {
  readonly from: Instant;
  readonly jobs: readonly PlannedJob[];
  readonly leftOut: readonly LeftOut[];
  /** Packs that do not fill a series board. */
  readonly remainders: readonly {
    readonly boardId: EquipmentId;
    readonly packs: readonly { readonly id: PackId; readonly tag: string }[];
  }[];
  readonly wishes: Wishes;
}

/** What would lift a limit is worked out for the first few left out: it is the same for the others more often than not. */
const LIFTS_ASKED = 5;

/** What a search is worth, in its own measure of effort: under two seconds of a quiet core, whatever the evening. */
const WHOLE_EFFORT = 1_500_000;

/**
 * A plan in the making: a first one stands at once, and `improve` makes it better until `done`. The same input ends in the same plan, on
 * whatever machine, since its effort is counted and not its seconds.
 */
export class Planning {
  readonly #built: Built;
  readonly #search: PlanSearch;
  readonly #input: PlanInput;

  constructor(input: PlanInput, { seed = 1 }: { readonly seed?: number } = {}) {
    this.#input = input;
    this.#built = buildProblem(input);
    this.#search = new PlanSearch(this.#built.problem, { seed, whole: WHOLE_EFFORT });
  }

  /** Goes on for so many tries; answers whether the plan got better. */
  improve(tries: number): boolean {
    return this.#search.improve(tries);
  }

  /** The best places so far, in the plain figures of the search. */
  get best(): Snapshot {
    return this.#search.best;
  }

  /** How far the search has come, from 0 to 1. */
  get share(): number {
    return this.#built.problem.tasks.length === 0 ? 1 : Math.min(1, this.#search.effort / WHOLE_EFFORT);
  }

  get done(): boolean {
    return this.share === 1;
  }

  /** How far the best plan so far can be from the best there is; null where nothing could be proven. */
  bound(solve: Solve): Promise<Bound | null> {
    return provenBound(this.#built.problem, this.#search.best.weighed.wishes, solve);
  }

  /** The best plan so far. Its explanations are made for the asking: they cost about as much as some tries. */
  plan({ explained }: { readonly explained: boolean }): Plan {
    const { best } = this.#search;
    return {
      from: this.#built.origin,
      jobs: this.#jobs(explained),
      leftOut: [...this.#refused(), ...this.#unplaced(explained)],
      remainders: this.#built.remainders.map(({ board, packs }) => ({
        boardId: board.id,
        packs: packs.map(({ id, tag }) => ({ id, tag })),
      })),
      wishes: best.weighed.wishes,
    };
  }

  #jobs(explained: boolean): PlannedJob[] {
    const { problem, tasks, stations, origin } = this.#built;
    const { best } = this.#search;
    const locked = new Set(this.#input.locked.length > 0 ? problem.fixed.map(({ task }) => task) : []);
    return best.placed
      .flatMap((at): PlannedJob[] => {
        if (!at) return [];
        const { kind, packs, board, modes } = tasks[at.task]!;
        const { setting, adapter } = modes[problem.tasks[at.task]!.modes.indexOf(at.mode)]!;
        const { equipment, channel } = stations[at.station]!;
        return [
          {
            do: kind,
            packs: packs.map(({ id, tag, need }) => ({ id, tag, need })),
            equipmentId: equipment.id,
            channel,
            boardId: board?.id ?? null,
            adapterId: adapter?.id ?? null,
            setting,
            start: origin + at.start * MINUTE_MS,
            end: origin + at.end * MINUTE_MS,
            peakW: peakOf(kind, setting),
            locked: locked.has(at.task),
            reason: explained ? reasonFor(this.#built, this.#search, at) : { because: 'best-place' },
          },
        ];
      })
      .sort((a, b) => a.start - b.start || a.packs[0]!.tag.localeCompare(b.packs[0]!.tag));
  }

  #refused(): LeftOut[] {
    const by = new Map<string, { why: Refused['why']; packs: Refused['pack'][]; minutes: number | null }>();
    for (const { pack, why, minutes } of this.#built.refused) {
      const key = why === 'too-long' ? `${why} ${pack.id}` : why;
      const group = by.get(key) ?? { why, packs: [], minutes: minutes ?? null };
      group.packs.push(pack);
      by.set(key, group);
    }
    return [...by.values()].map(({ why, packs, minutes }) => ({
      packs: packs.map(({ id, tag, need }) => ({ id, tag, need })),
      why,
      minutes,
      lift: why === 'too-long' && minutes !== null ? { by: 'one-span', minutes } : null,
    }));
  }

  #unplaced(explained: boolean): LeftOut[] {
    const { problem, tasks } = this.#built;
    const { best } = this.#search;
    let asking = explained ? LIFTS_ASKED : 0;
    return problem.tasks.flatMap((task, index): LeftOut[] => {
      const replaced = problem.tasks.some((one, i) => best.grouped[i] && one.replaces.includes(index));
      const asked = task.replaces.length > 0 ? best.grouped[index]! : !replaced;
      if (!asked || best.placed[index]) return [];
      const why: Obstacle = 'no-room';
      return [
        {
          packs: tasks[index]!.packs.map(({ id, tag, need }) => ({ id, tag, need })),
          why,
          minutes: task.modes.length > 0 ? Math.min(...task.modes.map(({ minutes }) => minutes)) : null,
          lift: asking-- > 0 ? liftFor(problem, best, index) : null,
        },
      ];
    });
  }
}

/** The bound of the plan for an input whose wishes are known: worked out apart from the planning, by another worker. */
export function boundFor(input: PlanInput, wishes: Wishes, solve: Solve): Promise<Bound | null> {
  return provenBound(buildProblem(input).problem, wishes, solve);
}

function peakOf(kind: JobKind, { chemistry, cells, topMv, amps }: ChargerSetting): number {
  if (kind === 'lower' || kind === 'discharge') return 0;
  return (amps * cells * (isLithium(chemistry) ? (topMv ?? 0) : 1_500)) / 1000;
}
