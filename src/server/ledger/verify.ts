import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { FIRST_LINK, linkOf } from './hash';
import { recordsOf } from './rows';

/** Where a pack's chain does not hold, and how that shows. */
export interface BrokenLink {
  readonly packId: PackId;
  readonly seq: number;
  readonly why: string;
}

export interface Verification {
  readonly packs: number;
  readonly records: number;
  readonly broken: readonly BrokenLink[];
}

/** Recomputes every chain of the ledger and compares it with what is written and with where each pack's state says it ends. */
export async function verifyLedger(em: Entities): Promise<Verification> {
  const packs: { id: PackId; seq: number | null; head_hash: string | null }[] = await em.execute(
    'select p.id, s.seq, s.head_hash from pack p left join pack_state s on s.pack_id = p.id order by p.id',
  );
  const broken: BrokenLink[] = [];
  let records = 0;
  for (const { id, seq, head_hash } of packs) {
    const { length, faults } = await verifyPack(em, id, seq ?? 0, head_hash ?? FIRST_LINK);
    records += length;
    broken.push(...faults);
  }
  return { packs: packs.length, records, broken };
}

async function verifyPack(em: Entities, packId: PackId, headSeq: number, headHash: string) {
  const chained = await recordsOf(em, packId);
  const faults: BrokenLink[] = [];
  let previous = FIRST_LINK;
  for (const [i, { record, prevHash, hash }] of chained.entries()) {
    const fault = (why: string) => faults.push({ packId, seq: record.seq, why });
    if (record.seq !== i + 1) fault(`record ${i + 1} is missing`);
    if (prevHash !== previous) fault('it does not follow from the record before it');
    if (linkOf(record, prevHash) !== hash) fault('its contents do not match its seal');
    previous = hash;
  }
  if (chained.length !== headSeq || previous !== headHash) {
    faults.push({ packId, seq: headSeq, why: 'the chain does not end where the pack’s state says it does' });
  }
  return { length: chained.length, faults };
}
