import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { ChargingAnswer, CraftAnswer, EquipmentAnswer } from '../../contract';
import type { Charger } from '../../core/charging';
import type { CraftFacts } from '../../core/flying';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { NOW } from './testApp';

/** A bench for tests of the server: what is sent to lay it down. */

const CHANNEL = { chargeA: 15, chargeW: 300, dischargeA: 3, dischargeW: 20, outOfOrder: false };
const CHARGER: Charger = {
  kind: 'charger',
  channels: [
    { key: '1', ...CHANNEL },
    { key: '2', ...CHANNEL },
  ],
  cells: { lipo: { least: 1, most: 6 }, lihv: { least: 1, most: 6 } },
  modes: ['balance', 'fast', 'storage', 'discharge'],
  shared: [],
  supplyId: null,
  stepA: 0.1,
  leastA: 0.1,
  balanceA: 0.4,
  floorMv: 3000,
  storage: 'both',
  storageA: null,
  connectors: ['yellow 60 A'],
  connectOrder: [],
  words: {},
  errors: [],
};

export const chargerForm = (more: Partial<Charger> = {}) => ({
  name: `Charger ${newId()}`,
  inUse: true,
  facts: { ...CHARGER, ...more },
});

export async function addCharger(agent: TestAgent, more: Partial<Charger> = {}): Promise<EquipmentAnswer> {
  return (await agent.post('/api/equipment').send(chargerForm(more)).expect(201)).body as EquipmentAnswer;
}

export const spanForm = (personId: string, fromMinutes = -30, toMinutes = 360) => ({
  personId,
  from: NOW + fromMinutes * MINUTE_MS,
  to: NOW + toMinutes * MINUTE_MS,
});

export const dayForm = (typeId: string, packs = 1) => ({
  at: NOW + 20 * HOUR_MS,
  place: 'North bank',
  craft: null,
  wants: [{ typeId, packs }],
  cancelled: false,
});

/** A craft that takes LiPo packs of three to six cells, for no more than a test has to say of it. */
export const craftForm = (more: Partial<CraftFacts> = {}) => ({
  name: `Craft ${newId()}`,
  inUse: true,
  facts: {
    chemistries: ['lipo'],
    cells: { least: 3, most: 6 },
    capacityMah: { least: null, most: null },
    massG: { least: null, most: null },
    sustainedA: 20,
    burstA: null,
    connector: null,
    usualMinutes: 10,
    usualMah: 2_400,
    cutOff: { mode: 'lithium', cells: 4, cellMv: 3_300 },
    trainer: false,
    costly: false,
    overWater: false,
    overPeople: false,
    ...more,
  } satisfies CraftFacts,
});

export async function addCraft(agent: TestAgent, more: Partial<CraftFacts> = {}): Promise<CraftAnswer> {
  return (await agent.post('/api/craft').send(craftForm(more)).expect(201)).body as CraftAnswer;
}

export const lipo4S = { chemistry: 'lipo', mode: 'balance', cells: 4, topMv: 4200, amps: 3.3 } as const;

/** A charge of one pack on the first channel, to begin now. */
export const jobBody = (equipmentId: string, packIds: readonly string[], more: object = {}) => ({
  id: newId(),
  do: 'charge',
  packIds,
  equipmentId,
  channel: '1',
  boardId: null,
  adapterId: null,
  setting: lipo4S,
  start: NOW,
  end: NOW + HOUR_MS,
  ...more,
});

export const gateBody = (attendantId: string, more: object = {}) => ({
  gate: {
    detectedCells: 4,
    setChemistry: 'lipo',
    confirmed: ['chemistry', 'mode', 'cells', 'topV', 'amps'],
    looked: true,
    balanceLead: true,
    polarity: true,
    leadsFirst: true,
    surface: true,
    wayOut: true,
    attendantId,
    ...more,
  },
});

export const endBody = (packIds: readonly string[], more: object = {}) => ({
  at: NOW,
  ending: 'complete',
  records: packIds.map((packId) => ({ packId, id: newId(), endCellsMv: [4200, 4200, 4190, 4200] })),
  movedMah: 1500,
  minutes: 55,
  temperatureC: null,
  felt: 'cool',
  balanced: true,
  remarks: null,
  ...more,
});

export async function bench(agent: TestAgent): Promise<ChargingAnswer> {
  return (await agent.get('/api/charging').expect(200)).body as ChargingAnswer;
}
