import { LRUCache } from 'lru-cache';
import type { PackId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import type { PackHistory, PackRecord } from '../../core/record';
import type { Entities } from '../platform/database';
import { packedLedgers, unpacked } from './packed';
import { recordsOf } from './rows';
import type { ChainedRecord } from './rows';

/** Where a pack's ledger ends: the number and the seal of its last record. */
export interface Head {
  readonly seq: number;
  readonly hash: string;
}

/** Whether a ledger ends where it was left: a record taken off its end, or put in the place of another, shows here. */
export function endsAt(head: Head | null, leftAt: Head | null): boolean {
  return leftAt === null || (head?.seq === leftAt.seq && head.hash === leftAt.hash);
}

/** Some forty megabytes of records: the packs that a day's work goes through. */
const MOST_RECORDS = 50_000;
/** What a ledger was folded into, and what was worked out from that, takes about as much again. */
const FOLDED_WEIGHS = 2;

/** What a ledger adds up to, and the facts of the pack it was folded with. */
export interface Folded {
  readonly pack: PackFacts;
  readonly history: PackHistory;
}

interface Kept {
  readonly records: readonly PackRecord[];
  readonly hash: string;
  readonly folded: Folded | null;
}

/**
 * The ledgers this process read last, so that a record is judged without reading the whole ledger again. Nothing has to tell when a
 * ledger changed: whoever asks names its head as the database has it, and a seal stands for every record before it. What is kept and
 * has another head is brought up to date, or read anew where it is none of that ledger's past.
 */
export class KeptLedgers {
  readonly #kept: LRUCache<PackId, Kept>;

  constructor(mostRecords = MOST_RECORDS) {
    this.#kept = new LRUCache({
      maxSize: mostRecords,
      sizeCalculation: ({ records, folded }) => Math.max(1, records.length) * (folded ? FOLDED_WEIGHS : 1),
    });
  }

  /** All records of a pack up to this head, in the order they arrived. */
  async upTo(em: Entities, packId: PackId, head: Head | null): Promise<readonly PackRecord[]> {
    if (!head) return [];
    const kept = this.#kept.get(packId);
    if (kept?.hash === head.hash && kept.records.length === head.seq) return kept.records;
    const isBehind = kept !== undefined && kept.records.length < head.seq;
    const since = isBehind ? await recordsOf(em, packId, kept.records.length) : [];
    if (isBehind && since[0]?.prevHash === kept.hash) {
      const records = [...kept.records, ...since.map(({ record }) => record)];
      this.#kept.set(packId, { records, hash: since.at(-1)!.hash, folded: null });
      return records;
    }
    const ledger = (await packedLedgers(em, [packId])).get(packId)!;
    const records = unpacked(ledger);
    this.#kept.set(packId, { records, hash: ledger.hash, folded: null });
    return records;
  }

  /** What the ledger up to this head was folded into; null where it was not, or is not known any more. */
  foldedAt(packId: PackId, head: Head | null): Folded | null {
    const kept = this.#kept.get(packId);
    return head !== null && kept?.hash === head.hash ? kept.folded : null;
  }

  /** Begins again with nothing, like a process that was just started. */
  clear(): void {
    this.#kept.clear();
  }

  /** Keeps what was written after these records. Should the transaction come to nothing, its head is never asked for. */
  add(
    packId: PackId,
    before: readonly PackRecord[],
    fresh: readonly ChainedRecord[],
    folded: Folded | null = null,
  ): void {
    const records = [...before, ...fresh.map(({ record }) => asStored(record))];
    this.#kept.set(packId, { records, hash: fresh.at(-1)!.hash, folded });
  }
}

/** A record as it will be read: what the program left undefined is not written down. */
export function asStored(record: PackRecord): PackRecord {
  return { ...record, payload: JSON.parse(JSON.stringify(record.payload)) as never };
}

/** Those of this process. */
export const kept = new KeptLedgers();
