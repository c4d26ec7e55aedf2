import { restedReadings } from '../src/core/assess';
import { assess } from '../src/core/assess';
import {
  balanceTo,
  bell,
  between,
  capacityAh,
  milliohmAt,
  newSimPack,
  readCells,
  readResistance,
  rest,
  seededRandom,
  use,
  weaken,
} from '../src/core/cellsim';
import type { Random, SimPack } from '../src/core/cellsim';
import { forecast, healthReport } from '../src/core/health';
import type { Forecast, MeasureId } from '../src/core/health';
import { DAY_MS, HOUR_MS } from '../src/core/measure';
import type { Instant, RecordId } from '../src/core/measure';
import type { PackFacts } from '../src/core/pack';
import { BLANK_CHARGE, BLANK_FLIGHT, fold } from '../src/core/record';
import type { PackRecord, RecordBody } from '../src/core/record';
import { PRESET_RULES } from '../src/core/rules';
import { aPack, SOMEBODY, START } from '../src/core/testing/histories';
import { say } from './measure';

const PACKS = 500;
const AHEAD_DAYS = [30, 90, 180];
const RULES = PRESET_RULES['even-keel'];
const LABEL_AH = 5;
const SERIES = 4;
const TRACKED: readonly MeasureId[] = ['capacity', 'resistance'];
/** The line whose crossing is foretold: the first to be reached, so that most packs do reach it. */
const LINE = {
  capacity: RULES.health.capacityPercent.watch,
  resistance: RULES.health.irGrowth.watch,
} as const;

interface Life {
  readonly facts: PackFacts;
  readonly records: readonly PackRecord[];
  /** When the cells truly crossed the line; null within the time simulated. */
  readonly crossed: Readonly<Record<'capacity' | 'resistance', Instant | null>>;
  /** From when on one cell was dying; null for a sound pack. */
  readonly dyingFrom: Instant | null;
  readonly until: Instant;
}

/** How often a forecast's range holds the truth, how far its middle is off, and what the rules miss or hold wrongly. */
export function benchForecast(): void {
  const random = seededRandom(500);
  const lives = Array.from({ length: PACKS }, (_, i) => live(random, i % 10 === 9));
  for (const days of AHEAD_DAYS) sayAhead(lives, days);
  sayVerdicts(lives);
}

function sayAhead(lives: readonly Life[], days: number): void {
  let inside = 0;
  let stated = 0;
  let open = 0;
  let silent = 0;
  const errors: number[] = [];
  for (const life of lives) {
    if (life.dyingFrom !== null) continue;
    for (const id of TRACKED) {
      const truth = life.crossed[id as 'capacity'];
      if (truth === null) continue;
      const now = truth - days * DAY_MS;
      const said = saidAt(life, id, now);
      if (!said || said.state === 'not-enough') continue;
      if (said.state !== 'range') {
        silent += 1;
        continue;
      }
      stated += 1;
      if (said.latest === null) open += 1;
      if (truth >= said.earliest && truth <= (said.latest ?? Infinity)) inside += 1;
      errors.push(Math.abs(said.expected - truth) / DAY_MS);
    }
  }
  errors.sort((a, b) => a - b);
  const share = ((inside / stated) * 100).toFixed(0);
  say(
    `Crossings ${days} days ahead inside the stated range`,
    `${share} % of ${stated}`,
    `median error ${(errors[errors.length >> 1] ?? 0).toFixed(0)} days, ${open} ranges open to the end, ${silent} said crossed or not in sight`,
  );
}

function saidAt({ facts, records }: Life, id: MeasureId, now: Instant): Forecast | null {
  const history = fold(
    facts,
    records.filter(({ at }) => at <= now),
  );
  const { rested } = restedReadings(history, RULES);
  const measure = healthReport(history, rested, RULES, now).measures.find((one) => one.id === id);
  return measure ? forecast(measure.trend, LINE[id as 'capacity'], measure.direction, now) : null;
}

function sayVerdicts(lives: readonly Life[]): void {
  let months = 0;
  let falseHolds = 0;
  let missed = 0;
  let dyingMonths = 0;
  for (const life of lives) {
    for (let now = START + 60 * DAY_MS; now <= life.until; now += 30 * DAY_MS) {
      const history = fold(
        life.facts,
        life.records.filter(({ at }) => at <= now),
      );
      const { verdict } = assess(history, RULES, now);
      months += 1;
      const dying = life.dyingFrom !== null && now > life.dyingFrom + 60 * DAY_MS;
      const worn = Object.values(life.crossed).some((at) => at !== null && now > at - 30 * DAY_MS);
      if (dying) {
        dyingMonths += 1;
        if (verdict === 'fit') missed += 1;
      } else if (life.dyingFrom === null && !worn && (verdict === 'hold' || verdict === 'retire-advised'))
        falseHolds += 1;
    }
  }
  const perThousand = (count: number, of: number) => ((count / of) * 1000).toFixed(1);
  say('False holds per 1,000 pack-months', perThousand(falseHolds, months), `${months} pack-months`);
  say(
    'Dying cells still called fit per 1,000 pack-months of dying',
    perThousand(missed, dyingMonths),
    `${dyingMonths} pack-months, from two months after it began`,
  );
}

/** Three years of one pack: flown once or twice a week, measured as a custodian would, with their meter's noise. */
function live(random: Random, dying: boolean): Life {
  const facts = aPack({ capacityMah: LABEL_AH * 1000, series: SERIES, inServiceAt: START });
  let pack = newSimPack({ chemistry: 'lipo', series: SERIES, labelAh: LABEL_AH, mv: 3800 }, random);
  const pace = 0.7 + random() * 0.8;
  const writer = new Writer();
  const crossed: { capacity: Instant | null; resistance: Instant | null } = {
    capacity: null,
    resistance: null,
  };
  const dyingFrom = dying ? START + between(random, 200, 500) * DAY_MS : null;
  let at = START + DAY_MS;
  for (let i = 0; i < 3; i++) writer.resistance(at + i * HOUR_MS, readResistance(pack, 20, random), 20);
  const fresh = pack;
  let measured = at;
  const until = START + 3 * 365 * DAY_MS;
  while (at < until) {
    if (dyingFrom !== null && at > dyingFrom)
      pack = weaken(pack, 2, { wear: 0.5, wearRate: 6, leakPercentPerMonth: 10 });
    if (at - measured > 40 * DAY_MS) {
      const celsius = between(random, 14, 26);
      writer.resistance(at - 20 * HOUR_MS, readResistance(pack, celsius, random), celsius);
      measured = at;
    }
    pack = oneUse(pack, writer, at, random);
    crossed.capacity ??= weakestShare(pack) * 100 <= LINE.capacity ? at : null;
    crossed.resistance ??= mostGrowth(pack, fresh) >= LINE.resistance ? at : null;
    const gap = (between(random, 2, 8) / pace) * DAY_MS;
    pack = rest(pack, gap, 20);
    at += gap;
  }
  return { facts, records: writer.records, crossed, dyingFrom, until };
}

function oneUse(before: SimPack, writer: Writer, at: Instant, random: Random): SimPack {
  const start = readCells(before, random, 3);
  const full = balanceTo(before, 4200, random);
  const put = full.cells.reduce((most, cell, i) => Math.max(most, cell.heldAh - before.cells[i]!.heldAh), 0);
  writer.charge(at - 12 * HOUR_MS, start, Math.round(put * 1000 * (1 + bell(random) * 0.01)));
  const flown = use(full, LABEL_AH * (between(random, 60, 74) / 100), 18, 18);
  writer.flight(at, Math.round(flown.usedAh * 1000 * (1 + bell(random) * 0.015)), flown.minutes);
  writer.reading(at + HOUR_MS, readCells(flown.pack, random, 3));
  const stored = balanceTo(flown.pack, 3800, random);
  writer.stored(at + 20 * HOUR_MS);
  writer.reading(at + 22 * HOUR_MS, readCells(stored, random, 3));
  return stored;
}

/** The weakest cell against the label: what a custodian would call the pack's capacity. */
function weakestShare(pack: SimPack): number {
  return Math.min(...pack.cells.map(capacityAh)) / LABEL_AH;
}

function mostGrowth(pack: SimPack, fresh: SimPack): number {
  return Math.max(...pack.cells.map((cell, i) => milliohmAt(cell, 25) / milliohmAt(fresh.cells[i]!, 25)));
}

const TO_FULL = { ...BLANK_CHARGE.settings, topMv: 4200 };

/** Notes records down as a ledger would hold them. */
class Writer {
  readonly records: PackRecord[] = [];

  private write(at: Instant, body: RecordBody): void {
    const seq = this.records.length + 1;
    const id = `record-${String(seq).padStart(6, '0')}` as RecordId;
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
    const payload = {
      volts: { of: 'cells' as const, cellsMv },
      condition: 'rested' as const,
      instrument: null,
    };
    this.write(at, {
      kind: 'reading',
      payload: { ...payload, meterErrorMv: 3, temperatureC: null, remarks: null },
      supersedes: null,
    });
  }

  resistance(at: Instant, irMilliohm: readonly number[], temperatureC: number): void {
    this.write(at, {
      kind: 'resistance',
      payload: { irMilliohm, temperatureC, instrument: null, remarks: null },
      supersedes: null,
    });
  }

  charge(at: Instant, startCellsMv: readonly number[], movedMah: number): void {
    this.write(at, {
      kind: 'charge',
      payload: { ...BLANK_CHARGE, settings: TO_FULL, startCellsMv, movedMah, minutes: 60, balanced: true },
      supersedes: null,
    });
  }

  stored(at: Instant): void {
    this.write(at, { kind: 'charge', payload: { ...BLANK_CHARGE, mode: 'storage' }, supersedes: null });
  }

  flight(at: Instant, usedMah: number, minutes: number): void {
    const payload = { ...BLANK_FLIGHT, craft: 'quad', minutes, usedMah, hottestC: 40, ambientC: 18 };
    this.write(at, { kind: 'flight', payload, supersedes: null });
  }
}
