import type { Verdict } from '../../core/assess';
import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { project } from './projection';
import { packFacts, recordsOf } from './rows';
import { rulesInForce } from './rulesInForce';

/**
 * Judges one pack anew from its ledger and writes its state. Needed after its type's facts or the house rules changed; a verdict that
 * new rules change is kept beside them.
 */
export async function rebuildPack(em: Entities, packId: PackId): Promise<void> {
  await em.transactional(async (tx) => {
    const pack = await packFacts(tx, packId, true);
    const chained = await recordsOf(tx, packId);
    const head = chained.at(-1);
    if (!pack || !head) return;
    const records = chained.map(({ record }) => record);
    const inForce = await rulesInForce(tx);
    const before = await judgedBefore(tx, packId);
    const verdict = await project(tx, pack, records, head.hash, inForce);
    // Judged anew because of its type or its place, it has no version: no rules moved it.
    if (before && before.version > 0 && before.version < inForce.version && before.verdict !== verdict) {
      await tx.execute(
        `insert into verdict_move (rules_version, pack_id, was, became) values (?, ?, ?, ?) on conflict do nothing`,
        [inForce.version, packId, before.verdict, verdict],
      );
    }
  });
}

/** What a pack was judged before, and under which rules. */
async function judgedBefore(
  em: Entities,
  packId: PackId,
): Promise<{ readonly verdict: Verdict; readonly version: number } | undefined> {
  const [row]: { verdict: Verdict; version: number }[] = await em.execute(
    'select verdict, rules_version as version from pack_state where pack_id = ?',
    [packId],
  );
  return row;
}

/** Writes every pack's state anew from the ledger. Returns how many packs. Others may go on working meanwhile. */
export async function rebuildAll(em: Entities): Promise<number> {
  const packs: { id: PackId }[] = await em.execute('select id from pack order by id');
  for (const { id } of packs) await rebuildPack(em, id);
  return packs.length;
}
