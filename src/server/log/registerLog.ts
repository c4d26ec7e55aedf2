import { createHash } from 'node:crypto';
import { stringify } from 'safe-stable-stringify';
import type { LogDeed, Logged, LogEntryAnswer, LogSubject } from '../../contract';
import type { PersonId } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import type { Doer } from '../platform/http';
import { changesBetween, rowOf } from './subjects';
import type { Changes } from './subjects';

/** What the first entry is chained to. */
const FIRST_LINK = '0'.repeat(64);
/** One entry after the other, whichever process writes it: the chain has one end. */
const LOG_LOCK = 0x6c6f67;

export interface Note extends Doer {
  readonly did: LogDeed;
  readonly subject: LogSubject;
  readonly subjectId: string | null;
  /** What it was called then. */
  readonly name: string | null;
  readonly changes: Changes;
}

/** Writes one entry at the end of the log. */
export async function note(em: Entities, entry: Note): Promise<void> {
  await em.transactional(async (tx) => {
    await tx.execute('select pg_advisory_xact_lock(?)', [LOG_LOCK]);
    const [last]: { seq: number; hash: string }[] = await tx.execute(
      'select seq::float8 as seq, hash from register_log order by seq desc limit 1',
    );
    const seq = (last?.seq ?? 0) + 1;
    const prevHash = last?.hash ?? FIRST_LINK;
    const { at, by, through, did, subject, subjectId, name, changes } = entry;
    await tx.execute(
      `insert into register_log (seq, at, by, through, did, subject, subject_id, name, changes, prev_hash, hash)
       values (?, ?, ?, ?, ?, ?, ?, ?, ?::jsonb, ?, ?)`,
      [
        ...[seq, timestamp(at), by, through, did, subject, subjectId, name, JSON.stringify(changes)],
        ...[prevHash, linkOf(seq, entry, prevHash)],
      ],
    );
  });
}

/** Seals everything an entry says, and the entry before it. */
function linkOf(
  seq: number,
  { at, by, through, did, subject, subjectId, name, changes }: Note,
  prevHash: string,
): string {
  return createHash('sha256')
    .update(stringify({ seq, at, by, through, did, subject, subjectId, name, changes, prevHash })!)
    .digest('hex');
}

/**
 * Does the work of an operation that the log tells of, and writes what it changed, both or neither. An edit that changes nothing is no entry.
 * @param id of what it is about; null where it is made by the work, whose answer has it then
 */
export async function logged<Answer>(
  em: Entities,
  { did, of: subject }: Logged,
  doer: Doer,
  id: string | null,
  work: (tx: Entities) => Promise<Answer>,
): Promise<Answer> {
  return em.transactional(async (tx) => {
    const before = await rowOf(tx, subject, id);
    const answer = await work(tx);
    const subjectId = id ?? (answer as { id?: string } | undefined)?.id ?? null;
    const after = await rowOf(tx, subject, subjectId);
    const changes = changesBetween(before?.row ?? null, after?.row ?? null);
    if (did === 'changed' && Object.keys(changes).length === 0) return answer;
    await note(tx, { ...doer, did, subject, subjectId, name: (after ?? before)?.name ?? null, changes });
    return answer;
  });
}

const COLUMNS = `seq::float8 as seq, ${asInstant('at')} as at, by, through, did, subject, subject_id as "subjectId", name, changes`;
const PAGE = 100;

/** The newest entries before a number, newest first; of one person or one kind of thing where that is asked. */
export async function logEntries(
  em: Entities,
  {
    before,
    by,
    subject,
  }: { before?: number | undefined; by?: PersonId | undefined; subject?: LogSubject | undefined },
  most = PAGE,
): Promise<LogEntryAnswer[]> {
  return em.execute(
    `select ${COLUMNS} from register_log
      where seq < ? and (?::uuid is null or by = ?::uuid) and (?::text is null or subject = ?)
      order by seq desc limit ${most}`,
    [before ?? Number.MAX_SAFE_INTEGER, by ?? null, by ?? null, subject ?? null, subject ?? null],
  );
}

export interface LogVerification {
  readonly entries: number;
  /** The numbers of entries that do not hold, and how that shows. */
  readonly broken: readonly { readonly seq: number; readonly why: string }[];
}

/** Recomputes the whole chain of the log, a page at a time. */
export async function verifyLog(em: Entities): Promise<LogVerification> {
  const broken: { seq: number; why: string }[] = [];
  let previous = FIRST_LINK;
  let entries = 0;
  for (;;) {
    const rows: (LogEntryAnswer & { prevHash: string; hash: string })[] = await em.execute(
      `select ${COLUMNS}, prev_hash as "prevHash", hash from register_log where seq > ? order by seq limit 1000`,
      [entries],
    );
    for (const { prevHash, hash, seq, ...entry } of rows) {
      entries += 1;
      if (seq !== entries) broken.push({ seq: entries, why: 'it is missing' });
      if (prevHash !== previous) broken.push({ seq, why: 'it does not follow from the entry before it' });
      if (linkOf(seq, entry, prevHash) !== hash)
        broken.push({ seq, why: 'its contents do not match its seal' });
      previous = hash;
      entries = seq;
    }
    if (rows.length < 1_000) return { entries, broken };
  }
}
