import { READY_MINUTES, Planning } from '../charging';
import type { Equipment, LastSetting, PlanPack } from '../charging';
import { isLithium, restMv } from '../chemistry';
import { HOUR_MS, MINUTE_MS } from '../measure';
import type { AttendanceId, FlyingDayId, Instant, PackId, PackTypeId, PersonId } from '../measure';
import type { PackTypeFacts } from '../pack';
import type { HouseRules } from '../rules';

/** One craft kept in the air all day: minutes. */
export interface FlownDay {
  readonly flightMin: number;
  /** Until a pack that landed may be charged. */
  readonly coolMin: number;
  /** Taking off, carrying, plugging in, looking over. */
  readonly handlingMin: number;
  readonly dayMin: number;
}

/** The bench as it stands, and how the house charges there. */
export interface DayBench {
  readonly equipment: readonly Equipment[];
  readonly lastSettings: readonly LastSetting[];
  readonly rules: HouseRules;
}

/** Packs of one type, as the bench must know them. */
export interface DayType extends Pick<PackTypeFacts, 'chemistry' | 'series' | 'capacityMah' | 'chargeC'> {
  readonly id: PackTypeId;
  readonly connector: string | null;
}

export interface BenchDayAnswer {
  /** The fewest packs with which every flight finds a charged one; without a spare. */
  readonly packs: number;
  readonly flights: number;
  /** What one charge takes on this bench, the quickest; null where none is needed or none can be done. */
  readonly chargeMin: number | null;
  /** Outputs that are charged on. */
  readonly channels: number;
}

/** A typical pack of 1 Ah has 20 mΩ a cell; larger ones less, in proportion. The bench takes the same of a pack nobody measured. */
const MILLIOHM_AMPHOURS = 20;
const DAWN: Instant = Date.UTC(2026, 0, 1, 8);
/** Tries of the planner for each number of packs: what serves everybody is mostly served by the first plan. */
const TRIES = 40;

/**
 * How many packs a flying day takes, by planning every charge of the day on the bench with the planner: each landing frees a pack once it
 * has cooled, and it must be full when its turn comes again.
 */
export function packsOnBench(day: FlownDay, type: DayType, bench: DayBench): BenchDayAnswer {
  const flights = Math.max(1, Math.floor(day.dayMin / day.flightMin + 1e-9));
  for (let packs = 1; packs < flights; packs += 1) {
    const planned = dayWith(packs, flights, day, type, bench);
    if (planned) return { packs, flights, ...planned };
  }
  return { packs: flights, flights, chargeMin: null, channels: 0 };
}

/** Every charge of the day with so many packs; null where some flight would wait. */
function dayWith(
  packs: number,
  flights: number,
  { flightMin, coolMin, handlingMin, dayMin }: FlownDay,
  type: DayType,
  { equipment, lastSettings, rules }: DayBench,
): Pick<BenchDayAnswer, 'chargeMin' | 'channels'> | null {
  const charges = Array.from({ length: flights - packs }, (_, flight) => ({
    id: `charge-${flight}` as PackId,
    freeFrom: DAWN + ((flight + 1) * flightMin + coolMin + handlingMin) * MINUTE_MS,
    neededAt: DAWN + (flight + packs) * flightMin * MINUTE_MS,
  }));
  const neededAt = new Map(charges.map((charge) => [charge.id, charge.neededAt]));
  const planning = new Planning({
    from: DAWN,
    equipment,
    attended: [
      {
        id: 'day' as AttendanceId,
        personId: 'somebody' as PersonId,
        from: DAWN,
        to: DAWN + dayMin * MINUTE_MS + HOUR_MS,
      },
    ],
    packs: charges.map(({ id, freeFrom, neededAt: at }) => landed(id, freeFrom, at, type, rules)),
    running: [],
    locked: [],
    lastSettings,
    rules,
  });
  for (let tries = 0; ; tries += 1) {
    const { jobs } = planning.plan({ explained: false });
    const inTime = jobs.every((job) => job.packs.every(({ id }) => job.end <= neededAt.get(id)!));
    if (inTime && jobs.reduce((sum, job) => sum + job.packs.length, 0) === charges.length)
      return {
        chargeMin: Math.round(Math.min(...jobs.map(({ start, end }) => (end - start) / MINUTE_MS))),
        channels: new Set(jobs.map((job) => `${job.equipmentId} ${job.channel} ${job.boardId}`)).size,
      };
    if (tries === TRIES || planning.done) return null;
    planning.improve(1);
  }
}

/** A pack that landed as deep as the rules let it. */
function landed(
  id: PackId,
  freeFrom: Instant,
  neededAt: Instant,
  { chemistry, series, capacityMah, chargeC, connector, id: typeId }: DayType,
  rules: HouseRules,
): PlanPack {
  const ah = capacityMah / 1000;
  const mv = isLithium(chemistry) ? Math.round(restMv(chemistry, 100 - rules.flight.maxDodPercent)) : null;
  return {
    id,
    tag: id,
    typeId,
    chemistry,
    series,
    labelAh: ah,
    capacityAh: ah,
    chargeC,
    connector,
    cellsMv: mv === null ? null : Array.from({ length: series }, () => mv),
    cellMilliohm: MILLIOHM_AMPHOURS / ah,
    freeFrom,
    gently: false,
    balanceDue: false,
    bar: null,
    need: {
      do: 'fill',
      // The planner wants a pack full some time before it flies; in the field it flies as it comes off.
      flightAt: neededAt + READY_MINUTES * MINUTE_MS,
      dayId: 'day' as FlyingDayId,
    },
  };
}
