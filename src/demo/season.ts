import {
  balanceTo,
  bell,
  between,
  charge,
  newSimPack,
  readCells,
  readResistance,
  rest,
  use,
  weaken,
} from '../core/cellsim';
import type { Random, SimPack } from '../core/cellsim';
import { isLithium } from '../core/chemistry';
import type { LithiumChemistry } from '../core/chemistry';
import type { Occasion } from '../core/inspection';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../core/measure';
import type { Instant } from '../core/measure';
import { DEFAULT_PRESET, PRESET_RULES } from '../core/rules';
import { PILOTS } from './cast';
import type { DemoType, PersonKey } from './cast';
import { Diary } from './diary';
import type { Directory, Entry } from './diary';
import type { Ending } from './endings';

const RULES = PRESET_RULES[DEFAULT_PRESET];
const RESISTANCE_EVERY_DAYS = 45;
/** Sooner than the rules ask, because it is done along with other work. */
const INSPECTED_EVERY_DAYS = 38;

/** One pack's life as it is being written. */
interface Life {
  readonly type: DemoType;
  readonly chemistry: LithiumChemistry;
  readonly ending: Ending;
  readonly random: Random;
  readonly looks: Random;
  readonly diary: Diary;
  readonly until: Instant;
}

/** Writes the life of one pack from its receipt to the present, in order. */
export function season(
  type: DemoType,
  ending: Ending,
  random: Random,
  looks: Random,
  now: Instant,
  directory: Directory,
): readonly Entry[] {
  const diary = new Diary(random, directory, looks);
  const receivedAt = morning(now, ending.receivedDaysAgo);
  diary.write('ineke', receivedAt, {
    kind: 'received',
    payload: { source: 'Delivery for the survey season', placeId: directory.place(type.home) },
    supersedes: null,
  });
  const until = now - ending.quietDays * DAY_MS;
  const { chemistry } = type.label;
  if (isLithium(chemistry))
    lithiumSeason({ type, chemistry, ending, random, looks, diary, until }, receivedAt);
  else nickelSeason(type, random, diary, receivedAt, until);
  if (ending.notReadSince) diary.notRead();
  ending.play(diary, now);
  return diary.entries;
}

function lithiumSeason(life: Life, receivedAt: Instant): void {
  const { type, chemistry, ending, random, diary, until } = life;
  if (ending.neverRead) return;
  const { series, capacityMah } = type.label;
  const { targetMv } = RULES.storage[chemistry];
  let pack = newSimPack({ chemistry, series, labelAh: capacityMah / 1000, mv: targetMv }, random);
  diary.reading('ineke', receivedAt + HOUR_MS, readCells(pack, random), 'rested');
  for (const minutes of [70, 75, 80]) measureResistance(life, pack, receivedAt + minutes * MINUTE_MS);
  lookOver(life, receivedAt + 90 * MINUTE_MS, 'receipt');
  let day = receivedAt + between(random, 3, 10) * DAY_MS;
  let measuredAt = receivedAt;
  let inspectedAt = receivedAt;
  let lain = receivedAt;
  while (day + 2 * DAY_MS < until) {
    pack = rest(pack, day - lain, shelfC(day));
    if (ending.kneeDaysAgo && day > until - ending.kneeDaysAgo * DAY_MS) pack = quickened(pack);
    if (ending.dyingCell && day > until - 150 * DAY_MS) pack = weaken(pack, ending.dyingCell, DYING);
    if (day - measuredAt > RESISTANCE_EVERY_DAYS * DAY_MS) {
      measureResistance(life, pack, day - 15 * HOUR_MS);
      measuredAt = day;
    }
    if (day - inspectedAt > INSPECTED_EVERY_DAYS * DAY_MS) {
      lookOver(life, day - 16 * HOUR_MS, 'scheduled');
      inspectedAt = day;
    }
    const after = flyingDay(life, pack, day);
    pack = after.pack;
    lain = after.at;
    day += between(random, ...type.everyDays) * DAY_MS;
  }
}

/** From a knee on every cell wears several times as fast. */
function quickened(pack: SimPack): SimPack {
  return {
    ...pack,
    cells: pack.cells.map((cell) => ({ ...cell, wearRate: Math.max(cell.wearRate, KNEE_RATE) })),
  };
}

const KNEE_RATE = 15;

const DYING = { wear: 0.9, wearRate: 4, leakPercentPerMonth: 9 };

/** Charged the evening before, flown, read where it landed and at rest, and put to storage the next day. */
function flyingDay(life: Life, before: SimPack, day: Instant): { pack: SimPack; at: Instant } {
  const { type, ending, random, diary, until } = life;
  const pilot = PILOTS[between(random, 0, PILOTS.length - 1)]!;
  const evening = day - 14 * HOUR_MS + between(random, 0, 120) * MINUTE_MS;
  const forgottenDays = ending.storedFull?.(day, until) ?? null;
  let pack = charged(life, before, evening, between(random, 0, 2) ? 'ineke' : 'tolle');
  if (forgottenDays === null) {
    // Of late packs are taken out and returned; before that it was only written down in whose hands they were.
    const ofLate = day > life.until - LOOKED_OVER_DAYS * DAY_MS;
    if (ofLate) diary.takenOut(pilot, day, type.craft, 10);
    else diary.moved(pilot, day, 'van', pilot);
    pack = flown(life, pack, day + between(random, 60, 240) * MINUTE_MS, pilot);
    if (ofLate) diary.returned(pilot, day + 9 * HOUR_MS, type.home);
    else diary.moved(pilot, day + 9 * HOUR_MS, type.home, null);
  }
  const waited = (forgottenDays ?? between(random, 20, 44) / 24) * DAY_MS;
  pack = rest(pack, waited, shelfC(day));
  if (forgottenDays !== null)
    diary.reading('tolle', day + waited - DAY_MS, readCells(pack, random), 'rested');
  return { pack: putToStorage(life, pack, day + waited), at: day + waited };
}

function charged(
  { type, chemistry, random, diary }: Life,
  pack: SimPack,
  at: Instant,
  by: PersonKey,
): SimPack {
  const { series, capacityMah, chargeC } = type.label;
  const amps = Math.floor(Math.min(RULES.charge.homeC, chargeC ?? 1) * capacityMah) / 1000;
  const topMv = RULES.topMv[chemistry];
  const balanceA = series === 1 ? null : capacityMah > 10_000 ? 1 : 0.4;
  const done = charge(pack, { amps, topMv, cutOffC: 0.05, balanceA });
  diary.charge(by, at, {
    mode: 'balance',
    charger: capacityMah < 1_000 ? 'Six-port charger' : 'Bench charger',
    settings: { chemistry, cells: series, topMv, currentA: amps },
    startCellsMv: readCells(pack, random),
    endCellsMv: done.endMv.map((mv) => Math.min(topMv, Math.round(mv / 10) * 10)),
    movedMah: Math.round(done.movedAh * 1000 * (1 + bell(random) * 0.006)),
    minutes: Math.round(done.minutes),
    temperatureC: 22 + between(random, 0, 8),
    balanced: true,
  });
  return done.pack;
}

function flown({ type, random, diary }: Life, pack: SimPack, landed: Instant, pilot: PersonKey): SimPack {
  const { labelAh } = pack;
  const ambientC = outsideC(landed) + between(random, -4, 4);
  const amps = labelAh * type.flownAtC * (1 + bell(random) * 0.04);
  // One of the pilots flies until the last minute.
  const deeper = pilot === LANDS_LOW ? 13 : 0;
  const used = use(pack, labelAh * ((between(random, 55, 74) + deeper) / 100), amps, ambientC);
  // Worn cells waste part of what they hold: the same charge carries a craft for less long.
  const lossy = 1 - 0.25 * meanWear(pack);
  diary.flight(pilot, landed, {
    craft: type.craft,
    minutes: Math.round(used.minutes * lossy * (1 + bell(random) * 0.03) * 10) / 10,
    landing: {
      volts: { of: 'cells', cellsMv: used.loadedMv.map((mv) => Math.round(mv / 10) * 10) },
      condition: 'loaded',
    },
    usedMah: Math.round(used.usedAh * 1000 * (1 + bell(random) * 0.01)),
    hottestC: Math.round(used.hottestC + bell(random)),
    ambientC,
  });
  const readAt = landed + between(random, 45, 120) * MINUTE_MS;
  diary.reading(pilot, readAt, readCells(used.pack, random), 'rested');
  return used.pack;
}

function putToStorage({ chemistry, random, diary, until }: Life, before: SimPack, at: Instant): SimPack {
  const { targetMv } = RULES.storage[chemistry];
  const pack = balanceTo(before, targetMv, random);
  const moved = Math.abs(mean(pack.cells.map((cell, i) => cell.heldAh - before.cells[i]!.heldAh)));
  diary.charge('ineke', at - 2 * HOUR_MS, {
    mode: 'storage',
    charger: 'Bench charger',
    startCellsMv: readCells(before, random),
    endCellsMv: readCells(pack, random),
    movedMah: Math.round(moved * 1000),
    minutes: between(random, 20, 70),
    temperatureC: 21 + between(random, 0, 6),
  });
  // Of late everything that comes back is looked over; nobody wrote that down before.
  if (at > until - LOOKED_OVER_DAYS * DAY_MS) diary.inspection('ineke', at - 5 * MINUTE_MS, 'after-use');
  diary.reading('ineke', at, readCells(pack, random), 'rested');
  return pack;
}

const LOOKED_OVER_DAYS = 45;
const LANDS_LOW: PersonKey = 'jory';

function measureResistance({ diary, random }: Life, pack: SimPack, at: Instant): void {
  const celsius = Math.round(shelfC(at));
  diary.resistance('ineke', at, readResistance(pack, celsius, random), celsius);
}

/** Calipers are read to a tenth of a millimetre, scales to a gram. */
function lookOver({ type, diary, looks }: Life, at: Instant, occasion: Occasion): void {
  const thicknessMm = Math.round((type.thicknessMm + bell(looks) * 0.08) * 10) / 10;
  const massG =
    occasion === 'receipt' ? Math.round((type.label.massG ?? 0) * (1 + bell(looks) * 0.004)) : null;
  diary.inspection('ineke', at, occasion, massG === null ? { thicknessMm } : { thicknessMm, massG });
}

function meanWear(pack: SimPack): number {
  return mean(pack.cells.map(({ wear }) => wear));
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, one) => sum + one, 0) / values.length;
}

/** The workshop over the year: 16 °C in January, 24 °C in July. */
function shelfC(at: Instant): number {
  return 20 - 4 * Math.cos((2 * Math.PI * (at - JANUARY)) / (365.25 * DAY_MS));
}

/** The estuary over the year: 6 °C in January, 20 °C in July. */
function outsideC(at: Instant): number {
  return Math.round(13 - 7 * Math.cos((2 * Math.PI * (at - JANUARY)) / (365.25 * DAY_MS)));
}

const JANUARY = Date.UTC(2025, 0, 15);

/** A pack read by its total only: charged now and then, and its resting volts noted. */
function nickelSeason(
  type: DemoType,
  random: Random,
  diary: Diary,
  receivedAt: Instant,
  until: Instant,
): void {
  const looked = (at: Instant, occasion: Occasion) =>
    diary.inspection('tolle', at, occasion, occasion === 'receipt' ? { massG: type.label.massG! } : {});
  looked(receivedAt + HOUR_MS, 'receipt');
  let inspectedAt = receivedAt;
  for (let at = receivedAt + 2 * HOUR_MS; at < until; at += between(random, ...type.everyDays) * DAY_MS) {
    const by = between(random, 0, 1) ? 'tolle' : 'fenn';
    diary.charge(by, at - HOUR_MS, {
      mode: 'fast',
      charger: 'Transmitter charger',
      movedMah: between(random, 900, 1_700),
      minutes: between(random, 90, 200),
      temperatureC: between(random, 26, 38),
    });
    diary.total(by, at, between(random, 130, 138) * 10 * type.label.series);
    if (at - inspectedAt > INSPECTED_EVERY_DAYS * DAY_MS) {
      looked(at + HOUR_MS / 2, 'scheduled');
      inspectedAt = at;
    }
  }
}

/** Nine in the morning, so many whole days ago. */
function morning(now: Instant, daysAgo: number): Instant {
  return Math.floor(now / DAY_MS) * DAY_MS - daysAgo * DAY_MS + 9 * HOUR_MS;
}
