import type { z } from 'zod';
import type {
  ImportAnswer,
  ImportedAnswer,
  TakenBackAnswer,
  importForm,
  importPacks,
  importRecords,
} from '../../contract';
import type { Actor } from '../../core/lifecycle';
import type { ImportId, Instant, PackId, PersonId, RecordId } from '../../core/measure';
import { effectiveRecords } from '../../core/record';
import type { RecordDraft } from '../../core/record';
import { append, recordsOf } from '../ledger';
import { receive } from '../packs';
import { asInstant, timestamp } from '../platform/columns';
import { logged } from '../log';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';
import { v7 as newId } from 'uuid';

const IMPORT_COLUMNS = `i.id, i.kind, i.file_name as "fileName", i.digest, i.columns_key as "columnsKey", i.reading, i.lines, i.refused,
  i.by, ${asInstant('i.started_at')} as "startedAt", ${asInstant('i.ended_at')} as "endedAt",
  i.taken_back_by as "takenBackBy", ${asInstant('i.taken_back_at')} as "takenBackAt",
  (select count(*)::int from import_pack n where n.import_id = i.id) as packs,
  (select count(*)::int from import_record n where n.import_id = i.id) as records`;

/** So many imports are listed; older ones are in the ledger all the same. */
const MOST_LISTED = 100;

/** What was brought in, the latest first. */
export async function imports(em: Entities): Promise<ImportAnswer[]> {
  return em.execute(
    `select ${IMPORT_COLUMNS} from import i order by i.started_at desc, i.id desc limit ${MOST_LISTED}`,
  );
}

async function importOf(em: Entities, id: ImportId): Promise<ImportAnswer> {
  const [found]: ImportAnswer[] = await em.execute(`select ${IMPORT_COLUMNS} from import i where i.id = ?`, [
    id,
  ]);
  if (!found) throw new Refused('not-found', { detail: 'There is no such import.' });
  return found;
}

/** One that may still be added to. */
async function openImport(em: Entities, id: ImportId): Promise<ImportAnswer> {
  const found = await importOf(em, id);
  if (found.takenBackAt !== null)
    throw new Refused('changed-meanwhile', {
      detail: 'This import was taken back. Open the file again to begin anew.',
    });
  return found;
}

/** Begins an import, or goes on with it. */
export async function beginImport(
  em: Entities,
  form: z.output<typeof importForm>,
  actor: Actor,
  now: Instant,
): Promise<ImportAnswer> {
  const { id, kind, fileName, digest, columnsKey, reading, lines } = form;
  await em.execute(
    `insert into import (id, kind, file_name, digest, columns_key, reading, lines, by, started_at)
     values (?, ?, ?, ?, ?, ?::jsonb, ?, ?, ?) on conflict (id) do nothing`,
    [id, kind, fileName, digest, columnsKey, JSON.stringify(reading), lines, actor.id, timestamp(now)],
  );
  return openImport(em, id);
}

/** Takes packs of a file into the register, one by one: what cannot be taken is told, the others are in. */
export async function takePacks(
  em: Entities,
  id: ImportId,
  { packs }: z.output<typeof importPacks>,
  actor: Actor,
  now: Instant,
): Promise<ImportedAnswer> {
  await openImport(em, id);
  const refused: { index: number; why: string }[] = [];
  for (const [index, { note, ...pack }] of packs.entries()) {
    try {
      await em.transactional(async (tx) => {
        await receive(tx, pack, actor, now);
        const written = [pack.recordId];
        if (note) {
          const payload = { text: note.text };
          const draft: RecordDraft = {
            kind: 'note',
            id: note.recordId,
            at: pack.receivedAt,
            payload,
            supersedes: null,
          };
          await append(tx, pack.id, [draft], () => ({ actor, recordedAt: now }));
          written.push(note.recordId);
        }
        await tx.execute(
          'insert into import_pack (import_id, pack_id) values (?, ?) on conflict do nothing',
          [id, pack.id],
        );
        await remember(tx, id, pack.id, written);
      });
    } catch (error) {
      refused.push({ index, why: whyNot(error) });
    }
  }
  await announce(em, { about: 'register' });
  return { taken: packs.length - refused.length, refused };
}

/** Writes what happened to a pack by a file; a record that cannot be taken is told and left out. */
export async function takeRecords(
  em: Entities,
  id: ImportId,
  { packId, records }: z.output<typeof importRecords>,
  actor: Actor,
  now: Instant,
): Promise<ImportedAnswer> {
  await openImport(em, id);
  const why = new Map<number, string>();
  // Every refused record is named at once, so the second try has none; a third is for what the first left hidden.
  for (;;) {
    const left = [...records.keys()].filter((index) => !why.has(index));
    const drafts = left.map((index) => records[index]!);
    if (drafts.length === 0) break;
    try {
      await em.transactional(async (tx) => {
        await append(tx, packId, drafts, () => ({ actor, recordedAt: now }), 'import');
        await remember(
          tx,
          id,
          packId,
          drafts.map((draft) => draft.id),
        );
      });
      break;
    } catch (error) {
      const named = namedIn(error);
      if (named.size === 0) throw error;
      for (const [place, reason] of named) why.set(left[place]!, reason);
    }
  }
  const refused = [...why].map(([index, reason]) => ({ index, why: reason }));
  return { taken: records.length - refused.length, refused };
}

/** Which of the records an error names, and why. */
function namedIn(error: unknown): ReadonlyMap<number, string> {
  if (!(error instanceof Refused) || !error.more.errors) return new Map();
  return new Map(
    error.more.errors.flatMap(({ field, message }) => {
      const place = /^records\.(\d+)\./.exec(field)?.[1];
      return place === undefined ? [] : [[Number(place), message] as const];
    }),
  );
}

function whyNot(error: unknown): string {
  if (!(error instanceof Refused)) throw error;
  return (
    error.more.errors?.map(({ message }) => message).join(' ') ?? error.more.detail ?? 'It cannot be taken.'
  );
}

async function remember(
  em: Entities,
  id: ImportId,
  packId: PackId,
  written: readonly RecordId[],
): Promise<void> {
  await em.execute(
    `insert into import_record (import_id, pack_id, record_id)
     select ?, ?, unnest(?::uuid[]) on conflict do nothing`,
    [id, packId, `{${written.join(',')}}`],
  );
}

/** The file is through. */
export async function endImport(
  em: Entities,
  id: ImportId,
  refused: number,
  now: Instant,
): Promise<ImportAnswer> {
  await openImport(em, id);
  await em.execute('update import set ended_at = coalesce(ended_at, ?), refused = ? where id = ?', [
    timestamp(now),
    refused,
    id,
  ]);
  await announce(em, { about: 'register' });
  return importOf(em, id);
}

/** So many corrections go into one append, which inserts them in one statement. */
const BATCH = 2_000;

/**
 * Takes an import back: every record it wrote is withdrawn by a correction that names it. A pack it brought in leaves the lists, and its
 * tag is free again, unless something else was written of that pack since: then its receipt stays, and it is named in the answer.
 */
export async function takeImportBack(
  em: Entities,
  id: ImportId,
  reason: string,
  actor: Actor,
  now: Instant,
): Promise<TakenBackAnswer> {
  const { fileName, takenBackAt } = await importOf(em, id);
  if (takenBackAt !== null)
    throw new Refused('changed-meanwhile', { detail: 'This import was taken back already.' });
  const packs: { id: PackId; tag: string; own: boolean }[] = await em.execute(
    `select p.id, p.tag, exists (select 1 from import_pack n where n.import_id = ? and n.pack_id = p.id) as own
       from pack p where p.id in (select pack_id from import_record where import_id = ?) order by p.tag_key`,
    [id, id],
  );
  let records = 0;
  let gone = 0;
  const kept: string[] = [];
  for (const pack of packs) {
    await em.transactional(async (tx) => {
      const written = await writtenBy(tx, id, pack.id);
      const counting = effectiveRecords((await recordsOf(tx, pack.id)).map(({ record }) => record));
      const leaves = pack.own && counting.every((record) => written.has(record.id));
      if (pack.own && !leaves) kept.push(pack.tag);
      const back = counting.filter(
        (record) => written.has(record.id) && (leaves || record.kind !== 'received'),
      );
      for (let first = 0; first < back.length; first += BATCH) {
        const drafts = back.slice(first, first + BATCH).map((record): RecordDraft => ({
          kind: 'correction',
          id: newId() as RecordId,
          at: now,
          supersedes: record.id,
          payload: { reason: `Import of ${fileName} taken back: ${reason}`, replacement: null },
        }));
        await append(tx, pack.id, drafts, () => ({ actor, recordedAt: now }), 'import');
      }
      records += back.length;
      if (leaves) {
        gone += 1;
        await logged(
          tx,
          { did: 'changed', of: 'pack' },
          { by: actor.id, at: now, through: null },
          pack.id,
          () => freeTag(tx, pack.id),
        );
      }
    });
  }
  await em.execute('update import set taken_back_by = ?, taken_back_at = ? where id = ?', [
    actor.id,
    timestamp(now),
    id,
  ]);
  await announce(em, { about: 'register' });
  return { records, packs: gone, kept };
}

async function writtenBy(em: Entities, id: ImportId, packId: PackId): Promise<ReadonlySet<string>> {
  const rows: { id: PersonId }[] = await em.execute(
    'select record_id as id from import_record where import_id = ? and pack_id = ?',
    [id, packId],
  );
  return new Set(rows.map((row) => row.id));
}

/** The pack was never here: no label of it leads anywhere, so another may have its tag. */
async function freeTag(em: Entities, packId: PackId): Promise<void> {
  await em.execute('delete from pack_tag where pack_id = ?', [packId]);
  await em.execute(
    `update pack set tag = tag || ' (taken back)', tag_key = tag_key || '~' || id, version = version + 1 where id = ?`,
    [packId],
  );
}
