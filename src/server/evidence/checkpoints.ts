import { IsolationLevel } from '../platform/orm';
import { v7 as newId } from 'uuid';
import type { Instant } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import { isUniqueViolation } from '../platform/problems';
import type { Entities } from '../platform/database';
import { readSetting, writeSettingOnce } from '../platform/settings';
import type { Signer } from '../platform/signing';
import { holdingsNow } from './holdings';
import { FIRST, checkpointText, digestOf, statementText } from './statement';
import type { Signed } from './statement';
import { digestOfChanges, rootOf } from './tree';

/** A checkpoint as the register keeps it. */
export interface Checkpoint extends Signed {
  readonly number: number;
  readonly at: Instant;
}

/** One after the other, whichever process makes it. */
const CHECKPOINT_LOCK = 0x636865;
const ROWS_AT_ONCE = 1_000;

/**
 * Writes down and signs what the register holds at this moment, unless that is what the newest checkpoint says already.
 * @returns the newest checkpoint; null for a register that nobody has entered yet
 */
export async function makeCheckpoint(em: Entities, signer: Signer, now: Instant): Promise<Checkpoint | null> {
  await writeSettingOnce(em, 'register', newId());
  try {
    return await make(em, signer, now);
  } catch (error) {
    // Another process made one between this one's look and its turn.
    if (!isUniqueViolation(error)) throw error;
    return make(em, signer, now);
  }
}

/** The same as the text that leaves the machine. */
export async function newestCheckpoint(em: Entities, signer: Signer, now: Instant): Promise<string | null> {
  const made = await makeCheckpoint(em, signer, now);
  return made && checkpointText(made);
}

function make(em: Entities, signer: Signer, now: Instant): Promise<Checkpoint | null> {
  return em.transactional(
    async (tx) => {
      await tx.execute('select pg_advisory_xact_lock(?)', [CHECKPOINT_LOCK]);
      const [{ empty }]: [{ empty: boolean }] = await tx.execute(
        'select not exists(select from person) as empty',
      );
      if (empty) return null;
      const [last] = await checkpoints(tx, 1);
      const held = new Map(await leavesAt(tx, last?.number ?? 0));
      const changed = await changesSince(tx, held);
      if (last && changed.size === 0) return last;
      for (const [name, digest] of changed) {
        if (digest === null) held.delete(name);
        else held.set(name, digest);
      }
      const number = (last?.number ?? 0) + 1;
      const statement = statementText({
        register: (await readSetting<string>(tx, 'register'))!,
        number,
        at: now,
        leaves: held.size,
        root: rootOf(held),
        changed: digestOfChanges(changed),
        before: last ? digestOf(last) : FIRST,
      });
      const made = { number, at: now, statement, key: signer.publicKey, signature: signer.sign(statement) };
      await keep(tx, made, [...changed]);
      return made;
    },
    // What a thing is and what the log says of it are seen at one moment.
    { isolationLevel: IsolationLevel.REPEATABLE_READ },
  );
}

/** What is new, what is another and, as null, what is gone since these things were held. Photos never change under their names: they are only looked for. */
async function changesSince(
  tx: Entities,
  held: ReadonlyMap<string, string>,
): Promise<ReadonlyMap<string, string | null>> {
  const changed = new Map<string, string | null>([...held.keys()].map((name) => [name, null]));
  for (const { name, digest } of await holdingsNow(tx, held)) {
    if (held.get(name) === digest) changed.delete(name);
    else changed.set(name, digest);
  }
  return changed;
}

async function keep(
  tx: Entities,
  { number, at, statement, key, signature }: Checkpoint,
  leaves: readonly (readonly [name: string, digest: string | null])[],
): Promise<void> {
  await tx.execute('insert into checkpoint (number, at, statement, key, signature) values (?, ?, ?, ?, ?)', [
    ...[number, timestamp(at), statement, key, signature],
  ]);
  for (let first = 0; first < leaves.length; first += ROWS_AT_ONCE) {
    const some = leaves.slice(first, first + ROWS_AT_ONCE);
    await tx.execute(
      `insert into checkpoint_leaf (name, number, digest) values ${some.map(() => '(?, ?, ?)').join(', ')}`,
      some.flatMap(([name, digest]) => [name, number, digest]),
    );
  }
}

/** What the register held at a checkpoint, as its tables tell it: each thing by name, with its digest. */
export async function leavesAt(em: Entities, number: number): Promise<ReadonlyMap<string, string>> {
  const rows: { name: string; digest: string | null }[] = await em.execute(
    `select distinct on (name) name, digest from checkpoint_leaf where number <= ? order by name, number desc`,
    [number],
  );
  return new Map(rows.flatMap(({ name, digest }) => (digest === null ? [] : [[name, digest] as const])));
}

/** Numbers are an int. */
const NEWEST = 2 ** 31 - 1;

/** The newest checkpoints first, or those up to a number. */
export async function checkpoints(em: Entities, most: number, upTo = NEWEST): Promise<readonly Checkpoint[]> {
  return em.execute(
    `select number, ${asInstant('at')} as at, statement, key, signature from checkpoint
      where number <= ? order by number desc limit ?`,
    [Math.max(0, Math.min(upTo, NEWEST)), most],
  );
}
