import { REST_MV } from '../src/core/chemistry';
import { DAY_MS, HOUR_MS } from '../src/core/measure';
import type { Instant, RecordId } from '../src/core/measure';
import type { PackFacts } from '../src/core/pack';
import { BLANK_CHARGE, BLANK_FLIGHT } from '../src/core/record';
import type { PackRecord, RecordBody } from '../src/core/record';
import { seededRandom } from '../src/core/cellsim';
import type { Random } from '../src/core/cellsim';
import { aPack, SOMEBODY, START } from '../src/core/testing/histories';

/**
 * Lives of packs that share nothing with cellsim but the dice: wear is drawn as a curve over time and use, cells differ, and what a
 * custodian would have written down is worked out from it with their meters' noise. For scoring forecasts on what they were not
 * built on.
 */

export const SHAPES = [
  'straight',
  'slowing',
  'quickening',
  'knee',
  'step',
  'winter gaps',
  'sparse',
  'noisy meters',
  'two instruments',
  'deep flights',
  'sound',
  'dying cell',
] as const;
export type Shape = (typeof SHAPES)[number];

/** Shapes the forecast's figures were tuned on; the others only report. */
export const TUNED_ON: ReadonlySet<Shape> = new Set(['straight', 'quickening', 'knee', 'sparse', 'sound']);

export interface Life {
  readonly shape: Shape;
  readonly facts: PackFacts;
  readonly records: readonly PackRecord[];
  /** When the weakest cell, or the one that grew most, truly crossed its watch line; null within the time drawn. */
  readonly crossed: { readonly capacity: Instant | null; readonly resistance: Instant | null };
  readonly retired: { readonly capacity: Instant | null; readonly resistance: Instant | null };
  /** When the knee or step began; null for shapes that have none. */
  readonly turnedAt: Instant | null;
  readonly dyingFrom: Instant | null;
  readonly until: Instant;
}

const SERIES = 4;
const YEARS = 3;
const LABEL_MAH = 5000;
const LINES = { capacity: [20, 30], resistance: [50, 100] } as const;

/** So many lives of a shape; the same seed draws the same ones. */
export function livesOf(shape: Shape, count: number, seed: number): readonly Life[] {
  const random = seededRandom(seed + SHAPES.indexOf(shape) * 7919);
  return Array.from({ length: count }, () =>
    live(shape, random, { turn: uniform(random, 200, 750), pace: uniform(random, 6, 16) }),
  );
}

/** Packs of one type and duty: they wear alike, give or take an eighth, and their knees come about the same time. */
export function fleetOf(shape: Shape, count: number, seed: number, years = YEARS): readonly Life[] {
  const random = seededRandom(seed);
  const type = { pace: uniform(random, 6, 16), turn: uniform(random, 300, 650) };
  return Array.from({ length: count }, () =>
    live(
      shape,
      random,
      {
        pace: type.pace * uniform(random, 0.88, 1.12),
        turn: type.turn * uniform(random, 0.88, 1.12),
      },
      years,
    ),
  );
}

const uniform = (random: Random, low: number, high: number) => low + random() * (high - low);
const normal = (random: Random, sd: number) =>
  sd * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/** Lost capacity and gained resistance, percent, as functions of days; the second of uses where wear follows use. */
function wearOf(shape: Shape, random: Random, turn: number, pace: number) {
  const bend = uniform(random, 2.5, 6);
  const jump = uniform(random, 4, 12);
  return (days: number): number => {
    const years = days / 365;
    switch (shape) {
      case 'slowing':
        return pace * 1.5 * Math.sqrt(years);
      case 'quickening':
        return pace * 0.6 * years * (1 + 0.55 * years);
      case 'knee':
        return pace * 0.7 * years + (days > turn ? bend * pace * 0.7 * ((days - turn) / 365) : 0);
      case 'step':
        return pace * 0.8 * years + (days > turn ? jump : 0);
      case 'sound':
        return 0.22 * pace * years;
      case 'straight':
      case 'winter gaps':
      case 'sparse':
      case 'noisy meters':
      case 'two instruments':
      case 'deep flights':
      case 'dying cell':
        return pace * years;
      default:
        return shape satisfies never;
    }
  };
}

/** Pace in percent a year, and the day of the knee or step where the shape has one. */
function live(
  shape: Shape,
  random: Random,
  { pace, turn }: { pace: number; turn: number },
  years = YEARS,
): Life {
  const facts = aPack({ capacityMah: LABEL_MAH, series: SERIES, inServiceAt: START });
  const until = START + years * 365 * DAY_MS;
  const wear = wearOf(shape, random, turn, pace);
  const ohmic = uniform(random, 1.6, 3.4);
  const start = Array.from({ length: SERIES }, () => uniform(random, -1, 2.5));
  const cellPace = Array.from({ length: SERIES }, () => uniform(random, 0.85, 1.15));
  const cellOhms = Array.from({ length: SERIES }, () => uniform(random, 3.4, 4.6));
  const kappa = 0.0277 + normal(random, 0.003);
  const noisy = shape === 'noisy meters' ? 2.2 : 1;
  const gain = 1 + normal(random, 0.006);
  const bentBy = normal(random, 4);
  const dyingFrom = shape === 'dying cell' ? START + uniform(random, 200, 600) * DAY_MS : null;
  const dying = Math.floor(random() * SERIES);
  const every = shape === 'sparse' ? uniform(random, 25, 60) : uniform(random, 3, 8);
  const irEvery = shape === 'sparse' ? 100 : uniform(random, 25, 60);
  const depth = shape === 'deep flights' ? [78, 86] : [62, 76];
  // Where wear follows use, the clock of wear stands nearly still in the winter.
  const isWinter = (at: Instant) => shape === 'winter gaps' && ((at - START) / DAY_MS) % 365 > 215;
  let clock = 0;
  let clockAt = START;
  const wornDays = (at: Instant) => {
    while (clockAt + DAY_MS <= at) {
      clock += shape === 'winter gaps' ? (isWinter(clockAt) ? 0.25 : 1.52) : 1;
      clockAt += DAY_MS;
    }
    return clock;
  };
  const lost = (cell: number, at: Instant, days: number) =>
    start[cell]! +
    cellPace[cell]! * wear(days) +
    (dyingFrom !== null && cell === dying && at > dyingFrom ? ((at - dyingFrom) / DAY_MS) * 0.12 : 0);
  const grown = (cell: number, at: Instant, days: number) =>
    1 + (ohmic * (lost(cell, at, days) - start[cell]!)) / 100;
  const writer = new Writer();
  const crossed = { capacity: null as Instant | null, resistance: null as Instant | null };
  const retired = { capacity: null as Instant | null, resistance: null as Instant | null };
  const measureOhms = (at: Instant, days: number) => {
    const celsius = shape === 'noisy meters' ? uniform(random, 2, 34) : uniform(random, 15, 27);
    const second = shape === 'two instruments' && at > START + 400 * DAY_MS;
    const contact = 1 + normal(random, 0.02 * noisy);
    const cells = cellOhms.map(
      (ohms, cell) =>
        ohms *
        grown(cell, at, days) *
        Math.exp(kappa * (25 - celsius)) *
        contact *
        (second ? 1.35 : 1) *
        (1 + normal(random, 0.035 * noisy)),
    );
    writer.resistance(at, cells, celsius + normal(random, 1.2), second ? 'second meter' : 'first meter');
  };
  for (let i = 0; i < 3; i++) measureOhms(START + (i + 1) * HOUR_MS, 0);
  let measuredAt = START;
  for (let at = START + 4 * DAY_MS; at < until; at += every * uniform(random, 0.5, 1.5) * DAY_MS) {
    const days = wornDays(at);
    const capacities = Array.from({ length: SERIES }, (_, cell) => 1 - lost(cell, at, days) / 100);
    const weakest = (1 - Math.min(...capacities)) * 100;
    const most = 100 * (Math.max(...capacities.map((_, cell) => grown(cell, at, days))) - 1);
    for (const [i, sums] of [crossed, retired].entries()) {
      if (weakest >= LINES.capacity[i]!) sums.capacity ??= at;
      if (most >= LINES.resistance[i]!) sums.resistance ??= at;
    }
    if (isWinter(at)) continue;
    if (at - measuredAt > irEvery * DAY_MS) {
      measureOhms(at - 20 * HOUR_MS, days);
      measuredAt = at;
    }
    const leakWeeks = every / 7;
    const leak = dyingFrom !== null && at > dyingFrom ? 4 * leakWeeks : 0;
    const read = (percents: readonly number[]) =>
      percents.map((percent) => Math.round((volts(percent, bentBy) + normal(random, 3 * noisy)) / 10) * 10);
    writer.reading(at - 13 * HOUR_MS, read(capacities.map((_, cell) => 40 - (cell === dying ? leak : 0))));
    const put = LABEL_MAH * Math.min(1, ...capacities) * 0.6 * (1 + normal(random, 0.01));
    writer.charge(at - 11 * HOUR_MS, Math.round(put));
    const usedMah = (LABEL_MAH * Math.min(...capacities) * uniform(random, depth[0]!, depth[1]!)) / 100;
    writer.flight(at, Math.round(usedMah * gain * (1 + normal(random, 0.012 * noisy))), usedMah / 190);
    writer.reading(
      at + HOUR_MS,
      read(capacities.map((share) => 100 - (usedMah / (LABEL_MAH * share)) * 100)),
    );
    writer.stored(at + 18 * HOUR_MS);
    writer.reading(at + 20 * HOUR_MS, read(capacities.map(() => 40)));
  }
  const turnedAt = shape === 'knee' || shape === 'step' ? START + turn * DAY_MS : null;
  return { shape, facts, records: writer.records, crossed, retired, turnedAt, dyingFrom, until };
}

/** Resting volts of a cell whose curve is bent a little from the book's in its middle. */
function volts(percent: number, bentBy: number): number {
  const curve = REST_MV.lipo;
  const clipped = Math.min(99.999, Math.max(0, percent));
  const i = Math.floor(clipped / 5);
  const mv = curve[i]! + ((clipped - i * 5) / 5) * (curve[i + 1]! - curve[i]!);
  return mv + bentBy * Math.sin((Math.PI * clipped) / 100);
}

class Writer {
  readonly records: PackRecord[] = [];

  private write(at: Instant, body: RecordBody): void {
    const seq = this.records.length + 1;
    const id = `life-${String(seq).padStart(6, '0')}` as RecordId;
    this.records.push({
      ...body,
      id,
      packId: aPack().id,
      seq,
      at,
      recordedAt: at,
      by: SOMEBODY,
      rulesVersion: 1,
    });
  }

  reading(at: Instant, cellsMv: readonly number[]): void {
    this.write(at, {
      kind: 'reading',
      payload: {
        volts: { of: 'cells', cellsMv },
        condition: 'rested',
        instrument: null,
        meterErrorMv: 5,
        temperatureC: null,
        remarks: null,
      },
      supersedes: null,
    });
  }

  resistance(at: Instant, irMilliohm: readonly number[], temperatureC: number, instrument: string): void {
    this.write(at, {
      kind: 'resistance',
      payload: { irMilliohm, temperatureC, instrument, remarks: null },
      supersedes: null,
    });
  }

  charge(at: Instant, movedMah: number): void {
    const settings = { ...BLANK_CHARGE.settings, topMv: 4200 };
    this.write(at, {
      kind: 'charge',
      payload: { ...BLANK_CHARGE, settings, movedMah, minutes: 60, balanced: true },
      supersedes: null,
    });
  }

  stored(at: Instant): void {
    this.write(at, { kind: 'charge', payload: { ...BLANK_CHARGE, mode: 'storage' }, supersedes: null });
  }

  flight(at: Instant, usedMah: number, minutes: number): void {
    this.write(at, {
      kind: 'flight',
      payload: { ...BLANK_FLIGHT, craft: 'quad', minutes, usedMah, hottestC: 40, ambientC: 18 },
      supersedes: null,
    });
  }
}
