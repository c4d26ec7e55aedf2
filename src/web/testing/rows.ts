import type { PackRow, RegisterAnswer } from '../../contract';
import type { PackId, PackTypeId, PlaceId } from '../../core/measure';
import { PRESET_RULES } from '../../core/rules';

/** Rows and the register they belong to, for tests of what lists do with them. */

export const TYPE_ID = 'type-1' as PackTypeId;
export const PLACE_ID = 'place-1' as PlaceId;

export const REGISTER: RegisterAnswer = {
  people: [],
  types: [
    {
      id: TYPE_ID,
      version: 1,
      name: 'Mapping hexacopter',
      chemistry: 'lipo',
      series: 6,
      parallel: 1,
      capacityMah: 16_000,
      continuousC: 15,
      burstC: 30,
      chargeC: 3,
      connector: null,
      balancePlug: null,
      massG: null,
      price: null,
      dutyClass: 'hard',
    },
  ],
  places: [
    {
      id: PLACE_ID,
      version: 1,
      name: 'Fire cabinet',
      kind: 'cabinet',
      fireResistant: true,
      metal: 'no',
      code: null,
      capacity: null,
      slots: 0,
      celsius: null,
      map: null,
      setApart: false,
      limitKg: null,
      limitWh: null,
    },
  ],
  placeTemperatures: [],
  instruments: [],
  recyclers: [],
  equipment: [],
  craft: [],
  rules: { version: 1, rules: PRESET_RULES['even-keel'], adoptedAt: 0 },
};

export function aRow(tag: string, more: Partial<PackRow> = {}): PackRow {
  return {
    id: `id-${tag}` as PackId,
    tag,
    typeId: TYPE_ID,
    owner: null,
    homePlaceId: null,
    fieldPack: false,
    placeId: PLACE_ID,
    holderId: null,
    slot: null,
    receivedAt: 0,
    usedAt: null,
    tasks: [],
    verdict: 'fit',
    mayFly: 'yes',
    charged: 'charge-first',
    basis: 'read',
    cellsMv: [3800, 3810, 3800, 3800, 3800, 3800],
    byCell: true,
    readAt: 1_000,
    socPercent: 40,
    storage: 'in-band',
    since: null,
    dueAt: null,
    allowanceHours: null,
    next: null,
    life: 'in-service',
    outSince: null,
    watchFrom: null,
    watchUntil: null,
    deliveryId: null,
    smart: false,
    cycles: 0,
    capacityMah: 5_000,
    out: null,
    owed: null,
    seq: 1,
    version: 1,
    ...more,
  };
}
