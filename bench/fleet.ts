import { seededRandom } from '../src/core/cellsim';
import type { Random } from '../src/core/cellsim';
import { lifetimeOf, lifetimeOfNew, lossRate, purchase, shownBy } from '../src/core/fleet';
import type { FleetType } from '../src/core/fleet';
import { siblingsOf } from '../src/core/health';
import { DAY_MS } from '../src/core/measure';
import { fold } from '../src/core/record';
import type { PackHistory } from '../src/core/record';
import { PRESET_RULES } from '../src/core/rules';
import { START } from '../src/core/testing/histories';
import { fleetOf, SHAPES } from './lives';
import type { Life, Shape } from './lives';
import { say } from './measure';

const CLUBS = Number(process.env.CLUBS ?? 200);
const SEED = Number(process.env.SEED ?? 53);
const RULES = PRESET_RULES['even-keel'];
const YEARS = 6;
const AHEAD_DAYS = 2 * 365.25;
/** Packs a type at most, and those that stand ready to be bought. */
const MOST_PACKS = 14;
const SPARE_LIVES = 24;
/** Shapes that are about meters or single cells, and no way in which a type wears. */
const NO_TYPE: ReadonlySet<Shape> = new Set(['two instruments', 'deep flights', 'dying cell']);
/** Shapes a club's types may have; a club does not know which it has. */
const KINDS: readonly Shape[] = SHAPES.filter((shape) => !NO_TYPE.has(shape));

interface Club {
  readonly types: readonly {
    readonly shape: Shape;
    readonly fleet: FleetType<number>;
    readonly days: readonly number[];
  }[];
}

/**
 * Whether what Malle says is to be bought holds two years on, in clubs of two to four types whose packs wear by curves the forecast was not
 * built on. A club also loses packs to crashes at a rate of its own, which the forecast sees only in the packs lost so far.
 */
export function benchFleet(): void {
  const score = { type: 0, types: 0, club: [0, 0], over: 0, under: 0, width: 0, middle: 0, truth: 0 };
  const byShape = new Map<Shape, { held: number; of: number; off: number }>();
  let ms = 0;
  for (let i = 0; i < CLUBS; i += 1) {
    const random = seededRandom(SEED + i * 1_009);
    const lossesAYear = 0.1 * random();
    const { types, lost, packYears } = club(random, lossesAYear);
    const began = performance.now();
    const said = purchase(
      types.map(({ fleet }) => fleet),
      { lossesAYear: lossRate(lost, packYears), quarters: 8, draws: 2_000, seed: 1 },
    );
    ms += performance.now() - began;
    const boughtBy = (quarters: number) => types.reduce((sum, { days }) => sum + within(days, quarters), 0);
    for (const year of [1, 2]) {
      const range = said.money[4 * year - 1]!;
      const total = boughtBy(4 * year);
      if (total >= range.low && total <= range.high) score.club[year - 1]! += 1;
    }
    const money = said.money.at(-1)!;
    score.middle += money.middle;
    score.truth += boughtBy(8);
    score.width += money.high - money.low;
    for (const [j, { days, shape }] of types.entries()) {
      const bought = within(days, 8);
      const { low, high, middle } = said.types[j]!.upTo.at(-1)!;
      const shapes = byShape.get(shape) ?? { held: 0, of: 0, off: 0 };
      byShape.set(shape, shapes);
      shapes.of += 1;
      shapes.off += middle - bought;
      score.types += 1;
      if (bought < low) score.over += 1;
      else if (bought > high) score.under += 1;
      else {
        score.type += 1;
        shapes.held += 1;
      }
    }
  }
  const percent = (n: number, of: number) => `${((100 * n) / of).toFixed(0)} %`;
  say(
    `What ${CLUBS} clubs buy in two years, by club`,
    `${percent(score.club[1]!, CLUBS)} inside the range (${percent(score.club[0]!, CLUBS)} after one year)`,
    `${(score.middle / CLUBS).toFixed(1)} packs said, ${(score.truth / CLUBS).toFixed(1)} bought, range ${(score.width / CLUBS).toFixed(1)} wide, ${(ms / CLUBS).toFixed(0)} ms`,
  );
  say(
    'By type of a club',
    `${percent(score.type, score.types)} inside`,
    `fewer were bought in ${percent(score.over, score.types)}, more in ${percent(score.under, score.types)}`,
  );
  for (const [shape, { held, of, off }] of byShape)
    say(`  ${shape}`, `${held} of ${of} inside`, `${(off / of).toFixed(1)} packs too many on average`);
}

/** A club as it stands today, and what it truly buys from then on. */
function club(
  random: Random,
  lossesAYear: number,
): Club & { readonly lost: number; readonly packYears: number } {
  const count = 2 + Math.floor(random() * 3);
  let packYears = 0;
  const types = Array.from({ length: count }, (_, i) => {
    const shape = KINDS[Math.floor(random() * KINDS.length)]!;
    const size = 4 + Math.floor(random() * (MOST_PACKS - 3));
    const lives = fleetOf(shape, size + SPARE_LIVES, Math.floor(random() * 1e9), YEARS);
    const typeAge = 60 + random() * 700;
    const inService = lives.slice(0, size).flatMap((life) => {
      const age = Math.max(30, typeAge + (random() - 0.5) * 200);
      const end = endOf(life);
      // What is over already was retired.
      return end <= age ? [] : [{ life, age, end }];
    });
    packYears += inService.reduce((sum, { age }) => sum + age / 365.25, 0);
    const wanted = inService.length;
    const spare = lives.slice(size);
    const ends = inService.map(({ age, end }) => Math.min(end - age, lossIn(random, lossesAYear)));
    const days: number[] = [];
    for (;;) {
      const next = ends.findIndex((day) => day <= AHEAD_DAYS);
      if (next === -1) break;
      const [day] = ends.splice(next, 1);
      const life = spare[days.length];
      days.push(day!);
      if (life) ends.push(day! + Math.min(endOf(life), lossIn(random, lossesAYear)));
    }
    return { shape, fleet: fleetTypeOf(i, inService, wanted), days };
  });
  const lost = poisson(random, lossesAYear * packYears);
  return { types, lost, packYears };
}

function within(days: readonly number[], quarters: number): number {
  return days.filter((day) => day <= (quarters * 365.25) / 4).length;
}

/** What the register knows of one type: the packs' records so far, each by its own calendar. */
function fleetTypeOf(
  id: number,
  inService: readonly { readonly life: Life; readonly age: number }[],
  wanted: number,
): FleetType<number> {
  const known = inService.map(({ life, age }) => {
    const now = START + age * DAY_MS;
    return { now, history: historyAt(life, now) };
  });
  const shown = known.map(({ history, now }) => shownBy(history, RULES, now));
  return {
    id,
    lives: known.map(({ history, now }, i) =>
      lifetimeOf(history, RULES, now, shown.filter((_, other) => other !== i).flat()),
    ),
    fresh: lifetimeOfNew(RULES, siblingsOf(shown.flat())),
    wanted,
    price: 1,
    pace: 1,
  };
}

function historyAt({ facts, records }: Life, now: number): PackHistory {
  return fold(
    facts,
    records.filter(({ at }) => at <= now),
  );
}

/** Days until a life is truly over. */
function endOf({ retired }: Life): number {
  const ends = [retired.capacity, retired.resistance].filter((at) => at !== null);
  return ends.length === 0 ? Infinity : (Math.min(...ends) - START) / DAY_MS;
}

function lossIn(random: Random, aYear: number): number {
  return (-Math.log(1 - random()) / Math.max(aYear, 1e-9)) * 365.25;
}

function poisson(random: Random, mean: number): number {
  let [count, product] = [0, random()];
  while (product > Math.exp(-mean)) {
    product *= random();
    count += 1;
  }
  return count;
}
