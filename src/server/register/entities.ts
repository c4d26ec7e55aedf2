import { defineEntity, p } from '@mikro-orm/postgresql';
import type { InferEntity } from '@mikro-orm/postgresql';
import type { MapArea, PlaceAnswer } from '../../contract';
import type { Chemistry } from '../../core/chemistry';
import type { InstrumentId, PackTypeId, PlaceId } from '../../core/measure';
import type { DutyClass } from '../../core/pack';

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
    code: p.text().nullable().$type<string | null>(),
    codeKey: p.text().nullable().$type<string | null>(),
    capacity: p.integer().nullable().$type<number | null>(),
    slots: p.integer(),
    celsius: p.double().nullable().$type<number | null>(),
    map: p.json().nullable().$type<MapArea | null>(),
    version: p.integer().version(),
  },
});

export type PlaceEntity = InferEntity<typeof Place>;

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
