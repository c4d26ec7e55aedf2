import { createHash } from 'node:crypto';
import { stringify } from 'safe-stable-stringify';
import type { PackRecord } from '../../core/record';

/** What a pack's first record is chained to. */
export const FIRST_LINK = '0'.repeat(64);

/**
 * The link of one record: SHA-256 over everything it says and the link before it, written as JSON with sorted keys.
 * Changing, dropping or reordering any record changes every link after it.
 */
export function linkOf(record: PackRecord, prevHash: string): string {
  return createHash('sha256')
    .update(stringify({ ...record, prevHash })!)
    .digest('hex');
}
