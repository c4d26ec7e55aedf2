import { defineEntity, p } from '../platform/orm';
import type { InferEntity } from '@mikro-orm/postgresql';
import type { MapArea, PlaceAnswer } from '../../contract';
import type { EquipmentFacts } from '../../core/charging';
import type { Chemistry } from '../../core/chemistry';
import type { EquipmentId, InstrumentId, Instant, PackTypeId, PlaceId, RecyclerId } from '../../core/measure';
import type { DutyClass } from '../../core/pack';
import { instantColumn } from '../platform/columns';

export const PackType = defineEntity({
  name: 'PackType',
  tableName: 'pack_type',
  properties: {
    id: p.uuid().primary().$type<PackTypeId>(),
    name: p.text(),
    chemistry: p.text().$type<Chemistry>(),
    series: p.integer(),
    parallel: p.integer(),
    capacityMah: p.integer(),
    continuousC: p.double().nullable().$type<number | null>(),
    burstC: p.double().nullable().$type<number | null>(),
    chargeC: p.double().nullable().$type<number | null>(),
    connector: p.text().nullable(),
    balancePlug: p.text().nullable(),
    massG: p.double().nullable().$type<number | null>(),
    price: p.double().nullable().$type<number | null>(),
    dutyClass: p.text().$type<DutyClass>(),
    version: p.integer().version(),
  },
});

export const Place = defineEntity({
  name: 'Place',
  tableName: 'place',
  properties: {
    id: p.uuid().primary().$type<PlaceId>(),
    name: p.text(),
    kind: p.text().$type<PlaceAnswer['kind']>(),
    fireResistant: p.boolean(),
    metal: p.text().$type<PlaceAnswer['metal']>(),
    code: p.text().nullable().$type<string | null>(),
    codeKey: p.text().nullable().$type<string | null>(),
    capacity: p.integer().nullable().$type<number | null>(),
    slots: p.integer(),
    celsius: p.double().nullable().$type<number | null>(),
    map: p.json().nullable().$type<MapArea | null>(),
    setApart: p.boolean(),
    limitKg: p.double().nullable().$type<number | null>(),
    limitWh: p.double().nullable().$type<number | null>(),
    version: p.integer().version(),
  },
});

export type PlaceEntity = InferEntity<typeof Place>;

export const Recycler = defineEntity({
  name: 'Recycler',
  tableName: 'recycler',
  properties: {
    id: p.uuid().primary().$type<RecyclerId>(),
    name: p.text(),
    contact: p.text().nullable().$type<string | null>(),
    chemistries: p.json().$type<Chemistry[]>(),
    takesDamaged: p.boolean(),
    takesCharged: p.boolean(),
    limitKg: p.double().nullable().$type<number | null>(),
    confirmedAt: instantColumn().nullable().$type<Instant | null>(),
    active: p.boolean(),
    version: p.integer().version(),
  },
});
export type PackTypeEntity = InferEntity<typeof PackType>;
export type RecyclerEntity = InferEntity<typeof Recycler>;

export const Instrument = defineEntity({
  name: 'Instrument',
  tableName: 'instrument',
  properties: {
    id: p.uuid().primary().$type<InstrumentId>(),
    name: p.text(),
    errorMv: p.integer(),
    version: p.integer().version(),
  },
});

export const Equipment = defineEntity({
  name: 'Equipment',
  tableName: 'equipment',
  properties: {
    id: p.uuid().primary().$type<EquipmentId>(),
    name: p.text(),
    inUse: p.boolean(),
    facts: p.json().$type<EquipmentFacts>(),
    version: p.integer().version(),
  },
});
