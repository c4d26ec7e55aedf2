import type { EvidenceFinding } from '../../contract';
import type { Instant } from '../../core/measure';
import type { Entities } from '../platform/database';
import { readSetting } from '../platform/settings';
import { checkpoints, leavesAt } from './checkpoints';
import type { Checkpoint } from './checkpoints';
import { HOLDINGS, holdingsNow } from './holdings';
import type { Holding } from './holdings';
import { FIRST, digestOf, holds, readCheckpoint, readStatement } from './statement';
import { digestOfChanges, rootOf } from './tree';
import type { Outside } from './verify';

interface Held {
  readonly checkpoints: number;
  /** The number of the checkpoint from outside that the register was held against; null for none. */
  readonly against: number | null;
  readonly findings: readonly EvidenceFinding[];
}

const ALL = 2 ** 31 - 1;

/**
 * Holds the register's checkpoints against each other and against one from outside, and everything they ever spoke for against what is there now. A change
 * is found whether it was made before or after the newest checkpoint: what an older one says of a thing must still hold.
 */
export async function verifyCheckpoints(
  tx: Entities,
  outside: Outside,
  tags: ReadonlyMap<string, string>,
): Promise<Held> {
  const known = [...(await checkpoints(tx, ALL))].reverse();
  const given = outside.checkpoint === null ? null : readCheckpoint(outside.checkpoint);
  const findings = [
    ...(await faultsOf(tx, known, outside.key)),
    ...(outside.checkpoint === null ? [] : await faultsAgainst(tx, given, known, outside.key)),
    ...(await changedLedgers(tx, known, tags)),
    ...(await changedThings(tx, known)),
  ];
  return { checkpoints: known.length, against: given?.said.number ?? null, findings };
}

/** Whether each checkpoint is signed by the register's key, follows from the one before, and has the list of what changed that it was signed with. */
async function faultsOf(
  tx: Entities,
  known: readonly Checkpoint[],
  key: string | null,
): Promise<readonly EvidenceFinding[]> {
  const findings: EvidenceFinding[] = [];
  let before = FIRST;
  for (const [i, one] of known.entries()) {
    const said = readStatement(one.statement);
    const found = (why: string) => findings.push(fault(`Checkpoint ${one.number}`, why));
    if (said?.number !== one.number || said.at !== one.at || !holds(one))
      found('it does not say what was signed');
    else {
      if (key !== null && one.key !== key) found('it is signed by another key than this register’s');
      if (digestOfChanges(await changesAt(tx, one.number)) !== said.changed) found(NOT_AS_SIGNED);
    }
    if (one.number !== i + 1 || said?.before !== before) found('it does not follow from the one before it');
    before = digestOf(one);
  }
  const newest = known.at(-1);
  if (newest && rootOf(await leavesAt(tx, newest.number)) !== readStatement(newest.statement)?.root)
    findings.push(fault(`Checkpoint ${newest.number}`, NOT_AS_SIGNED));
  return findings;
}

const NOT_AS_SIGNED = 'what was written down with it is not what was signed';

async function changesAt(tx: Entities, number: number): Promise<ReadonlyMap<string, string | null>> {
  const rows: { name: string; digest: string | null }[] = await tx.execute(
    'select name, digest from checkpoint_leaf where number = ?',
    [number],
  );
  return new Map(rows.map(({ name, digest }) => [name, digest]));
}

/** Whether the register has the checkpoint that somebody kept, word for word. */
async function faultsAgainst(
  tx: Entities,
  given: ReturnType<typeof readCheckpoint>,
  known: readonly Checkpoint[],
  key: string | null,
): Promise<readonly EvidenceFinding[]> {
  if (!given) return [fault('The checkpoint that was given', 'this is not the text of a checkpoint')];
  const { number, register, root, at } = given.said;
  const what = `Checkpoint ${number} that was given`;
  if (!holds(given)) return [fault(what, 'its signature does not belong to what it says')];
  if (register !== (await readSetting<string>(tx, 'register')))
    return [fault(what, 'it is of another register')];
  if (key !== null && given.key !== key)
    return [fault(what, 'it is signed by another key than this register’s')];
  const own = known.find((one) => one.number === number);
  if (!own) return [fault(what, 'the register does not have it any more', at)];
  if (own.statement !== given.statement) return [fault(what, 'the register has another in its place', at)];
  return rootOf(await leavesAt(tx, number)) === root ? [] : [fault(what, NOT_AS_SIGNED, at)];
}

/** Ledgers, and the log, of which a checkpoint knew a last link that is no longer there. */
async function changedLedgers(
  tx: Entities,
  known: readonly Checkpoint[],
  tags: ReadonlyMap<string, string>,
): Promise<readonly EvidenceFinding[]> {
  // The newest of those that do not hold says until when the ledger did; the oldest, how far back it was changed.
  const rows: { name: string; seq: number; there: boolean; until: number | null }[] = await tx.execute(
    `with version as (
       select l.name, l.number, lead(l.number) over (partition by l.name order by l.number) as next,
              case when l.digest ~ '^[0-9]+ [0-9a-f]{64}$' then split_part(l.digest, ' ', 1)::bigint end as seq,
              split_part(l.digest, ' ', 2) as hash,
              case when l.name <> 'log' then substr(l.name, 8)::uuid end as pack_id
         from checkpoint_leaf l where l.name like 'ledger/%' or l.name = 'log'),
     lost as (
       select v.*, coalesce(r.hash, g.hash) is not null as there from version v
         left join record r on r.pack_id = v.pack_id and r.seq = v.seq
         left join register_log g on v.name = 'log' and g.seq = v.seq
        where v.seq is not null and coalesce(r.hash, g.hash) is distinct from v.hash)
     select distinct on (name) name, seq::float8 as seq, there,
            (select case when bool_or(next is null) then null else max(next) end from lost o where o.name = lost.name) as until
       from lost order by name, number`,
  );
  return rows.map(({ name, seq, there, until }) =>
    fault(
      name === 'log' ? 'The register’s log' : `The ledger of ${tags.get(name.slice(7)) ?? name.slice(7)}`,
      `its ${name === 'log' ? 'entry' : 'record'} ${seq} is ${there ? 'another' : 'gone'}`,
      timeBefore(known, until),
    ),
  );
}

/** One state of a thing, from a checkpoint on; null for a thing that is not there. */
interface Version {
  readonly digest: string | null;
  /** Null for what is there now. */
  readonly number: number | null;
}

/** Everything else that became another or went away though it never may, or without the log telling of it. */
async function changedThings(
  tx: Entities,
  known: readonly Checkpoint[],
): Promise<readonly EvidenceFinding[]> {
  const leaves: { name: string; number: number; digest: string | null }[] = await tx.execute(
    `select name, number, digest from checkpoint_leaf where name not like 'ledger/%' and name <> 'log' order by name, number`,
  );
  const versions = new Map<string, Version[]>();
  for (const { name, number, digest } of leaves) {
    const before = versions.get(name);
    if (before) before.push({ number, digest });
    else versions.set(name, [{ number, digest }]);
  }
  const now = new Map((await holdingsNow(tx)).map((one) => [one.name, one]));
  const told = await toldBetween(tx, known);
  const findings: EvidenceFinding[] = [];
  for (const [name, past] of versions) {
    const [table, id] = name.split('/');
    const holding = HOLDINGS.find((one) => one.table === table);
    if (!holding) continue;
    const all = [...past, { number: null, digest: now.get(name)?.digest ?? null }];
    const wrong = all.findLast(({ number, digest }, i) => {
      const before = all[i - 1];
      if (!before || before.digest === digest || before.digest === null) return false;
      return holding.kept === 'written-once' || !told(`${holding.subject} ${id}`, number);
    });
    if (!wrong) continue;
    const why =
      wrong.digest === null
        ? 'it is gone'
        : holding.kept === 'told'
          ? 'it was changed, and the log does not say so'
          : 'it was changed, and never may be';
    // A picture is read whole only when it is new, so no later checkpoint says what it was like.
    const isPainted = table === 'photo' && wrong.digest !== null;
    const heldAt = isPainted ? timeOf(known, past[0]!.number!) : timeBefore(known, wrong.number);
    findings.push(fault(calledBy(holding, name, now.get(name)?.called), why, heldAt));
  }
  return findings;
}

/** Answers whether the log tells of a thing between a checkpoint and the one before it; for null, since the newest. */
async function toldBetween(
  tx: Entities,
  known: readonly Checkpoint[],
): Promise<(told: string, number: number | null) => boolean> {
  const entries: { told: string; seq: number }[] = await tx.execute(
    `select subject || ' ' || subject_id as told, seq::float8 as seq from register_log where subject_id is not null order by seq`,
  );
  const ends: { number: number; seq: number }[] = await tx.execute(
    `select number, split_part(digest, ' ', 1)::float8 as seq from checkpoint_leaf
      where name = 'log' and digest ~ '^[0-9]+ [0-9a-f]{64}$' order by number`,
  );
  const seqs = new Map<string, number[]>();
  for (const { told, seq } of entries) seqs.set(told, [...(seqs.get(told) ?? []), seq]);
  const logEnd = (number: number) => ends.findLast((one) => one.number <= number)?.seq ?? 0;
  const newest = known.at(-1)?.number ?? 0;
  return (told, number) => {
    const [after, upTo] = number === null ? [logEnd(newest), Infinity] : [logEnd(number - 1), logEnd(number)];
    return (seqs.get(told) ?? []).some((seq) => seq > after && seq <= upTo);
  };
}

function timeOf(known: readonly Checkpoint[], number: number): Instant | null {
  return known.find((one) => one.number === number)?.at ?? null;
}

/** The time of the checkpoint before this one; of the newest for null. */
function timeBefore(known: readonly Checkpoint[], number: number | null): Instant | null {
  const before = number === null ? known.at(-1) : known.findLast((one) => one.number < number);
  return before?.at ?? null;
}

function calledBy({ words }: Holding, name: string, called: string | null | undefined): string {
  const key = name.split('/').slice(1);
  const short = key.map((part) => (part.length > 30 ? part.slice(-8) : part)).join(', ');
  return `The ${words} ${called ?? short}`;
}

function fault(what: string, why: string, heldAt: Instant | null = null): EvidenceFinding {
  return { what, why, heldAt };
}
