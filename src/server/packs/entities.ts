import { defineEntity, p } from '../platform/orm';
import type { InferEntity } from '@mikro-orm/postgresql';
import type { DeliveryId, Instant, PackId, PackTypeId, PlaceId } from '../../core/measure';
import type { SmartSettings } from '../../core/pack';
import { instantColumn } from '../platform/columns';

export const Pack = defineEntity({
  name: 'Pack',
  tableName: 'pack',
  properties: {
    id: p.uuid().primary().$type<PackId>(),
    tag: p.text(),
    tagKey: p.text(),
    typeId: p.uuid().$type<PackTypeId>(),
    owner: p.text().nullable(),
    homePlaceId: p.uuid().nullable().$type<PlaceId | null>(),
    inServiceAt: instantColumn().nullable().$type<Instant | null>(),
    fieldPack: p.boolean(),
    smart: p.json().nullable().$type<SmartSettings | null>(),
    deliveryId: p.uuid().nullable().$type<DeliveryId | null>(),
    version: p.integer().version(),
  },
});
export type PackEntity = InferEntity<typeof Pack>;

/** Every tag a pack ever carried. The current one has no end. */
export const PackTag = defineEntity({
  name: 'PackTag',
  tableName: 'pack_tag',
  properties: {
    key: p.text().primary(),
    tag: p.text(),
    packId: p.uuid().$type<PackId>(),
    since: instantColumn(),
    until: instantColumn().nullable().$type<Instant | null>(),
  },
});
