import type { PackTypeAnswer, PlaceAnswer } from '../contract';
import type { Role } from '../core/lifecycle';

/** An estuary survey cooperative: its people, places, meters and packs. All of it is made up. */

export const PEOPLE = [
  { key: 'ineke', name: 'Ineke Varrow', role: 'custodian' },
  { key: 'tolle', name: 'Tolle Marsk', role: 'deputy' },
  { key: 'bram', name: 'Bram Oosterfen', role: 'pilot' },
  { key: 'sunniva', name: 'Sunniva Calder', role: 'pilot' },
  { key: 'jory', name: 'Jory Penhallick', role: 'pilot' },
  { key: 'adela', name: 'Adela Quint', role: 'pilot' },
  { key: 'ossian', name: 'Ossian Rudd', role: 'pilot' },
  { key: 'mirre', name: 'Mirre Halloway', role: 'pilot' },
  { key: 'fenn', name: 'Fenn Tidewell', role: 'pilot' },
  { key: 'odile', name: 'Odile Saltmarsh', role: 'pilot' },
  { key: 'gereon', name: 'Gereon Wick', role: 'officer' },
  { key: 'petra', name: 'Petra Lindmoor', role: 'reader' },
] as const satisfies readonly { key: string; name: string; role: Role }[];
export type PersonKey = (typeof PEOPLE)[number]['key'];

export const PILOTS = PEOPLE.filter(({ role }) => role === 'pilot').map(({ key }) => key);

export const PLACES = [
  place('cabinet-top', 'Fire cabinet, upper', 'cabinet', true, {
    capacity: 26,
    celsius: 18,
    map: [0, 0, 14, 5],
  }),
  place('cabinet-low', 'Fire cabinet, lower', 'cabinet', true, {
    capacity: 30,
    celsius: 18,
    map: [0, 5, 14, 5],
  }),
  place('box-a', 'Transport box A', 'box', true, { capacity: 8, slots: 8, celsius: 19, map: [14, 0, 10, 3] }),
  place('box-b', 'Transport box B', 'box', true, { capacity: 8, slots: 8, celsius: 19, map: [14, 3, 10, 3] }),
  place('shelf', 'Workshop shelf', 'shelf', false, { capacity: 16, celsius: 20, map: [0, 10, 14, 3] }),
  place('van', 'Survey van', 'vehicle', false, { map: [14, 6, 10, 4] }),
  place('outdoors', 'Sand bin outdoors', 'outdoors', true, {
    capacity: 8,
    setApart: true,
    map: [14, 10, 6, 3],
  }),
  place('recycling', 'Recycling box', 'recycling', true, {
    capacity: 20,
    limitKg: 12,
    limitWh: 1_500,
    map: [20, 10, 4, 3],
  }),
  place('recycling-apart', 'Sand box by the shed', 'recycling', true, {
    capacity: 6,
    limitKg: 10,
    setApart: true,
    map: [14, 13, 10, 2],
  }),
];

type DemoPlace = { readonly key: PlaceKey } & Omit<PlaceAnswer, 'id' | 'version' | 'code'>;

function place(
  key: PlaceKey,
  name: string,
  kind: PlaceAnswer['kind'],
  fireResistant: boolean,
  more: {
    capacity?: number;
    slots?: number;
    celsius?: number;
    setApart?: boolean;
    limitKg?: number;
    limitWh?: number;
    map: readonly [number, number, number, number];
  },
): DemoPlace {
  const { capacity = null, slots = 0, celsius = null, map } = more;
  const { setApart = false, limitKg = null, limitWh = null } = more;
  const [x, y, w, h] = map;
  const metal = kind === 'cabinet' ? ('vented' as const) : ('no' as const);
  const facts = { name, kind, fireResistant, metal, capacity, slots, celsius, setApart, limitKg, limitWh };
  return { key, ...facts, map: { x, y, w, h } };
}

export type PlaceKey =
  | 'cabinet-top'
  | 'cabinet-low'
  | 'box-a'
  | 'box-b'
  | 'shelf'
  | 'van'
  | 'outdoors'
  | 'recycling'
  | 'recycling-apart';

/** Whoever takes what is over. One was not asked for a long time, and takes no damaged packs. */
export const RECYCLERS = [
  {
    key: 'estuary',
    name: 'Estuary metals yard',
    contact: 'Gate 3, weekdays until four; ring first for damaged packs',
    chemistries: ['lipo', 'lihv', 'liion', 'lifepo4', 'nimh'],
    takesDamaged: true,
    takesCharged: false,
    limitKg: 30,
    confirmedDaysAgo: 40,
  },
  {
    key: 'town',
    name: 'Town collection point',
    contact: null,
    chemistries: ['nimh', 'liion'],
    takesDamaged: false,
    takesCharged: false,
    limitKg: 5,
    confirmedDaysAgo: 290,
  },
] as const;

export const INSTRUMENTS = [
  { name: 'Bench meter', errorMv: 3 },
  { name: 'Field cell checker', errorMv: 10 },
] as const;

type TypeKey = 'HX' | 'FW' | 'IQ' | 'TR' | 'GS' | 'TX' | 'FP';

export interface DemoType {
  readonly key: TypeKey;
  readonly label: Omit<PackTypeAnswer, 'id' | 'version'>;
  /** Across the flat faces when new, millimetres. */
  readonly thicknessMm: number;
  readonly count: number;
  readonly home: PlaceKey;
  readonly smart: boolean;
  readonly fieldPack: boolean;
  /** What it powers, and the current it draws on average as a multiple of the capacity. */
  readonly craft: string;
  readonly flownAtC: number;
  /** Days between two uses, shortest and longest. */
  readonly everyDays: readonly [number, number];
}

export const TYPES: readonly DemoType[] = [
  {
    key: 'HX',
    label: {
      name: 'Mapping hexacopter 6S 16 Ah',
      chemistry: 'lipo',
      series: 6,
      parallel: 1,
      capacityMah: 16_000,
      continuousC: 15,
      burstC: 30,
      chargeC: 3,
      connector: 'blue 90 A',
      balancePlug: 'white 7-pin',
      massG: 1_910,
      price: 268,
      dutyClass: 'hard',
    },
    thicknessMm: 58,
    count: 12,
    home: 'cabinet-top',
    smart: false,
    fieldPack: false,
    craft: 'Mapping hexacopter',
    flownAtC: 3.2,
    everyDays: [9, 18],
  },
  {
    key: 'FW',
    label: {
      name: 'Survey wing 4S4P 14 Ah',
      chemistry: 'liion',
      series: 4,
      parallel: 4,
      capacityMah: 14_000,
      continuousC: 3,
      burstC: 5,
      chargeC: 0.5,
      connector: 'yellow 60 A',
      balancePlug: 'white 5-pin',
      massG: 805,
      price: 142,
      dutyClass: 'normal',
    },
    thicknessMm: 42,
    count: 10,
    home: 'cabinet-low',
    smart: false,
    fieldPack: false,
    craft: 'Survey wing',
    flownAtC: 0.9,
    everyDays: [12, 24],
  },
  {
    key: 'IQ',
    label: {
      name: 'Inspection quad 4S 5.2 Ah',
      chemistry: 'lihv',
      series: 4,
      parallel: 1,
      capacityMah: 5_200,
      continuousC: 10,
      burstC: 20,
      chargeC: 2,
      connector: 'blade, keyed',
      balancePlug: null,
      massG: 468,
      price: 159,
      dutyClass: 'normal',
    },
    thicknessMm: 36,
    count: 12,
    home: 'cabinet-top',
    smart: true,
    fieldPack: false,
    craft: 'Inspection quad',
    flownAtC: 3,
    everyDays: [8, 16],
  },
  {
    key: 'TR',
    label: {
      name: 'Trainer 1S 550 mAh',
      chemistry: 'lipo',
      series: 1,
      parallel: 1,
      capacityMah: 550,
      continuousC: 40,
      burstC: 80,
      chargeC: 2,
      connector: 'white 2-pin, small',
      balancePlug: null,
      massG: 14,
      price: 6.5,
      dutyClass: 'hard',
    },
    thicknessMm: 8,
    count: 14,
    home: 'cabinet-low',
    smart: false,
    fieldPack: false,
    craft: 'Trainer',
    flownAtC: 9,
    everyDays: [7, 15],
  },
  {
    key: 'GS',
    label: {
      name: 'Ground station 4S 20 Ah',
      chemistry: 'lifepo4',
      series: 4,
      parallel: 1,
      capacityMah: 20_000,
      continuousC: 3,
      burstC: 5,
      chargeC: 1,
      connector: 'blue 120 A',
      balancePlug: 'white 5-pin',
      massG: 2_640,
      price: 188,
      dutyClass: 'gentle',
    },
    thicknessMm: 88,
    count: 4,
    home: 'shelf',
    smart: false,
    fieldPack: false,
    craft: 'Ground station',
    flownAtC: 0.15,
    everyDays: [16, 30],
  },
  {
    key: 'TX',
    label: {
      name: 'Transmitter 6S 2 Ah',
      chemistry: 'nimh',
      series: 6,
      parallel: 1,
      capacityMah: 2_000,
      continuousC: 2,
      burstC: 4,
      chargeC: 0.5,
      connector: 'white 2-pin',
      balancePlug: null,
      massG: 172,
      price: 24,
      dutyClass: 'gentle',
    },
    thicknessMm: 29,
    count: 6,
    home: 'shelf',
    smart: false,
    fieldPack: false,
    craft: 'Transmitter',
    flownAtC: 0.2,
    everyDays: [20, 35],
  },
  {
    key: 'FP',
    label: {
      name: 'Field pack 7S8P 40 Ah',
      chemistry: 'liion',
      series: 7,
      parallel: 8,
      capacityMah: 40_000,
      continuousC: 2,
      burstC: 3,
      chargeC: 0.5,
      connector: 'blue 90 A',
      balancePlug: 'white 8-pin',
      massG: 5_150,
      price: 540,
      dutyClass: 'gentle',
    },
    thicknessMm: 96,
    count: 2,
    home: 'cabinet-low',
    smart: false,
    fieldPack: true,
    craft: 'Field charging',
    flownAtC: 0.25,
    everyDays: [18, 30],
  },
];
