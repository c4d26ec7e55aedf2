import { v7 as newId } from 'uuid';
import { between, seededRandom } from '../src/core/cellsim';
import { DAY_MS, HOUR_MS } from '../src/core/measure';
import type { PackId, PackTypeId, PersonId } from '../src/core/measure';
import { append } from '../src/server/ledger';
import { Pack } from '../src/server/packs/entities';
import { giveTag } from '../src/server/packs/tags';
import { Person } from '../src/server/people/entities';
import type { Database } from '../src/server/platform/database';
import { PackType } from '../src/server/register/entities';
import { LIPO_4S } from '../src/server/testing/testApp';

/** A register for measuring: one type, one custodian, packs with a few readings each. */
export interface BenchRegister {
  readonly person: { readonly id: PersonId; readonly role: 'custodian' };
  readonly typeId: PackTypeId;
  readonly packs: PackId[];
}

export async function layRegister(database: Database): Promise<BenchRegister> {
  const em = database.entities();
  const person = { id: newId() as PersonId, role: 'custodian' as const };
  const typeId = newId() as PackTypeId;
  em.create(Person, {
    ...person,
    name: 'Bench',
    login: newId(),
    passwordHash: null,
    active: true,
    version: 1,
  });
  em.create(PackType, { ...LIPO_4S, id: typeId, name: newId(), version: 1 });
  await em.flush();
  return { person, typeId, packs: [] };
}

/** Adds packs until there are this many, each with a receipt and three readings, some out of their band. */
export async function growTo(database: Database, register: BenchRegister, count: number): Promise<void> {
  const random = seededRandom(register.packs.length + 7);
  const now = Date.now();
  while (register.packs.length < count) {
    const em = database.entities();
    const id = newId() as PackId;
    const tag = `B-${register.packs.length + 1}`;
    em.create(Pack, {
      id,
      tag,
      tagKey: tag.replace('-', ''),
      typeId: register.typeId,
      owner: null,
      homePlaceId: null,
      inServiceAt: null,
      fieldPack: false,
      smart: null,
      version: 1,
    });
    await em.flush();
    await giveTag(em, id, tag, now - 90 * DAY_MS);
    const readings = Array.from({ length: 3 }, (_, i) => {
      const mv = between(random, 360, 420) * 10;
      return readingDraft([mv, mv, mv, mv], now - (3 - i) * between(random, 10, 60) * HOUR_MS);
    }).sort((a, b) => a.at - b.at);
    const receipt = {
      kind: 'received' as const,
      id: newId() as never,
      at: now - 90 * DAY_MS,
      payload: { source: null, placeId: null },
      supersedes: null,
    };
    await append(em, id, [receipt, ...readings], (draft) => ({
      actor: register.person,
      recordedAt: draft.at,
    }));
    register.packs.push(id);
  }
}

export function readingDraft(cellsMv: readonly number[], at: number) {
  return {
    kind: 'reading' as const,
    id: newId() as never,
    at,
    payload: {
      volts: { of: 'cells' as const, cellsMv },
      condition: 'rested' as const,
      instrument: null,
      meterErrorMv: 5,
      temperatureC: null,
      remarks: null,
    },
    supersedes: null,
  };
}
