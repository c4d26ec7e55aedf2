import { cycles } from '../health';
import { DAY_MS, HOUR_MS, MINUTE_MS, countUpTo } from '../measure';
import type { CraftId, Instant, PersonId, RecordId } from '../measure';
import type { PackHistory, ReadingEvent } from '../record';
import type { HouseRules } from '../rules';

/** One flight as far as its landing tells: what was read under load, and what the same pack showed once it had rested. */
export interface Landing {
  readonly at: Instant;
  readonly recordId: RecordId;
  readonly pilot: PersonId | null;
  /** The pilot's name where the register does not know them. */
  readonly flownBy: string | null;
  readonly craftId: CraftId | null;
  readonly craft: string | null;
  /** Which set-up of the craft it was flown with. */
  readonly setup: number;
  readonly minutes: number | null;
  readonly usedMah: number | null;
  /** Charge used as a share of the capacity as measured, percent; null where nobody noted the charge. */
  readonly depthPercent: number | null;
  /** Under load at the end of it, the lowest cell, or the mean one where the pack's volts were read; millivolts. */
  readonly loadedMv: number | null;
  /** The same cells rested, before anything else was done with the pack. */
  readonly restedMv: number | null;
  readonly ambientC: number | null;
}

/** A reading later than this after a landing has leaked, or belongs to something nobody wrote down. */
const RESTED_WITHIN_MS = DAY_MS;

/**
 * The flights of a pack with what their landings showed, oldest first. A dip is no landing reading: only what was read under a steady load,
 * or settling just after, is in a record at all, and of the two only the first is taken for the loaded figure.
 * @param capacityMah as measured
 * @param flights those asked about, in order; all of them where nothing is said
 */
export function landingsOf(
  history: PackHistory,
  capacityMah: number,
  flights: PackHistory['flights'] = history.flights,
): readonly Landing[] {
  const { pack, charges, readings } = history;
  return flights.map((flight, i) => {
    const until = Math.min(
      flight.at + RESTED_WITHIN_MS,
      flights[i + 1]?.startedAt ?? Infinity,
      charges[countUpTo(charges, flight.at)]?.startedAt ?? Infinity,
    );
    const after = readings.slice(countUpTo(readings, flight.at), countUpTo(readings, until));
    const rested = after.find(({ condition }) => condition === 'rested');
    const loaded = flight.landing?.condition === 'loaded' ? flight.landing.volts : null;
    return {
      at: flight.at,
      recordId: flight.records.at(-1)!,
      pilot: flight.pilot,
      flownBy: flight.flownBy ?? null,
      craftId: flight.craftId ?? null,
      craft: flight.craft,
      setup: flight.craftSetup ?? 0,
      minutes: flight.minutes,
      usedMah: flight.usedMah,
      depthPercent: flight.usedMah === null ? null : (flight.usedMah / capacityMah) * 100,
      loadedMv: loaded === null ? null : decidingMv(loaded, pack.series),
      restedMv: rested === undefined ? null : restedLike(loaded, rested, pack.series),
      ambientC: flight.ambientC,
    };
  });
}

/** The lowest cell decides, or the mean one where nothing else was read. */
function decidingMv(volts: ReadingEvent['volts'], series: number): number {
  return volts.of === 'cells' ? Math.min(...volts.cellsMv) : Math.round(volts.packMv / series);
}

/** Like is compared with like: the mean cell with the mean one where the craft showed only the pack's volts. */
function restedLike(loaded: ReadingEvent['volts'] | null, { volts }: ReadingEvent, series: number): number {
  if (loaded?.of === 'pack' && volts.of === 'cells')
    return Math.round(volts.cellsMv.reduce((sum, mv) => sum + mv, 0) / volts.cellsMv.length);
  return decidingMv(volts, series);
}

/** Who has a pack, since when, for what, and when it is wanted back. */
export interface Out {
  readonly holder: PersonId;
  readonly since: Instant;
  /** Null where it was only said in whose hands it is. */
  readonly recordId: RecordId | null;
  readonly dueBackAt: Instant | null;
  /** When it is due back, or after as long as the house lets a pack be out without a word. */
  readonly wantedBackAt: Instant;
  readonly craftId: CraftId | null;
  /** Flights written down since it was taken. */
  readonly flights: number;
  /** Somebody else who says that they have it, and has not been answered. */
  readonly alsoWith: { readonly person: PersonId; readonly since: Instant } | null;
}

/** What is still to be written down about a pack's last use, and by whom. */
export interface Owed {
  readonly by: PersonId;
  readonly flownAt: Instant;
  readonly craftId: CraftId | null;
  /** Cool enough to be put away, and rested enough to be read, from then on. */
  readonly coolAt: Instant;
  readonly readFrom: Instant;
}

/** What flying asks to know of a pack beside its verdict. It follows from the records and is kept with the pack's state. */
export interface FlyingFacts {
  readonly cycles: number;
  readonly out: Out | null;
  readonly owed: Owed | null;
  /** The latest few. */
  readonly landings: readonly Landing[];
}

/** So many landings of a pack are kept for learning from; a season's are read from the ledger. */
const LANDINGS_KEPT = 24;

/** @param capacityMah as measured */
export function flyingFacts(
  history: PackHistory,
  capacityMah: number,
  rules: Pick<HouseRules, 'flight' | 'heat' | 'restMinutes'>,
): FlyingFacts {
  return {
    cycles: Math.round(cycles(history, rules.flight.maxDodPercent).count * 10) / 10,
    out: outOf(history, rules),
    owed: owedFor(history, rules),
    landings: landingsOf(history, capacityMah, history.flights.slice(-LANDINGS_KEPT)),
  };
}

function outOf({ custody, flights }: PackHistory, { flight }: Pick<HouseRules, 'flight'>): Out | null {
  if (!custody) return null;
  const { holderId, since, recordId, dueBackAt, craftId } = custody;
  const alsoWith = custody.alsoWith && { person: custody.alsoWith.person, since: custody.alsoWith.since };
  const flown = flights.filter(({ at }) => at > since).length;
  return {
    holder: holderId,
    since,
    recordId,
    dueBackAt,
    wantedBackAt: dueBackAt ?? since + flight.outHours * HOUR_MS,
    craftId,
    flights: flown,
    alsoWith,
  };
}

function owedFor(
  { flights, charges, readings }: PackHistory,
  { heat, restMinutes }: Pick<HouseRules, 'heat' | 'restMinutes'>,
): Owed | null {
  const flight = flights.at(-1);
  if (!flight?.pilot) return null;
  if ((charges.at(-1)?.at ?? -Infinity) > flight.at) return null;
  const since = readings.slice(countUpTo(readings, flight.at));
  if (since.some(({ condition }) => condition === 'rested')) return null;
  return {
    by: flight.pilot,
    flownAt: flight.at,
    craftId: flight.craftId ?? null,
    coolAt: flight.at + heat.coolMinutes * MINUTE_MS,
    readFrom: flight.at + restMinutes * MINUTE_MS,
  };
}
