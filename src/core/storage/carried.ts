import { isLithium, restMv, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { DAY_MS, HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
import { BLEED_DAYS } from './clock';
import type { StorageEvidence } from './evidence';

/** A span of time over which a pack's charge is carried forward in a straight line, by its highest cell. */
export interface Stretch {
  readonly from: Instant;
  readonly to: Instant;
  readonly fromPercent: number;
  readonly toPercent: number;
  /** False after a use nobody has measured since: the figures are then a guess from what was used. */
  readonly known: boolean;
}

/** Charge a lithium pack without its own bleed loses on the shelf. Source: the practice. */
export const SELF_DISCHARGE_PERCENT_PER_MONTH = 3;
const MONTH_MS = 30 * DAY_MS;

/**
 * What a pack held at every moment from its first evidence to `until`: full stays full but for self-discharge, a smart
 * pack left alone bleeds to storage after its own delay, a use takes out what it says it took.
 * Empty for a chemistry without a rest-voltage curve.
 */
export function carriedForward(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: HouseRules,
  until: Instant,
): readonly Stretch[] {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return [];
  const storedPercent = socPercent(chemistry, rules.storage[chemistry].targetMv);
  const stretches: Stretch[] = [];
  let percent: number | null = null;
  for (const [i, one] of evidence.entries()) {
    const to = Math.min(evidence[i + 1]?.at ?? until, until);
    if (one.kind === 'used') percent = percent === null ? null : afterUse(pack, percent, one.usedMah);
    else percent = percentOf(one, chemistry, storedPercent);
    if (to <= one.at) continue;
    const known = one.kind !== 'used';
    const pieces = leftAlone(pack, one.at, to, percent ?? storedPercent, storedPercent, known);
    stretches.push(...pieces);
    percent = pieces.at(-1)!.toPercent;
  }
  return stretches;
}

function percentOf(
  one: Exclude<StorageEvidence, { kind: 'used' }>,
  chemistry: LithiumChemistry,
  storedPercent: number,
): number {
  switch (one.kind) {
    case 'read':
      return socPercent(chemistry, Math.max(...one.cellsMv));
    case 'charged':
      return socPercent(chemistry, one.mv);
    case 'stored':
      return storedPercent;
    default:
      return one satisfies never;
  }
}

/** Nothing noted: a use is taken to have emptied the pack as far as nobody should, which never counts it as full. */
function afterUse(pack: PackFacts, before: number, usedMah: number | null): number {
  return usedMah === null ? Math.min(before, 20) : Math.max(0, before - (usedMah / pack.capacityMah) * 100);
}

// No closures here: the server's loader gives every one its name at run time, which cost more than the sum itself.
function leftAlone(
  { smart }: PackFacts,
  from: Instant,
  to: Instant,
  percent: number,
  storedPercent: number,
  known: boolean,
): Stretch[] {
  if (!smart?.autoStorage || percent <= storedPercent) return [resting(from, to, percent, known)];
  const bleedFrom = from + smart.autoStorageAfterHours * HOUR_MS;
  const bleedTo = bleedFrom + BLEED_DAYS * DAY_MS;
  const waiting = resting(from, Math.min(to, bleedFrom), percent, known);
  if (to <= bleedFrom) return [waiting];
  const begin = waiting.toPercent;
  const share = (Math.min(to, bleedTo) - bleedFrom) / (bleedTo - bleedFrom);
  const bled = begin - Math.max(0, begin - storedPercent) * share;
  const end = Math.min(to, bleedTo);
  const bleeding = { from: bleedFrom, to: end, fromPercent: begin, toPercent: bled, known };
  return to <= bleedTo ? [waiting, bleeding] : [waiting, bleeding, resting(bleedTo, to, bled, known)];
}

function resting(from: Instant, to: Instant, fromPercent: number, known: boolean): Stretch {
  const lost = (SELF_DISCHARGE_PERCENT_PER_MONTH * (to - from)) / MONTH_MS;
  return { from, to, fromPercent, toPercent: Math.max(0, fromPercent - lost), known };
}

/** The charge carried forward to the end of the last stretch, per-cell millivolts; null when nothing was ever known. */
export function carriedMv(pack: PackFacts, stretches: readonly Stretch[]): number | null {
  const last = stretches.at(-1);
  if (!last || !isLithium(pack.chemistry)) return null;
  return Math.round(restMv(pack.chemistry, last.toPercent));
}
