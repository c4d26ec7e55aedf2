import type { FieldProblem } from '../../contract';
import type { Correctable, RecordDraft } from '../../core/record';
import type { Entities } from '../platform/database';

interface Reference {
  readonly table: 'place' | 'person' | 'photo';
  readonly id: string;
  readonly field: string;
}

const UNKNOWN = {
  place: 'This place is not in the register.',
  person: 'This person is not in the register.',
  photo: 'This photo has not arrived; send it first.',
};

/** Places and people that these records name and the register does not know. Fields are paths into `records`. */
export async function unknownReferences(
  em: Entities,
  drafts: readonly RecordDraft[],
): Promise<FieldProblem[]> {
  const references = drafts.flatMap((draft, i) => referencesOf(draft, `records.${i}.payload`));
  const known = new Set([
    ...(await knownIds(em, references, 'place')),
    ...(await knownIds(em, references, 'person')),
    ...(await knownIds(em, references, 'photo')),
  ]);
  return references
    .filter(({ id }) => !known.has(id))
    .map(({ field, table }) => ({ field, message: UNKNOWN[table] }));
}

async function knownIds(
  em: Entities,
  references: readonly Reference[],
  table: Reference['table'],
): Promise<string[]> {
  const ids = new Set(references.filter((reference) => reference.table === table).map(({ id }) => id));
  if (ids.size === 0) return [];
  const rows: { id: string }[] = await em.execute(`select id from ${table} where id = any(?::uuid[])`, [
    `{${[...ids].join(',')}}`,
  ]);
  return rows.map(({ id }) => id);
}

function referencesOf(body: RecordDraft | Correctable, path: string): Reference[] {
  switch (body.kind) {
    case 'received':
      return reference('place', body.payload.placeId, `${path}.placeId`);
    case 'moved':
      return [
        ...reference('place', body.payload.placeId, `${path}.placeId`),
        ...reference('person', body.payload.holderId, `${path}.holderId`),
      ];
    case 'correction':
      return body.payload.replacement
        ? referencesOf(body.payload.replacement, `${path}.replacement.payload`)
        : [];
    case 'flight':
      return reference('person', body.payload.pilotId, `${path}.pilotId`);
    case 'inspection':
      return body.payload.items.flatMap(({ photoIds }, i) =>
        photoIds.flatMap((id) => reference('photo', id, `${path}.items.${i}.photoIds`)),
      );
    case 'reading':
    case 'resistance':
    case 'charge':
    case 'note':
      return [];
    default:
      return body satisfies never;
  }
}

function reference(table: Reference['table'], id: string | null, field: string): Reference[] {
  return id === null ? [] : [{ table, id, field }];
}
