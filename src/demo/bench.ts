import { seededId, seededRandom } from '../core/random';
import type { Charger, ChargerSetting, EquipmentFacts } from '../core/charging';
import { HOUR_MS, MINUTE_MS } from '../core/measure';
import type { EquipmentId, Instant, PackTypeId } from '../core/measure';
import { timestamp } from '../server/platform/columns';
import type { Entities } from '../server/platform/database';
import { Equipment } from '../server/register';
import type { Directory } from './diary';

/** Ids of its own, so that what stands on the bench changes nothing of the season. */
const SEED = 51_907;

const BENCH_CHARGER: Charger = {
  kind: 'charger',
  channels: ['1', '2'].map((key) => ({
    key,
    chargeA: 15,
    chargeW: 400,
    dischargeA: 3,
    dischargeW: 30,
    outOfOrder: false,
  })),
  cells: {
    lipo: { least: 1, most: 7 },
    lihv: { least: 1, most: 7 },
    liion: { least: 1, most: 7 },
    lifepo4: { least: 1, most: 7 },
    nimh: { least: 1, most: 16 },
  },
  modes: ['balance', 'fast', 'storage', 'discharge'],
  shared: [
    { supply: 'mains', watts: 500, amps: null, split: 'pool', aloneW: 400 },
    { supply: 'dc', watts: 240, amps: null, split: 'pool', aloneW: null },
  ],
  supplyId: null,
  stepA: 0.1,
  leastA: 0.1,
  balanceA: 0.5,
  floorMv: 3000,
  storage: 'both',
  storageA: null,
  connectors: ['yellow 60 A', 'blue 90 A'],
  connectOrder: ['lead into the charger', 'balance lead', 'pack onto the lead'],
  words: { chemistry: 'Cell kind', mode: 'Programme', cells: 'Cell count', topV: 'End volts', amps: 'Rate' },
  errors: [
    {
      text: 'COUNT?',
      means: 'It sees another number of cells than it was set to.',
      next: 'Take the pack off, read its cells.',
    },
    {
      text: 'NO BAL',
      means: 'The balance lead is not in.',
      next: 'Put it into its socket, the right way round.',
    },
  ],
};

const VAN_CHARGER: Charger = {
  ...BENCH_CHARGER,
  channels: ['A', 'B'].map((key) => ({
    key,
    chargeA: 10,
    chargeW: 150,
    dischargeA: null,
    dischargeW: null,
    outOfOrder: false,
  })),
  cells: { lipo: { least: 2, most: 6 }, lihv: { least: 2, most: 6 }, liion: { least: 2, most: 6 } },
  modes: ['balance', 'storage'],
  shared: [],
  stepA: 0.5,
  leastA: 0.5,
  balanceA: 0.3,
  storage: 'raise',
  connectors: ['yellow 60 A'],
  connectOrder: [],
  words: { topV: 'Full at', amps: 'Amps' },
  errors: [],
};

const SIX_PORTS: Charger = {
  ...BENCH_CHARGER,
  channels: ['1', '2', '3', '4', '5', '6'].map((key) => ({
    key,
    chargeA: 1,
    chargeW: 5,
    dischargeA: null,
    dischargeW: null,
    outOfOrder: key === '4',
  })),
  cells: { lipo: { least: 1, most: 1 }, lihv: { least: 1, most: 1 } },
  modes: ['fast', 'storage'],
  shared: [{ supply: 'mains', watts: 24, amps: null, split: 'shares', aloneW: null }],
  stepA: 0.05,
  leastA: 0.05,
  balanceA: null,
  floorMv: 3000,
  storage: 'raise',
  connectors: ['white 2-pin, small'],
  connectOrder: [],
  words: {},
  errors: [],
};

const THINGS: readonly { readonly key: string; readonly name: string; readonly facts: EquipmentFacts }[] = [
  { key: 'bench', name: 'Bench charger', facts: BENCH_CHARGER },
  { key: 'van', name: 'Van charger', facts: VAN_CHARGER },
  { key: 'six', name: 'Six-port charger', facts: SIX_PORTS },
  {
    key: 'lamps',
    name: 'Lamp bank',
    facts: { kind: 'load', amps: 8, watts: 180, connectors: ['yellow 60 A', 'blue 90 A', 'blue 120 A'] },
  },
  {
    key: 'strip',
    name: 'Trainer strip',
    facts: {
      kind: 'board',
      wiring: 'series',
      ports: 4,
      connector: 'white 2-pin, small',
      lead: 'yellow 60 A',
      slotCells: [4, 3, 2, 1],
      toleranceMv: 300,
    },
  },
  {
    key: 'parallel',
    name: 'Parallel board',
    facts: {
      kind: 'board',
      wiring: 'parallel',
      ports: 4,
      connector: 'blade, keyed',
      lead: 'yellow 60 A',
      slotCells: [],
      toleranceMv: 50,
    },
  },
  {
    key: 'blade',
    name: 'Blade lead',
    facts: { kind: 'adapter', from: 'yellow 60 A', to: 'blade, keyed', data: true },
  },
  {
    key: 'heavy',
    name: 'Heavy lead',
    facts: { kind: 'adapter', from: 'blue 90 A', to: 'blue 120 A', data: false },
  },
  {
    key: 'socket',
    name: 'Van socket',
    facts: { kind: 'supply', supply: 'dc', watts: 240, energyWh: 900, takesBackW: null },
  },
];

/** The bench of the made-up cooperative, who stands at it tonight and tomorrow, and what flies the day after. */
export async function layOutBench(
  em: Entities,
  { person }: Pick<Directory, 'person'>,
  typeIds: ReadonlyMap<string, PackTypeId>,
  now: Instant,
): Promise<void> {
  const random = seededRandom(SEED);
  const ids = new Map(THINGS.map(({ key }) => [key, seededId(random, now) as EquipmentId]));
  for (const { key, name, facts } of THINGS) {
    const placed =
      facts.kind === 'charger' && key === 'van' ? { ...facts, supplyId: ids.get('socket')! } : facts;
    em.create(Equipment, { id: ids.get(key)!, name, inUse: true, facts: placed, version: 1 });
  }
  await em.flush();
  const hours = (count: number) => roundedTo(now + count * HOUR_MS);
  // Hers is handed over to him; tomorrow he is there once more.
  for (const [who, from, to] of [
    ['ineke', -0.25, 2.25],
    ['tolle', 2, 4.25],
    ['tolle', 22.5, 26.5],
  ] as const) {
    await em.execute('insert into attendance (id, person_id, from_at, to_at) values (?, ?, ?, ?)', [
      seededId(random, now),
      person(who),
      timestamp(hours(from)),
      timestamp(hours(to)),
    ]);
  }
  const wants = (counts: Readonly<Record<string, number>>) =>
    JSON.stringify(Object.entries(counts).map(([key, packs]) => ({ typeId: typeIds.get(key)!, packs })));
  for (const [at, place, craft, counts] of [
    [39, 'Salt marsh, north bank', 'Mapping hexacopter and trainers', { HX: 4, IQ: 3, TR: 8 }],
    [112, 'Lighthouse reach', 'Survey wing', { FW: 4 }],
  ] as const) {
    await em.execute('insert into flying_day (id, at, place, craft, wants) values (?, ?, ?, ?, ?)', [
      seededId(random, now),
      timestamp(hours(at)),
      place,
      craft,
      wants(counts),
    ]);
  }
  // Somebody has charged a high-voltage pack on the second channel, and the charger remembers.
  const remembered: ChargerSetting = { chemistry: 'lihv', mode: 'balance', cells: 4, topMv: 4350, amps: 5.2 };
  for (const [key, channel, setting] of [
    ['bench', '1', { ...remembered, chemistry: 'lipo', cells: 6, topMv: 4200, amps: 15 }],
    ['bench', '2', remembered],
  ] as const)
    await em.execute(
      'insert into channel_setting (equipment_id, channel, setting, set_at) values (?, ?, ?, ?)',
      [ids.get(key)!, channel, JSON.stringify(setting), timestamp(now - 26 * HOUR_MS)],
    );
}

/** People say a quarter of an hour, not a minute. */
function roundedTo(at: Instant): Instant {
  return Math.round(at / (15 * MINUTE_MS)) * 15 * MINUTE_MS;
}
