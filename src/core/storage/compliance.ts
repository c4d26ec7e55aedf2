import { isLithium, restMv } from '../chemistry';
import { countUpTo, HOUR_MS } from '../measure';
import type { Instant, PersonId, PlaceId } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import type { Stretch } from './carried';
import { allowance } from './clock';
import { cutAt } from './exposure';

/** Pack-hours by how they were spent: in the band, outside it within the allowance, beyond it, or with nobody knowing. */
export interface StorageHours {
  readonly inBand: number;
  readonly allowed: number;
  readonly overdue: number;
  readonly unknown: number;
}

/** Hours of one pack under one pair of hands, in one place, within one of the asked-for periods. */
export interface HeldHours extends StorageHours {
  readonly period: number;
  readonly placeId: PlaceId | null;
  readonly holderId: PersonId | null;
}

export const NO_HOURS: StorageHours = { inBand: 0, allowed: 0, overdue: 0, unknown: 0 };

/**
 * How a pack's hours were spent, period by period and hand by hand. A stretch outside the band is allowed until the
 * house's hours are used up and overdue after that; time after a use that nobody measured is unknown.
 * @param starts rising instants; period i runs from starts[i] to starts[i + 1]
 */
export function storageHours(
  history: PackHistory,
  stretches: readonly Stretch[],
  rules: HouseRules,
  starts: readonly Instant[],
): readonly HeldHours[] {
  const { pack, moves, life } = history;
  if (!isLithium(pack.chemistry)) return [];
  const { bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  const held: HeldHours[] = [];
  let out = null as { readonly side: 'high' | 'low'; readonly hours: number } | null;
  // Nobody owes a retired pack its storage band.
  const until = life.retiredAt ?? Infinity;
  const cuts = [...moves.map(({ at }) => at), ...starts, ...(life.retiredAt === null ? [] : [life.retiredAt])]
    .sort((a, b) => a - b)
    .map((at) => ({ at }));
  for (const stretch of stretches) {
    for (const part of cutAt(stretch, cuts)) {
      if (part.from >= until) return held;
      const hours = (part.to - part.from) / HOUR_MS;
      const mv = restMv(pack.chemistry, (part.fromPercent + part.toPercent) / 2);
      const side = mv > bandHighMv ? 'high' : mv < bandLowMv ? 'low' : null;
      const before: number = out?.side === side ? out.hours : 0;
      out = side && part.known ? { side, hours: before + hours } : null;
      const period = starts.findLastIndex((start) => start <= part.from);
      if (period === -1 || part.from >= starts.at(-1)!) continue;
      const move = moves[countUpTo(moves, part.from) - 1];
      held.push({
        ...spent(hours, part.known, out && { ...out, allowed: allowance(pack, out.side, rules) }),
        period,
        placeId: move?.placeId ?? null,
        holderId: move?.holderId ?? null,
      });
    }
  }
  return held;
}

function spent(hours: number, known: boolean, out: { hours: number; allowed: number } | null): StorageHours {
  if (!known) return { ...NO_HOURS, unknown: hours };
  if (!out) return { ...NO_HOURS, inBand: hours };
  const overdue = Math.min(hours, Math.max(0, out.hours - out.allowed));
  return { ...NO_HOURS, allowed: hours - overdue, overdue };
}

/**
 * Two packs' hours, or two months', as one.
 * @example addHours({ inBand: 1, allowed: 2, overdue: 0, unknown: 0 }, { inBand: 3, allowed: 0, overdue: 0, unknown: 1 }) // => { inBand: 4, allowed: 2, overdue: 0, unknown: 1 }
 */
export function addHours(a: StorageHours, b: StorageHours): StorageHours {
  return {
    inBand: a.inBand + b.inBand,
    allowed: a.allowed + b.allowed,
    overdue: a.overdue + b.overdue,
    unknown: a.unknown + b.unknown,
  };
}

/**
 * The share of hours in which a pack complied, 0 to 1; null when there are none. Unknown is not compliant.
 * @example complianceShare({ inBand: 60, allowed: 20, overdue: 10, unknown: 10 }) // => 0.8
 */
export function complianceShare({ inBand, allowed, overdue, unknown }: StorageHours): number | null {
  const total = inBand + allowed + overdue + unknown;
  return total === 0 ? null : (inBand + allowed) / total;
}
