import { defineEntity, p } from '../platform/orm';
import type { InferEntity } from '@mikro-orm/postgresql';
import { instantColumn } from '../platform/columns';
import type { Role } from '../../core/lifecycle';
import type { PersonId } from '../../core/measure';

export const Person = defineEntity({
  name: 'Person',
  tableName: 'person',
  properties: {
    id: p.uuid().primary().$type<PersonId>(),
    name: p.text(),
    login: p.text(),
    role: p.text().$type<Role>(),
    passwordHash: p.text().nullable(),
    active: p.boolean(),
    /** Sessions that began before this are over; null where none was ever ended. */
    accessFrom: instantColumn().nullable(),
    version: p.integer().version(),
  },
});
export type PersonEntity = InferEntity<typeof Person>;
