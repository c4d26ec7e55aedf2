import type { Charged } from '../../assess';
import { isLithium, socPercent } from '../../chemistry';
import { HOUR_MS } from '../../measure';
import type { FlyingDayId, Instant, PackId, PackTypeId } from '../../measure';
import type { HouseRules } from '../../rules';
import type { StorageState } from '../../storage';
import type { Attended, Bar, Need, PlanPack } from './input';

/** A pack as the register has it, before anything was decided about tonight. */
export interface BenchPack extends Omit<PlanPack, 'need' | 'bar'> {
  readonly bar: Exclude<Bar, 'chosen'> | null;
  readonly fieldPack: boolean;
  readonly charged: Charged;
  readonly storage: StorageState['state'];
  /** When its storage clock runs out; null while none runs. */
  readonly dueAt: Instant | null;
  readonly onWatch: boolean;
  readonly underFloor: boolean;
  readonly cycle: boolean;
}

/** What a day wants charged, and from when on. */
export interface FlyingDay {
  readonly id: FlyingDayId;
  readonly at: Instant;
  readonly wants: readonly { readonly typeId: PackTypeId; readonly packs: number }[];
  /** The packs to be taken along, where somebody has settled that. */
  readonly handOut?: readonly { readonly packId: PackId }[] | undefined;
}

/** Which packs fly on which day, and what no pack was left for. */
export interface Allotment {
  readonly dayOf: ReadonlyMap<PackId, FlyingDay>;
  readonly short: readonly {
    readonly dayId: FlyingDayId;
    readonly typeId: PackTypeId;
    readonly missing: number;
  }[];
}

/**
 * The packs a flying day gets: of each type as many as it wants, sound ones before those on caution, charged ones before others, then by
 * tag. Where the packs to be taken along are settled, it gets those. The day that comes first chooses first; a pack flies on one of the
 * days only.
 */
export function allot(days: readonly FlyingDay[], packs: readonly BenchPack[]): Allotment {
  const dayOf = new Map<PackId, FlyingDay>();
  const short: Allotment['short'][number][] = [];
  for (const day of [...days].sort((a, b) => a.at - b.at || a.id.localeCompare(b.id))) {
    const settled = new Set(day.handOut?.map(({ packId }) => packId));
    // A list that is settled is what is taken along, spares and all; a pack of it that went out of use since is missing.
    if (settled.size > 0) {
      const lost = new Map<PackTypeId, number>();
      for (const { id, typeId, bar } of packs) {
        if (!settled.has(id) || dayOf.has(id)) continue;
        if (bar === 'out-of-use') lost.set(typeId, (lost.get(typeId) ?? 0) + 1);
        else dayOf.set(id, day);
      }
      for (const [typeId, missing] of lost) short.push({ dayId: day.id, typeId, missing });
      continue;
    }
    for (const { typeId, packs: wanted } of day.wants) {
      const free = packs
        .filter((pack) => pack.typeId === typeId && pack.bar !== 'out-of-use' && !dayOf.has(pack.id))
        .sort(
          (a, b) => rank(a, day) - rank(b, day) || a.tag.localeCompare(b.tag, undefined, { numeric: true }),
        );
      for (const pack of free.slice(0, wanted)) dayOf.set(pack.id, day);
      if (free.length < wanted) short.push({ dayId: day.id, typeId, missing: wanted - free.length });
    }
  }
  return { dayOf, short };
}

/** The lower, the sooner chosen: full within its allowance, else at storage, else one that has to go to storage first. */
function rank({ bar, onWatch, charged, dueAt, cycle }: BenchPack, day: FlyingDay): number {
  const clockRunsOut = dueAt !== null && dueAt < day.at;
  const effort = clockRunsOut ? 10 : charged === 'charged' ? 0 : 5;
  return (bar ? 100 : 0) + (cycle ? 50 : 0) + (onWatch ? 20 : 0) + effort;
}

/** A pack that stays as it is, and until when. */
export interface LeftCharged {
  readonly packId: PackId;
  readonly tag: string;
  readonly dayId: FlyingDayId;
  readonly until: Instant;
}

export interface Demand {
  readonly packs: readonly PlanPack[];
  /** Charged for a flight within its allowance: nothing to be done. */
  readonly leftCharged: readonly LeftCharged[];
  readonly short: Allotment['short'];
}

/** A pack this near its top is full: topping it up would move next to nothing. */
const FULL_ENOUGH_PERCENT = 95;

/**
 * What each pack is to be given: filled for its flying day, where what it holds would not do and the wait is within the allowance;
 * emptied and filled where a balance pass failed; else to storage, where its clock runs. Next use decides: a full pack that flies before its
 * clock runs out is left charged.
 * @param chosen packs somebody has left out of the plan
 */
export function demandOf(
  packs: readonly BenchPack[],
  days: readonly FlyingDay[],
  attended: readonly Attended[],
  rules: HouseRules,
  chosen: ReadonlySet<PackId> = new Set(),
): Demand {
  const { dayOf, short } = allot(days, packs);
  const lastEnd = Math.max(0, ...attended.map(({ to }) => to));
  const leftCharged: LeftCharged[] = [];
  const planned: PlanPack[] = [];
  for (const pack of packs) {
    const day = dayOf.get(pack.id);
    const need = needOf(pack, day, lastEnd, rules);
    if (need === 'leave-charged')
      leftCharged.push({ packId: pack.id, tag: pack.tag, dayId: day!.id, until: day!.at });
    else if (need) planned.push({ ...pack, bar: chosen.has(pack.id) ? 'chosen' : pack.bar, need });
  }
  return { packs: planned, leftCharged, short };
}

function needOf(
  pack: BenchPack,
  day: FlyingDay | undefined,
  lastEnd: Instant,
  rules: HouseRules,
): Need | 'leave-charged' | null {
  if (day && day.at <= lastEnd + allowedHours(pack, rules) * HOUR_MS) {
    if (!isFull(pack, rules)) return { do: 'fill', flightAt: day.at, dayId: day.id };
    if (pack.dueAt === null || day.at <= pack.dueAt) return 'leave-charged';
  }
  const clockRuns = pack.storage === 'high' || pack.storage === 'low';
  // A pack on its way to storage is not emptied again for a failed pass that can wait for its next use.
  if (pack.cycle && day) return { do: 'cycle' };
  return clockRuns ? { do: 'store', dueAt: pack.dueAt, underFloor: pack.underFloor } : null;
}

function allowedHours({ fieldPack }: BenchPack, { allowance }: HouseRules): number {
  return fieldPack ? allowance.fieldHighHours : allowance.highHours;
}

function isFull({ chemistry, cellsMv, charged }: BenchPack, rules: HouseRules): boolean {
  if (!isLithium(chemistry)) return charged === 'charged';
  if (!cellsMv) return false;
  const top = socPercent(chemistry, rules.topMv[chemistry]);
  const lowest = Math.min(...cellsMv.map((mv) => socPercent(chemistry, mv)));
  return lowest >= (FULL_ENOUGH_PERCENT / 100) * top;
}
