import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { project } from './projection';
import { packFacts, recordsOf } from './rows';
import { rulesInForce } from './rulesInForce';

/** Judges one pack anew from its ledger and writes its state. Needed after its type's facts or the house rules changed. */
export async function rebuildPack(em: Entities, packId: PackId): Promise<void> {
  await em.transactional(async (tx) => {
    const pack = await packFacts(tx, packId, true);
    const chained = await recordsOf(tx, packId);
    const head = chained.at(-1);
    if (!pack || !head) return;
    const records = chained.map(({ record }) => record);
    await project(tx, pack, records, head.hash, await rulesInForce(tx));
  });
}

/** Writes every pack's state anew from the ledger. Returns how many packs. Others may go on working meanwhile. */
export async function rebuildAll(em: Entities): Promise<number> {
  const packs: { id: PackId }[] = await em.execute('select id from pack order by id');
  for (const { id } of packs) await rebuildPack(em, id);
  return packs.length;
}
