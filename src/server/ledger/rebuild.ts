import type { Verdict } from '../../core/assess';
import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { contextOf } from './context';
import { kept } from './keptLedgers';
import { projectionOf } from './projection';
import { lockedFacts } from './rows';

/**
 * Judges one pack anew from its ledger and writes its state. Needed after its type's facts or the house rules changed; a verdict that
 * new rules change is kept beside them. A ledger that does not end where it was left stays known as such.
 * @param acceptsHead true takes the ledger as it stands, which only a person who looked into it may decide
 */
export async function rebuildPack(em: Entities, packId: PackId, acceptsHead = false): Promise<void> {
  await em.transactional(async (tx) => {
    const own = await lockedFacts(tx, packId);
    const { head, leftAt, rules: inForce, placeTemperatures } = await contextOf(tx, packId);
    if (!own || !head) return;
    const records = await kept.upTo(tx, packId, head);
    const before = await judgedBefore(tx, packId);
    const { verdict, upsert } = projectionOf(
      { ...own, placeTemperatures },
      records,
      acceptsHead ? head : (leftAt ?? head),
      inForce,
    );
    await tx.execute(upsert.sql, upsert.params);
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
export async function rebuildAll(em: Entities, acceptsHeads = false): Promise<number> {
  const packs: { id: PackId }[] = await em.execute('select id from pack order by id');
  for (const { id } of packs) await rebuildPack(em, id, acceptsHeads);
  return packs.length;
}
