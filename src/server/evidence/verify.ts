import { IsolationLevel } from '../platform/orm';
import type { EvidenceFinding, VerificationAnswer } from '../../contract';
import type { Instant, PackId } from '../../core/measure';
import { verifyIncidents } from '../incidents';
import { verifyLedger, verifyStates } from '../ledger';
import { toldOtherwise, verifyLog } from '../log';
import type { Entities } from '../platform/database';
import { verifyCheckpoints } from './verifyCheckpoints';

/** What the register is held against beside itself. */
export interface Outside {
  /** A checkpoint that left the machine, as text; null for none. */
  readonly checkpoint: string | null;
  /** The key that this register signs with; null where it is not known. */
  readonly key: string | null;
}

/**
 * Looks whether the register is what it was: every chain, every state against the records it rests on, every tag, what the log says of what stands in the
 * tables, and all of it against the checkpoints. Changes nothing. Says what does not hold, and until when it did.
 */
export async function verifyRegister(
  em: Entities,
  { checkpoint, key }: Outside,
  now: Instant,
): Promise<VerificationAnswer> {
  return em.transactional(
    async (tx) => {
      const tags = await tagsOf(tx);
      const pack = (id: PackId) => tags.get(id) ?? `the pack ${id}`;
      const findings: EvidenceFinding[] = [];
      const found = (what: string, why: string) => findings.push({ what, why, heldAt: null });

      const { packs, records, broken } = await verifyLedger(tx);
      for (const { packId, seq, why } of broken) found(`${pack(packId)}, record ${seq}`, why);
      const isBroken = new Set(broken.map(({ packId }) => packId));
      for (const { packId, why } of await verifyStates(tx))
        if (!isBroken.has(packId)) found(pack(packId), why);
      for (const { id, why } of await verifyIncidents(tx)) found(`Incident ${id.slice(-8)}`, why);
      for (const { tag, why } of await verifyTags(tx)) found(tag, why);
      const log = await verifyLog(tx);
      for (const { seq, why } of log.broken) found(`Entry ${seq} of the register’s log`, why);
      for (const { what, why } of await toldOtherwise(tx)) found(what, why);
      const held = await verifyCheckpoints(tx, { checkpoint, key }, tags);
      findings.push(...held.findings);
      return {
        at: now,
        packs,
        records,
        entries: log.entries,
        checkpoints: held.checkpoints,
        against: held.against,
        findings,
      };
    },
    { isolationLevel: IsolationLevel.REPEATABLE_READ },
  );
}

/** How packs are called, by their ids. */
async function tagsOf(tx: Entities): Promise<ReadonlyMap<string, string>> {
  const rows: { id: string; tag: string }[] = await tx.execute('select id, tag from pack');
  return new Map(rows.map(({ id, tag }) => [id, tag]));
}

/** Each pack has exactly one tag of the present, which is what it is called, and no tag is of a pack that is not there. */
async function verifyTags(tx: Entities): Promise<readonly { readonly tag: string; readonly why: string }[]> {
  return tx.execute(
    `select p.tag, 'its tag is not the one that scans lead to it by' as why from pack p
      where p.tag not like '% (taken back)' and not exists
        (select from pack_tag t where t.pack_id = p.id and t.until is null and t.key = p.tag_key and t.tag = p.tag)
     union all
     select t.tag, 'this tag leads to no pack' from pack_tag t where not exists (select from pack p where p.id = t.pack_id)
     union all
     select t.tag, 'this tag is of a pack that is called otherwise' from pack_tag t join pack p on p.id = t.pack_id
      where t.until is null and t.key <> p.tag_key`,
  );
}
