import { DEFAULT_METER_ERROR_MV, isLithium, restMv, socPercent } from '../chemistry';
import type { LithiumChemistry, SocEstimate } from '../chemistry';
import { DAY_MS, HOUR_MS } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
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

export const CONTENTS_BASES = ['read', 'charged', 'taper', 'filled', 'stored', 'bled', 'used'] as const;
/** What tells how much a pack holds: the last thing that happened to it. */
export type ContentsBasis = (typeof CONTENTS_BASES)[number];

/** What a pack holds by now, carried from the last thing that happened to it. Charge in percent, each with its range. */
export interface Contents {
  readonly basis: ContentsBasis;
  /** When that happened. */
  readonly since: Instant;
  /** Cell by cell, or one figure for all of them. */
  readonly percents: readonly number[];
  readonly lowest: SocEstimate;
  readonly highest: SocEstimate;
  readonly records: readonly RecordId[];
}

/** Charge a lithium pack without its own bleed loses on the shelf. Source: the practice. */
export const SELF_DISCHARGE_PERCENT_PER_MONTH = 3;
const MONTH_MS = 30 * DAY_MS;

/**
 * Charge that the chemistry's own leak takes in a time, percent; a pack may lose nothing, or twice as much.
 * @example leakedPercent(30 * 86_400_000) // => 3
 * @example leakedPercent(-1) // => 0
 */
export function leakedPercent(ms: number): number {
  return (SELF_DISCHARGE_PERCENT_PER_MONTH * Math.max(0, ms)) / MONTH_MS;
}

/** Where a charge stopped on its taper, or after its quick phase, leaves a pack. Source: the practice: about 90 to 95 %. */
const TAPER_PERCENT = 92.5;
const TAPER_UNSURE = 2.5;
/** A charger's end volts are a surface charge: rested they stand for up to this much less, percent. */
const SURFACE_UNSURE = 3;
/** Volts of a charge that was broken off under its full current stand for up to this much less. */
const LOOSE_UNSURE = 15;
/** Charge counted by a charger or a craft is this good, as a share of what was counted. */
const COUNTED_UNSURE = 0.05;
/** Nothing noted: a use is taken to have left this much, as far as nobody should go, percent; it never counts as full. */
const LEFT_AFTER_UNNOTED = 20;

/** A pack's cells at a moment while they are carried along; percent of the capacity the pack still has. */
interface Held {
  readonly basis: ContentsBasis;
  readonly since: Instant;
  readonly percents: readonly number[];
  /** How much less any cell may hold than told. */
  readonly less: number;
  /** The most each cell may hold: resting alone adds nothing to it. */
  readonly mostPercents: readonly number[];
  readonly records: readonly RecordId[];
}

/**
 * What a pack held at every moment from its first evidence to `until`, and what it holds then: full stays full but for
 * self-discharge, a smart pack left alone bleeds to storage after its own delay, a use takes out what it says it took, a
 * charge leaves what it ended at. After a charge, a discharge or a flight the older reading is history. `contents` is null
 * when nothing is known, and for a chemistry without a rest-voltage curve.
 * @param capacityAt the capacity as last measured before a moment, mAh: counted charge is told in percent of it
 */
export function carry(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: CarryingRules,
  until: Instant,
  capacityAt: (at: Instant) => number = () => pack.capacityMah,
): Carried {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return NOTHING;
  const storedPercent = socPercent(chemistry, rules.storage[chemistry].targetMv);
  const nothing = { pack, rules, past: [], before: [], held: null, last: null, storedPercent };
  return carriedOn(through(nothing, evidence, until, capacityAt), until);
}

/** What was carried, carried through more evidence, all of it after the last. */
function through(
  base: CarriedBase,
  evidence: readonly StorageEvidence[],
  until: Instant,
  capacityAt: (at: Instant) => number,
): CarriedBase {
  if (evidence.length === 0) return base;
  const { pack, rules, storedPercent } = base;
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return base;
  const past = [...base.past];
  const before = [...base.before];
  let { held, last } = base;
  for (const one of evidence) {
    if (one.at > until) break;
    if (last && one.at > last.at) {
      past.push(...restingFrom(pack, last, held, one.at, storedPercent, rules.bleedDays));
      held = held && carriedTo(held, pack, last.at, one.at, storedPercent, rules.bleedDays);
    }
    if (held && one.kind !== 'read' && one.kind !== 'used') before.push(begun(one.records, held));
    held = after(held, one, capacityAt(one.at), chemistry, storedPercent);
    last = one;
  }
  // One step back is far enough, and all of them would never be let go of.
  shorter.delete(base.past);
  shorter.set(past, base.past);
  return { pack, rules, past, before, held, last, storedPercent };
}

const shorter = new WeakMap<readonly Stretch[], readonly Stretch[]>();

/** The stretches that these go on from; null where they were carried from the first evidence on. */
export function shorterOf(past: readonly Stretch[]): readonly Stretch[] | null {
  return shorter.get(past) ?? null;
}

/** What a pack held when a charge began. */
export interface Beginning {
  /** The charge's own records, by which it is known. */
  readonly records: readonly RecordId[];
  readonly contents: () => Contents;
}

/** The house's limits that what a pack holds is carried by. */
export type CarryingRules = Pick<HouseRules, 'storage' | 'bleedDays'>;

/** What {@link carry} answers. */
export interface Carried {
  /** The stretches up to the last evidence: the same list at every moment. */
  readonly past: readonly Stretch[];
  /** Those from the last evidence to the moment asked about. */
  readonly open: readonly Stretch[];
  readonly contents: Contents | null;
  /** What the pack held when each charge began, in the order of the charges; left out where nobody knew. */
  readonly before: readonly Beginning[];
  /** The same carried to another moment, if nothing more happens; null for one before the last evidence. */
  readonly until: (moment: Instant) => Carried | null;
  /** The same through more evidence, all of it after the last, to a moment; only of what was carried through all there was. */
  readonly onwards: (
    more: readonly StorageEvidence[],
    until: Instant,
    capacityAt: (at: Instant) => number,
  ) => Carried;
}

const NOTHING: Carried = {
  past: [],
  open: [],
  contents: null,
  before: [],
  until: () => NOTHING,
  onwards: () => NOTHING,
};

/** What was carried up to the last evidence, and on what terms it goes on. */
interface CarriedBase {
  readonly pack: PackFacts;
  readonly rules: CarryingRules;
  readonly past: readonly Stretch[];
  readonly before: readonly Beginning[];
  readonly held: Held | null;
  readonly last: StorageEvidence | null;
  readonly storedPercent: number;
}

/** Goes on from the last evidence to a moment; the same for every moment after it, so that a future costs only its last stretch. */
function carriedOn(base: CarriedBase, until: Instant): Carried {
  const { pack, rules, past, before, held, last, storedPercent } = base;
  const goesOn = last !== null && until > last.at;
  const now = held && goesOn ? carriedTo(held, pack, last.at, until, storedPercent, rules.bleedDays) : held;
  const open = goesOn ? restingFrom(pack, last, held, until, storedPercent, rules.bleedDays) : [];
  return {
    past,
    open,
    contents: now && contentsOf(now),
    before,
    until: (later) => (last === null || later < last.at ? null : carriedOn(base, later)),
    onwards: (more, then, capacityAt) => carriedOn(through(base, more, then, capacityAt), then),
  };
}

function restingFrom(
  pack: PackFacts,
  { at, kind }: StorageEvidence,
  held: Held | null,
  to: Instant,
  storedPercent: number,
  bleedDays: number,
): readonly Stretch[] {
  const known = kind !== 'used' && kind !== 'unknown';
  const percent = held ? Math.max(...held.percents) : storedPercent;
  return leftAlone(pack, at, to, percent, storedPercent, bleedDays, known);
}

function begun(records: readonly RecordId[], held: Held): Beginning {
  return { records, contents: () => contentsOf(held) };
}

/** The stretches of {@link carry} alone, for what only asks how time was spent. */
export function carriedForward(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: CarryingRules,
  until: Instant,
): readonly Stretch[] {
  const { past, open } = carry(pack, evidence, rules, until);
  return [...past, ...open];
}

function after(
  before: Held | null,
  one: StorageEvidence,
  capacityMah: number,
  chemistry: LithiumChemistry,
  storedPercent: number,
): Held | null {
  switch (one.kind) {
    case 'read': {
      const error = one.meterErrorMv ?? DEFAULT_METER_ERROR_MV;
      const percents: number[] = [];
      let [less, more] = [0, 0];
      for (const mv of one.cellsMv) {
        const percent = socPercent(chemistry, mv);
        percents.push(percent);
        less = Math.max(less, percent - socPercent(chemistry, mv - error));
        more = Math.max(more, socPercent(chemistry, mv + error) - percent);
      }
      return heldAs('read', one, percents, less, more);
    }
    case 'charged': {
      const percents = one.cellsMv.map((mv) => socPercent(chemistry, mv));
      if (one.how !== 'taper')
        return heldAs('charged', one, percents, one.how === 'loose' ? LOOSE_UNSURE : SURFACE_UNSURE, 0);
      const short = percents.map((percent) => (percent * TAPER_PERCENT) / 100);
      return heldAs('taper', one, short, TAPER_UNSURE, TAPER_UNSURE);
    }
    case 'filled': {
      if (!before) return null;
      const put = (one.movedMah / capacityMah) * 100;
      const percents = before.percents.map((percent) => Math.min(100, percent + put));
      const unsure = COUNTED_UNSURE * put;
      const most = before.mostPercents.map((percent) => Math.min(100, percent + put + unsure));
      return { ...heldAs('filled', one, percents, before.less + unsure, 0), mostPercents: most };
    }
    case 'stored':
      return heldAs('stored', one, [storedPercent], SURFACE_UNSURE, SURFACE_UNSURE);
    case 'used': {
      if (!before) return null;
      if (one.usedMah === null) {
        const percents = before.percents.map((percent) => Math.min(percent, LEFT_AFTER_UNNOTED));
        return { ...heldAs('used', one, percents, 100, 0), mostPercents: before.mostPercents };
      }
      const taken = (one.usedMah / capacityMah) * 100;
      const percents = before.percents.map((percent) => Math.max(0, percent - taken));
      const unsure = COUNTED_UNSURE * taken;
      const most = before.mostPercents.map((percent) => Math.max(0, percent - taken + unsure));
      return { ...heldAs('used', one, percents, before.less + unsure, 0), mostPercents: most };
    }
    case 'unknown':
      return null;
    default:
      return one satisfies never;
  }
}

function heldAs(
  basis: ContentsBasis,
  { at: since, records }: StorageEvidence,
  percents: readonly number[],
  less: number,
  more: number,
): Held {
  const mostPercents = percents.map((percent) => Math.min(100, percent + more));
  return { basis, since, percents, less, mostPercents, records };
}

/** The cells after resting alone: leaked, or bled to storage by the pack itself. Losing nothing and losing twice as much are in the range. */
function carriedTo(
  held: Held,
  { smart }: PackFacts,
  from: Instant,
  to: Instant,
  storedPercent: number,
  bleedDays: number,
): Held {
  const leaked = leakedPercent(to - from);
  const bleedFrom = smart?.autoStorage ? from + smart.autoStorageAfterHours * HOUR_MS : Infinity;
  const bled = Math.min(1, Math.max(0, to - bleedFrom) / (bleedDays * DAY_MS));
  const percents: number[] = [];
  let most = 0;
  for (const percent of held.percents) {
    const leakedTo = Math.max(0, percent - leaked);
    const now = leakedTo > storedPercent ? leakedTo - (leakedTo - storedPercent) * bled : leakedTo;
    percents.push(now);
    most = Math.max(most, percent);
  }
  const isBled = bled === 1 && most > storedPercent;
  return {
    basis: isBled ? 'bled' : held.basis,
    since: isBled ? bleedFrom + bleedDays * DAY_MS : held.since,
    percents,
    less: held.less + leaked,
    mostPercents: held.mostPercents,
    records: held.records,
  };
}

function contentsOf({ basis, since, percents, less, mostPercents, records }: Held): Contents {
  const told = (percent: number, highPercent: number): SocEstimate => ({
    percent,
    lowPercent: Math.max(0, percent - less),
    highPercent: Math.max(percent, highPercent),
  });
  return {
    basis,
    since,
    percents,
    lowest: told(Math.min(...percents), Math.min(...mostPercents)),
    highest: told(Math.max(...percents), Math.max(...mostPercents)),
    records,
  };
}

// No closures here: the server's loader gives every one its name at run time, which cost more than the sum itself.
function leftAlone(
  { smart }: PackFacts,
  from: Instant,
  to: Instant,
  percent: number,
  storedPercent: number,
  bleedDays: number,
  known: boolean,
): Stretch[] {
  if (!smart?.autoStorage || percent <= storedPercent) return resting(from, to, percent, known);
  const bleedFrom = from + smart.autoStorageAfterHours * HOUR_MS;
  const bleedTo = bleedFrom + bleedDays * DAY_MS;
  const waiting = resting(from, Math.min(to, bleedFrom), percent, known);
  if (to <= bleedFrom) return waiting;
  const begin = waiting.at(-1)!.toPercent;
  const share = (Math.min(to, bleedTo) - bleedFrom) / (bleedTo - bleedFrom);
  const bled = begin - Math.max(0, begin - storedPercent) * share;
  const end = Math.min(to, bleedTo);
  const bleeding = { from: bleedFrom, to: end, fromPercent: begin, toPercent: bled, known };
  return to <= bleedTo
    ? [...waiting, bleeding]
    : [...waiting, bleeding, ...resting(bleedTo, to, bled, known)];
}

/** The line of a leak ends where it meets nothing; drawn on to a later end it would flatten, and a full pack stay full longer. */
function resting(from: Instant, to: Instant, fromPercent: number, known: boolean): Stretch[] {
  const emptyAt = from + (fromPercent / SELF_DISCHARGE_PERCENT_PER_MONTH) * MONTH_MS;
  if (to <= emptyAt)
    return [{ from, to, fromPercent, toPercent: fromPercent - leakedPercent(to - from), known }];
  const empty = { from: emptyAt, to, fromPercent: 0, toPercent: 0, known };
  return emptyAt > from ? [{ from, to: emptyAt, fromPercent, toPercent: 0, known }, empty] : [empty];
}

/** What the cells of a pack show at rest, holding this: per-cell millivolts. */
export function contentsMv(chemistry: LithiumChemistry, { percents }: Contents): readonly number[] {
  return percents.map((percent) => Math.round(restMv(chemistry, percent)));
}
