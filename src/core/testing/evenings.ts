import type { Charger, Equipment, EquipmentFacts } from '../charging';
import type { Attended, PlanInput, PlanPack, Need } from '../charging/planner';
import { CHEMISTRY, restMv } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { HOUR_MS, MINUTE_MS } from '../measure';
import type { AttendanceId, EquipmentId, FlyingDayId, PackId, PackTypeId, PersonId } from '../measure';
import { between, seededRandom } from '../random';
import type { Random } from '../random';
import { EVEN_KEEL } from './histories';

/** Evenings at a bench, made up from a seed: packs of several kinds, chargers, boards, who is there when, and what flies next. */

export const FAMILIES = [
  'store, one span',
  'store, two spans',
  'fly, evening only',
  'fly, short morning span',
  'mixed',
  'overloaded',
  'many channels',
  'pool far short',
  'one supply',
  'boards',
  'one load',
] as const;
export type Family = (typeof FAMILIES)[number];

interface Kind {
  readonly chemistry: LithiumChemistry;
  readonly series: number;
  readonly ah: number;
  readonly chargeC: number | null;
  readonly plug: string;
  readonly milliohm: number;
}

const KINDS: readonly Kind[] = [
  { chemistry: 'lipo', series: 6, ah: 16, chargeC: 3, plug: 'blue', milliohm: 1.2 },
  { chemistry: 'lipo', series: 6, ah: 5, chargeC: 2, plug: 'yellow', milliohm: 3 },
  { chemistry: 'lipo', series: 4, ah: 3.3, chargeC: 2, plug: 'yellow', milliohm: 5 },
  { chemistry: 'lihv', series: 4, ah: 5.2, chargeC: 1, plug: 'yellow', milliohm: 3.5 },
  { chemistry: 'lipo', series: 3, ah: 1.3, chargeC: 1, plug: 'yellow', milliohm: 9 },
  { chemistry: 'liion', series: 4, ah: 14, chargeC: 0.5, plug: 'yellow', milliohm: 6 },
];
const WHOOP: Kind = { chemistry: 'lihv', series: 1, ah: 0.45, chargeC: 1, plug: 'tiny', milliohm: 45 };

const ORIGIN = Date.UTC(2026, 5, 5, 16);

/** One evening of a family; the same seed gives the same evening. */
export function anEvening(family: Family, seed: number, size?: { packs: number }): PlanInput {
  const random = seededRandom(seed * 7919 + FAMILIES.indexOf(family));
  const packs = size?.packs ?? between(random, 12, family === 'overloaded' ? 60 : 40);
  const equipment = benchFor(family, random);
  const attended = attendanceFor(family, random, packs);
  const flightAt = ORIGIN + (attended.at(-1)!.to - ORIGIN) + between(random, 1, 8) * 30 * MINUTE_MS;
  const morning = ORIGIN + 16 * HOUR_MS + between(random, 0, 4) * 30 * MINUTE_MS;
  const fleet = Array.from({ length: packs }, (_, i) =>
    aPlanPack(
      i,
      family,
      random,
      family === 'fly, short morning span' ? morning : Math.max(flightAt, ORIGIN + 14 * HOUR_MS),
    ),
  );
  return {
    from: ORIGIN,
    equipment,
    attended,
    packs: fleet,
    running: [],
    locked: [],
    lastSettings: [],
    rules: EVEN_KEEL,
  };
}

function aPlanPack(i: number, family: Family, random: Random, flightAt: number): PlanPack {
  const kind = family === 'boards' && random() < 0.7 ? WHOOP : KINDS[between(random, 0, KINDS.length - 1)]!;
  const need = needFor(family, random, flightAt);
  const { chemistry, series, ah } = kind;
  const capacityAh = ah * (0.82 + random() * 0.18);
  const percent =
    need.do === 'store' ? (random() < 0.65 ? 80 + random() * 20 : 5 + random() * 8) : 10 + random() * 50;
  const level = need.do === 'fill' && family === 'boards' ? 38 + random() * 6 : percent;
  const apart = random() < 0.8 ? 6 : 14;
  const cellsMv = Array.from({ length: series }, () =>
    Math.round(restMv(chemistry, level) + (random() - 0.5) * apart),
  );
  return {
    id: `pack-${i}` as PackId,
    tag: `P-${String(i + 1).padStart(2, '0')}`,
    typeId: `type-${kind === WHOOP ? 'w' : KINDS.indexOf(kind)}` as PackTypeId,
    chemistry,
    series,
    labelAh: ah,
    capacityAh,
    chargeC: kind.chargeC,
    connector: kind.plug,
    cellsMv: cellsMv.map((mv) => Math.min(CHEMISTRY[chemistry].fullMv!, mv)),
    cellMilliohm: kind.milliohm * (0.9 + random() * 0.6),
    freeFrom: random() < 0.15 ? ORIGIN + between(random, 5, 40) * MINUTE_MS : ORIGIN - HOUR_MS,
    gently: random() < 0.1,
    balanceDue: random() < 0.3,
    bar: null,
    need,
  };
}

function needFor(family: Family, random: Random, flightAt: number): Need {
  const fill: Need = { do: 'fill', flightAt, dayId: 'day' as FlyingDayId };
  const store = (share: number): Need => ({
    do: 'store',
    dueAt: random() < share ? ORIGIN + between(random, 2, 30) * HOUR_MS : null,
    underFloor: false,
  });
  switch (family) {
    case 'store, one span':
    case 'store, two spans':
    case 'one load':
      return store(0.3);
    case 'fly, evening only':
    case 'fly, short morning span':
    case 'many channels':
    case 'pool far short':
    case 'one supply':
    case 'boards':
      return fill;
    case 'overloaded':
      return random() < 0.8 ? fill : store(0.5);
    case 'mixed': {
      const which = random();
      if (which < 0.1) return { do: 'store', dueAt: null, underFloor: true };
      if (which < 0.18) return { do: 'cycle' };
      return which < 0.6 ? fill : store(0.5);
    }
    default:
      return family satisfies never;
  }
}

function attendanceFor(family: Family, random: Random, packs: number): Attended[] {
  // Two people are named in turn.
  const span = (i: number, from: number, to: number): Attended => ({
    id: `attended-${i}` as AttendanceId,
    personId: `person-${i % 2}` as PersonId,
    from: ORIGIN + from * MINUTE_MS,
    to: ORIGIN + to * MINUTE_MS,
  });
  const roomy = family === 'overloaded' ? 90 : 300 + packs * between(random, 8, 16);
  // The first is handed over to somebody else; the second is the next evening.
  if (family === 'store, two spans' || family === 'mixed')
    return [span(0, 30, 150), span(1, 140, 150 + roomy / 2), span(2, 24 * 60, 24 * 60 + roomy)];
  if (family === 'fly, short morning span')
    return [span(0, 60, 60 + roomy), span(1, 14 * 60, 14 * 60 + between(random, 70, 120))];
  return [span(0, between(random, 0, 45), 45 + roomy)];
}

const EVERYTHING: Charger['cells'] = {
  lipo: { least: 1, most: 6 },
  lihv: { least: 1, most: 6 },
  liion: { least: 1, most: 6 },
};

/** A charger with so many equal channels; what is left out is a sturdy bench charger's. */
export function aCharger(
  key: string,
  channels: number,
  more: Partial<Charger> & {
    readonly chargeA?: number;
    readonly chargeW?: number;
    readonly dischargeW?: number | null;
  } = {},
): Equipment<Charger> {
  const { chargeA = 15, chargeW = 300, dischargeW = 20, ...facts } = more;
  return {
    id: `charger-${key}` as EquipmentId,
    name: `Charger ${key}`,
    inUse: true,
    facts: {
      kind: 'charger',
      channels: Array.from({ length: channels }, (_, i) => ({
        key: String(i + 1),
        chargeA,
        chargeW,
        dischargeA: dischargeW === null ? null : 3,
        dischargeW,
        outOfOrder: false,
      })),
      cells: EVERYTHING,
      modes: ['balance', 'fast', 'storage', 'discharge'],
      shared: [],
      supplyId: null,
      stepA: 0.1,
      leastA: 0.1,
      balanceA: 0.4,
      floorMv: 3000,
      storage: 'both',
      storageA: null,
      connectors: ['yellow', 'blue', 'tiny'],
      connectOrder: [],
      words: {},
      errors: [],
      ...facts,
    },
  };
}

function other(key: string, facts: EquipmentFacts): Equipment {
  return { id: key as EquipmentId, name: key, inUse: true, facts };
}

function pool(watts: number): Charger['shared'] {
  return [{ supply: 'mains', watts, amps: null, split: 'pool', aloneW: null }];
}

/** Benches that make a family what it is. */
const SPECIAL_BENCHES: Readonly<Partial<Record<Family, () => Equipment[]>>> = {
  'many channels': () => [aCharger('a', 4, { chargeW: 200 }), aCharger('b', 4, { chargeW: 300 })],
  'pool far short': () => [aCharger('a', 2, { chargeW: 100, shared: pool(100) })],
  'one supply': () => [
    aCharger('a', 2, { chargeW: 250, supplyId: 'supply' as EquipmentId }),
    aCharger('b', 2, { chargeW: 150, supplyId: 'supply' as EquipmentId }),
    other('supply', { kind: 'supply', supply: 'dc', watts: 450, energyWh: null, takesBackW: null }),
  ],
  boards: () => [
    aCharger('a', 2, { chargeW: 200, shared: pool(300) }),
    other('series board', {
      kind: 'board',
      wiring: 'series',
      ports: 6,
      connector: 'tiny',
      lead: 'yellow',
      slotCells: [1, 2, 3, 4, 5, 6],
      toleranceMv: 300,
    }),
    other('parallel board', {
      kind: 'board',
      wiring: 'parallel',
      ports: 4,
      connector: 'yellow',
      lead: 'yellow',
      slotCells: [],
      toleranceMv: 50,
    }),
  ],
  'one load': () => [
    aCharger('a', 1, { storage: 'raise', modes: ['balance', 'fast', 'storage'], dischargeW: null }),
    other('load', { kind: 'load', amps: 12, watts: 150, connectors: ['yellow', 'blue', 'tiny'] }),
  ],
};

function benchFor(family: Family, random: Random): Equipment[] {
  const special = SPECIAL_BENCHES[family];
  if (special) return special();
  const chargers = between(random, 1, 3);
  const stores = family.startsWith('store') || family === 'mixed';
  return [
    ...Array.from({ length: chargers }, (_, i) =>
      aCharger('abc'[i]!, between(random, 2, 3), {
        chargeW: between(random, 2, 6) * 60,
        dischargeW: between(random, 2, 8) * 10,
        ...(random() < 0.6 ? { shared: pool(between(random, 4, 8) * 60) } : {}),
      }),
    ),
    ...(stores
      ? [other('load', { kind: 'load', amps: 10, watts: 180, connectors: ['yellow', 'blue'] })]
      : []),
  ];
}
