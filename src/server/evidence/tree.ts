import { createHash } from 'node:crypto';

/**
 * The digest of what changed from one checkpoint to the next: SHA-256 over a line for each thing in the order of their names, its name and its digest, or
 * nothing for what is gone. Hexadecimal.
 */
export function digestOfChanges(changed: ReadonlyMap<string, string | null>): string {
  const lines = [...changed]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, digest]) => `${name} ${digest ?? ''}\n`);
  return createHash('sha256').update(lines.join('')).digest('hex');
}

const LEAF = Buffer.from([0]);
const NODE = Buffer.from([1]);

/**
 * The root of a Merkle tree over what the register holds: each thing's name and the digest of what it is. In the order of their names: SHA-256 over a 0, the name, a 0 and the digest for a leaf; over a 1 and both children for
 * a node; what has no neighbour goes up as it is. Hexadecimal; of no leaves the digest of nothing.
 */
export function rootOf(leaves: ReadonlyMap<string, string>): string {
  let level = [...leaves]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, digest]) => hashOf(LEAF, Buffer.from(name), LEAF, Buffer.from(digest)));
  if (level.length === 0) return hashOf().toString('hex');
  while (level.length > 1) {
    const above: Buffer[] = [];
    for (let i = 0; i < level.length; i += 2) {
      const [left, right] = [level[i]!, level[i + 1]];
      above.push(right ? hashOf(NODE, left, right) : left);
    }
    level = above;
  }
  return level[0]!.toString('hex');
}

function hashOf(...parts: readonly Buffer[]): Buffer {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(part);
  return hash.digest();
}
