import { balanceTo, between, draw, newSimPack, readCells, rest, weaken } from '../core/cellsim';
import type { Random, SimPack } from '../core/cellsim';
import { isLithium } from '../core/chemistry';
import type { LithiumChemistry } from '../core/chemistry';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../core/measure';
import type { Instant } from '../core/measure';
import { DEFAULT_PRESET, PRESET_RULES } from '../core/rules';
import { PILOTS } from './cast';
import type { DemoType } from './cast';
import { Diary } from './diary';
import type { Directory, Entry } from './diary';
import type { Ending } from './endings';

const RULES = PRESET_RULES[DEFAULT_PRESET];
/** Volts a loaded cell shows below what it will rest at. */
const SAG_MV = 160;

/** Writes the life of one pack from its receipt to the present, in order. */
export function season(
  type: DemoType,
  ending: Ending,
  random: Random,
  now: Instant,
  directory: Directory,
): readonly Entry[] {
  const diary = new Diary(random, directory);
  const receivedAt = morning(now, ending.receivedDaysAgo);
  diary.write('ineke', receivedAt, {
    kind: 'received',
    payload: { source: 'Delivery for the survey season', placeId: directory.place(type.home) },
    supersedes: null,
  });
  const until = now - ending.quietDays * DAY_MS;
  if (isLithium(type.label.chemistry))
    lithiumSeason(type, type.label.chemistry, ending, random, diary, receivedAt, until);
  else totalsSeason(type, random, diary, receivedAt, until);
  ending.play(diary, now);
  return diary.entries;
}

function lithiumSeason(
  type: DemoType,
  chemistry: LithiumChemistry,
  ending: Ending,
  random: Random,
  diary: Diary,
  receivedAt: Instant,
  until: Instant,
): void {
  if (ending.neverRead) return;
  const { targetMv } = RULES.storage[chemistry];
  let pack = newSimPack(chemistry, type.label.series, targetMv, random);
  diary.reading('ineke', receivedAt + HOUR_MS, readCells(pack, random), 'rested');
  let day = receivedAt + between(random, 3, 10) * DAY_MS;
  while (day + 2 * DAY_MS < until) {
    if (ending.dyingCell && day > until - 150 * DAY_MS) pack = weaken(pack, ending.dyingCell, 0.93, 11);
    pack = flyingDay(type, chemistry, pack, random, diary, day, ending.storedFull?.(day, until) ?? null);
    day += between(random, ...type.everyDays) * DAY_MS;
  }
}

/** Charged the evening before, flown, read where it landed and at rest, and put to storage the next day. */
function flyingDay(
  type: DemoType,
  chemistry: LithiumChemistry,
  before: SimPack,
  random: Random,
  diary: Diary,
  day: Instant,
  forgottenDays: number | null,
): SimPack {
  const pilot = PILOTS[between(random, 0, PILOTS.length - 1)]!;
  const evening = day - 14 * HOUR_MS + between(random, 0, 120) * MINUTE_MS;
  let pack = balanceTo(before, RULES.topMv[chemistry] - 10, random);
  diary.reading(between(random, 0, 2) ? 'ineke' : 'tolle', evening, readCells(pack, random), 'rested');
  if (forgottenDays === null && between(random, 0, 5) > 0) {
    diary.moved(pilot, day, 'van', pilot);
    pack = draw(pack, between(random, 55, 78));
    const landed = day + between(random, 60, 240) * MINUTE_MS;
    diary.reading(
      pilot,
      landed,
      readCells(pack, random).map((mv) => mv - SAG_MV),
      'loaded',
    );
    diary.reading(pilot, landed + between(random, 45, 120) * MINUTE_MS, readCells(pack, random), 'rested');
    diary.moved(pilot, day + 9 * HOUR_MS, type.home, null);
  }
  const waited = forgottenDays ?? between(random, 20, 44) / 24;
  pack = rest(pack, waited * DAY_MS);
  if (forgottenDays !== null)
    diary.reading('tolle', day + (waited - 1) * DAY_MS, readCells(pack, random), 'rested');
  pack = balanceTo(pack, RULES.storage[chemistry].targetMv, random);
  diary.reading('ineke', day + waited * DAY_MS, readCells(pack, random), 'rested');
  return pack;
}

/** A pack read by its total only: topped up now and then, and its resting volts noted. */
function totalsSeason(
  type: DemoType,
  random: Random,
  diary: Diary,
  receivedAt: Instant,
  until: Instant,
): void {
  for (let at = receivedAt + HOUR_MS; at < until; at += between(random, ...type.everyDays) * DAY_MS) {
    diary.total(
      between(random, 0, 1) ? 'tolle' : 'fenn',
      at,
      between(random, 124, 137) * 10 * type.label.series,
    );
  }
}

/** Nine in the morning, so many whole days ago. */
function morning(now: Instant, daysAgo: number): Instant {
  return Math.floor(now / DAY_MS) * DAY_MS - daysAgo * DAY_MS + 9 * HOUR_MS;
}
