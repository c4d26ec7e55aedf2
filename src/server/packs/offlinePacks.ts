import { deflateRaw } from 'node:zlib';
import { promisify } from 'node:util';
import type { OfflinePack } from '../../contract';
import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { jsonWith } from '../platform/jsonText';
import { packsInFull } from './service';

/**
 * Packs for a device that keeps every one of them: a ledger repeats itself, so its JSON shrinks to a ninth, and browsers unpack raw deflate by
 * themselves. The work is the server's, since a phone in the field has a battery, too.
 */
export async function offlinePacks(em: Entities, ids: readonly PackId[]): Promise<OfflinePack[]> {
  const all: OfflinePack[] = [];
  for (let first = 0; first < ids.length; first += AT_ONCE) {
    const some = await packsInFull(em, ids.slice(first, first + AT_ONCE));
    for (const { facts, ledger } of some) {
      const { text } = jsonWith<OfflinePack>(facts, { records: ledger.json });
      const packed = (await promisify(deflateRaw)(text)).toString('base64');
      all.push({ id: facts.id, version: facts.version, seq: ledger.count, packed });
    }
  }
  return all;
}

/** Ledgers may be long, and only what they are packed into is kept until the answer is whole. */
const AT_ONCE = 8;
