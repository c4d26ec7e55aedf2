import type { FieldProblem } from '../../contract';
import type { PackId } from '../../core/measure';
import { namedBy } from '../../core/record';
import type { MemoryPayload, Named, RecordDraft } from '../../core/record';
import type { Entities } from '../platform/database';

const UNKNOWN: Readonly<Record<Named | 'pack', string>> = {
  pack: 'This pack is not in the register, or has not arrived yet.',
  place: 'This place is not in the register.',
  person: 'This person is not in the register.',
  photo: 'This photo has not arrived; send it first.',
  incident: 'This incident has not been reported.',
  consignment: 'There is no such consignment.',
  equipment: 'This charger is not in the register.',
  device: 'This device is not in the register.',
  charge_curve: 'This curve has not arrived.',
  craft: 'This craft is not in the register.',
  flying_day: 'This flying day is not in the register.',
};

/** Something of the register that is named by its id, and the field that names it. */
export interface Reference {
  readonly table: keyof typeof UNKNOWN;
  readonly id: string;
  readonly field: string;
}

/** What these records name. Fields are paths into `records`. */
export function referencesOf(drafts: readonly RecordDraft[]): Reference[] {
  return drafts.flatMap((draft, i) =>
    namedBy(draft).map(({ table, id, field }) => ({ table, id, field: `records.${i}.payload.${field}` })),
  );
}

/** Readings that are said to be a device's, and that it did not make: it never showed these volts, or not these cells. */
export async function unsaidReadings(em: Entities, drafts: readonly RecordDraft[]): Promise<FieldProblem[]> {
  const problems: FieldProblem[] = [];
  for (const [i, draft] of drafts.entries()) {
    const reading = draft.kind === 'correction' ? draft.payload.replacement : draft;
    const field = `records.${i}.payload.${draft.kind === 'correction' ? 'replacement.payload.' : ''}measured`;
    if (reading?.kind === 'memory' && reading.payload.measured && !(await isRemembered(em, reading.payload)))
      problems.push({ field, message: 'The reader did not read this memory. Save it as typed by hand.' });
    if (reading?.kind !== 'reading' || !reading.payload.measured) continue;
    const { volts, measured } = reading.payload;
    const [said]: { lowest: number[]; highest: number[]; isTotal: boolean }[] = await em.execute(
      'select lowest, highest, is_total as "isTotal" from device_reading where id = ? and device_id = ?',
      [measured.readingId, measured.deviceId],
    );
    const mv = volts.of === 'cells' ? volts.cellsMv : [volts.packMv];
    // A pack's total is shown to the hundredth of a volt, and a cell as it is.
    const slackMv = volts.of === 'cells' ? 0 : 5;
    const isSaid =
      said?.lowest.length === mv.length &&
      (said.isTotal ? mv.length === 1 : true) &&
      mv.every((one, j) => one >= said.lowest[j]! - slackMv && one <= said.highest[j]! + slackMv);
    if (!isSaid)
      problems.push({ field, message: 'The device did not read these volts. Save them as typed by hand.' });
  }
  return problems;
}

/** Memories that call themselves by a number which another pack's did: a reader that mixes packs up, or the wrong pack's page. */
export async function strangeMemories(
  em: Entities,
  packId: PackId,
  drafts: readonly RecordDraft[],
): Promise<FieldProblem[]> {
  const problems: FieldProblem[] = [];
  for (const [i, draft] of drafts.entries()) {
    if (draft.kind !== 'memory' || !draft.payload.memory?.number) continue;
    const { number } = draft.payload.memory;
    const [other]: { tag: string }[] = await em.execute(
      `select p.tag from record r join pack p on p.id = r.pack_id
        where r.kind = 'memory' and r.payload #>> '{memory,number}' = ? and r.pack_id <> ?
          and not exists (select 1 from record c where c.pack_id = r.pack_id and c.supersedes = r.id) limit 1`,
      [number, packId],
    );
    if (other)
      problems.push({
        field: `records.${i}.payload.memory.number`,
        message: `This is the memory of ${other.tag}. Is another pack on the reader? If ${other.tag} was the slip, withdraw its record first.`,
      });
  }
  return problems;
}

/** Whether this is what a reader read: nothing added, nothing changed. */
async function isRemembered(em: Entities, { memory, measured }: MemoryPayload): Promise<boolean> {
  const [said]: { same: boolean }[] = await em.execute(
    'select memory = ?::jsonb as same from device_reading where id = ? and device_id = ?',
    [JSON.stringify(memory), measured!.readingId, measured!.deviceId],
  );
  return said?.same ?? false;
}

/** What of this the register does not know, said at the field that names it. */
export async function unknownAmong(em: Entities, references: readonly Reference[]): Promise<FieldProblem[]> {
  if (references.length === 0) return [];
  const { sql, params } = knownSql(references);
  return unknownTo(await em.execute(sql, params), references);
}

/** Something that is in the register: the table it is in, and its id. */
export interface KnownRow {
  readonly in: Reference['table'];
  readonly id: string;
}

/** The same where it was asked already what is known. */
export function unknownTo(known: readonly KnownRow[], references: readonly Reference[]): FieldProblem[] {
  const ids = new Set(known.map((row) => `${row.in} ${row.id}`));
  return references
    .filter(({ table, id }) => !ids.has(`${table} ${id}`))
    .map(({ field, table }) => ({ field, message: UNKNOWN[table] }));
}

/** SQL that answers a {@link KnownRow} for each of these that the register knows. */
export function knownSql(references: readonly Reference[]): {
  readonly sql: string;
  readonly params: string[];
} {
  // In one order, so that the same tables make the same statement.
  const tables = [...new Set(references.map(({ table }) => table))].sort();
  const each = tables.map((table) => `select '${table}' as in, id from ${table} where id = any(?::uuid[])`);
  const ids = tables.map((table) => [
    ...new Set(references.filter((one) => one.table === table).map(({ id }) => id)),
  ]);
  return {
    sql: each.length > 0 ? each.join(' union all ') : `select '' as in, null as id where false`,
    params: ids.map((of) => `{${of.join(',')}}`),
  };
}

/** What is named at this field; nothing where the field is empty. */
export function reference(table: Reference['table'], id: string | null, field: string): Reference[] {
  return id === null ? [] : [{ table, id, field }];
}
