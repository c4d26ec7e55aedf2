import { namedBy, RECORD_KINDS } from '../core/record';
import type { RecordDraft, RecordKind } from '../core/record';
import { recordDraft } from '.';

const KINDS = Object.keys(RECORD_KINDS) as RecordKind[];
const ID = '0195a000-0000-7000-8000-00000000000a';
const AT = Date.UTC(2026, 2, 2, 8, 0);

function exampleOf(kind: RecordKind): unknown {
  const supersedes = kind === 'correction' ? ID : null;
  return { id: ID, at: AT, kind, payload: RECORD_KINDS[kind].example, supersedes };
}

it.each(KINDS)('the example of %s is accepted as it stands, and nothing unknown beside it', (kind) => {
  expect(recordDraft.parse(exampleOf(kind))).toEqual(exampleOf(kind));
  const { payload, ...envelope } = exampleOf(kind) as { payload: object };
  expect(recordDraft.safeParse({ ...envelope, payload: { ...payload, colour: 'red' } }).success).toBe(false);
  expect(recordDraft.safeParse({ ...envelope, payload: null }).success).toBe(false);
});

it.each(KINDS)('%s replaces a record exactly where the registry says it can be corrected', (kind) => {
  const replacement = { kind, payload: RECORD_KINDS[kind].example };
  const correction = {
    ...(exampleOf('correction') as RecordDraft),
    payload: { reason: 'a slip', replacement },
  };
  expect(recordDraft.safeParse(correction).success).toBe(RECORD_KINDS[kind].correctable);
});

it('an unknown kind is refused in words', () => {
  const { error } = recordDraft.safeParse({ ...(exampleOf('note') as object), kind: 'borrowed' });
  expect(error!.issues[0]!.message).toBe('The kind of record is not known here.');
});

it('a record tells what it names in the register, at the field; a correction what its replacement names', () => {
  const moved = {
    kind: 'moved',
    payload: { placeId: ID, holderId: ID, slot: null },
    supersedes: null,
  } as const;
  const at = (body: unknown) => namedBy(body as RecordDraft);
  expect(at(moved)).toEqual([
    { table: 'place', id: ID, field: 'placeId' },
    { table: 'person', id: ID, field: 'holderId' },
  ]);
  expect(at({ kind: 'correction', payload: { reason: 'x', replacement: moved } })).toMatchObject([
    { table: 'place', field: 'replacement.payload.placeId' },
    { table: 'person', field: 'replacement.payload.holderId' },
  ]);
  expect(at({ kind: 'inspection-asked', payload: { incidentId: null, reason: 'x' } })).toEqual([]);
  expect(at({ kind: 'disposal', payload: { step: 'consigned', consignmentId: ID } })).toMatchObject([
    { table: 'consignment' },
  ]);
  const photos = { items: [{ photoIds: [] }, { photoIds: [ID] }] };
  expect(at({ kind: 'inspection', payload: photos })).toMatchObject([{ field: 'items.1.photoIds' }]);
});
