import type { Verdict } from '../../core/assess';
import type { PackId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import { fold } from '../../core/record';
import type { PackRecord } from '../../core/record';
import { executePrepared, openInWorker } from '../platform/database';
import type { Entities } from '../platform/database';
import { heavyTask } from '../platform/heavy';
import { inLots } from '../platform/lots';
import { contextOf } from './context';
import type { Left } from './context';
import { kept } from './keptLedgers';
import type { Head } from './keptLedgers';
import { recordsOfMany } from './packed';
import { projectionOf } from './projection';
import { hold } from './rows';
import { replaceStates } from './states';

/** Records that are read at once: packs with short ledgers are judged together, one with a long ledger by itself. */
const RECORDS_AT_ONCE = 4_000;

/**
 * Judges one pack anew from its ledger and writes its state. Needed after its type's facts or the house rules changed; a verdict that
 * new rules change is kept beside them. A ledger that does not end where it was left stays known as such.
 * @param acceptsHead true takes the ledger as it stands, which only a person who looked into it may decide
 */
export async function rebuildPack(em: Entities, packId: PackId, acceptsHead = false): Promise<void> {
  await em.transactional(async (tx) => {
    // What was packed before may not be what stands now.
    if (acceptsHead)
      await tx.execute(`update packed_ledger set seq = 1, hash = '' where pack_id = ?`, [packId]);
    // Done once nothing else wrote its state meanwhile; nobody can for ever.
    while ((await rebuild(tx, [packId], { acceptsHead })).overtaken.length > 0);
  });
}

/**
 * The same for several packs at once. One that is being written to at this moment is passed over: to wait for it while others are held
 * could stop both for good.
 * @returns those that were judged
 */
export async function rebuildPacks(em: Entities, ids: readonly PackId[]): Promise<readonly PackId[]> {
  return em.transactional(async (tx) => (await rebuild(tx, ids, { passesOver: true })).judged);
}

/** Packs to be judged anew, and the register they are of. */
interface ToRebuild {
  readonly databaseUrl: string;
  readonly ids: readonly PackId[];
}

/** Thousands of packs are minutes of a processor. */
export const REBUILD = heavyTask<ToRebuild, readonly PackId[]>('rebuild');

/** So many are judged in one transaction. */
const TOGETHER = 10;

/**
 * The same as {@link rebuildPacks} of any number that were judged under older rules, by whoever has no connection to the register yet: some are read and
 * written while others are judged. What another process has judged meanwhile is left to it.
 * @returns those that were judged here
 */
export async function rebuilt({ databaseUrl, ids }: ToRebuild): Promise<readonly PackId[]> {
  const register = await openInWorker(databaseUrl);
  const lots = inLots(ids, TOGETHER);
  const done: PackId[] = [];
  const lane = async () => {
    for (let lot = lots.pop(); lot; lot = lots.pop())
      done.push(...(await rebuildPacks(register.entities(), await stillOld(register.entities(), lot))));
  };
  await Promise.all([lane(), lane()]);
  return done;
}

async function stillOld(em: Entities, ids: readonly PackId[]): Promise<readonly PackId[]> {
  const rows = await executePrepared<{ id: PackId }>(em, {
    sql: `select pack_id as id from pack_state
           where pack_id = any(?::uuid[]) and rules_version < (select max(version) from rule_set)`,
    params: [`{${ids.join(',')}}`],
  });
  return rows.map(({ id }) => id);
}

interface Rebuilt {
  readonly judged: readonly PackId[];
  /** Those whose state something else wrote meanwhile: a change of their type, say, after which they are to be judged anew. */
  readonly overtaken: readonly PackId[];
}

async function rebuild(
  tx: Entities,
  ids: readonly PackId[],
  { acceptsHead = false, passesOver = false },
): Promise<Rebuilt> {
  const held = await hold(tx, ids, passesOver);
  const { standings, rules: inForce, placeTemperatures } = await contextOf(tx, held);
  const packs = [...standings.values()].flatMap(({ facts, head, left }) =>
    head ? [{ facts: { ...facts, placeTemperatures }, head, left }] : [],
  );
  await passEmpty(
    tx,
    held.filter((id) => !standings.get(id)!.head),
    inForce.version,
  );
  const overtaken = new Set<PackId>();
  for (const some of together(packs)) {
    const ledgers = await ledgersOf(tx, some);
    const moved: Moved[] = [];
    const rows: ReturnType<typeof projectionOf>[] = [];
    for (const { facts: pack, head, left } of some) {
      const records = ledgers.get(pack.id)!;
      const row = projectionOf(fold(pack, records), records, acceptsHead ? head : (left ?? head), inForce);
      rows.push(row);
      if (left && left.verdict !== row.verdict) moved.push({ id: pack.id, left, became: row.verdict });
      // A browser that asks meanwhile waits for one pack, not for all of them.
      if (some.length > 1) await new Promise(setImmediate);
    }
    const replace = replaceStates(
      rows,
      some.map(({ left }) => left),
    );
    const answered = await executePrepared<{ id: PackId }>(tx, replace);
    const written = new Set(answered.map(({ id }) => id));
    for (const { facts } of some) if (!written.has(facts.id)) overtaken.add(facts.id);
    await keepMoves(
      tx,
      moved.filter(({ id }) => written.has(id)),
      inForce.version,
    );
  }
  return { judged: held.filter((id) => !overtaken.has(id)), overtaken: [...overtaken] };
}

/** A pack whose whole ledger is gone stays as it was last judged; it is not asked for again and again. */
async function passEmpty(em: Entities, ids: readonly PackId[], version: number): Promise<void> {
  if (ids.length === 0) return;
  await em.execute('update pack_state set rules_version = ? where pack_id = any(?::uuid[])', [
    version,
    `{${ids.join(',')}}`,
  ]);
}

interface Judged {
  readonly facts: PackFacts;
  readonly head: Head;
  readonly left: Left | null;
}

/** Packs in lots of so many records. */
function together(packs: readonly Judged[]): readonly (readonly Judged[])[] {
  const lots: Judged[][] = [];
  let records = Infinity;
  for (const pack of packs) {
    records += pack.head.seq;
    if (records > RECORDS_AT_ONCE) {
      lots.push([]);
      records = pack.head.seq;
    }
    lots.at(-1)!.push(pack);
  }
  return lots;
}

async function ledgersOf(
  em: Entities,
  packs: readonly Judged[],
): Promise<ReadonlyMap<PackId, readonly PackRecord[]>> {
  const [one, ...others] = packs;
  if (others.length > 0)
    return recordsOfMany(
      em,
      packs.map(({ facts }) => facts.id),
    );
  return new Map([[one!.facts.id, await kept.upTo(em, one!.facts.id, one!.head)]]);
}

interface Moved {
  readonly id: PackId;
  readonly left: Left;
  readonly became: Verdict;
}

/** Keeps what new rules moved. Judged anew because of its type or its place, a pack has no version: no rules moved it. */
async function keepMoves(em: Entities, moved: readonly Moved[], version: number): Promise<void> {
  const byRules = moved.filter(({ left }) => left.rulesVersion > 0 && left.rulesVersion < version);
  if (byRules.length === 0) return;
  await em.execute(
    `insert into verdict_move (rules_version, pack_id, was, became)
     values ${byRules.map(() => '(?, ?, ?, ?)').join(', ')} on conflict do nothing`,
    byRules.flatMap(({ id, left, became }) => [version, id, left.verdict, became]),
  );
}

/** Writes every pack's state anew from the ledger. Returns how many packs. Others may go on working meanwhile. */
export async function rebuildAll(em: Entities, acceptsHeads = false): Promise<number> {
  const packs: { id: PackId }[] = await em.execute('select id from pack order by id');
  for (const { id } of packs) await rebuildPack(em, id, acceptsHeads);
  return packs.length;
}
