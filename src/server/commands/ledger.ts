import { readFileSync } from 'node:fs';
import { rebuildAll } from '../ledger';
import { openRegister } from '../app';
import { newestCheckpoint, verifyRegister } from '../evidence';
import { signerOf } from '../platform/signing';
import { run } from './run';

const USAGE = `Usage: ledger verify [FILE] | checkpoint | rebuild [--accept-heads]   (DATABASE_URL names the register)
verify       holds the register against itself, against its checkpoints, and against the checkpoint in FILE
checkpoint   writes down and signs what the register holds, and prints it (MALLE_SIGNING_KEY names the key)
rebuild      judges every pack anew; --accept-heads takes every ledger as it stands, cut or not: verify first, and know why
`;

/** Looks whether the register is what it was, makes a checkpoint, or writes every pack's state anew. */
async function main([command, option]: readonly string[]): Promise<number> {
  const url = process.env.DATABASE_URL;
  const isKnown =
    command === 'verify' ||
    (command === 'checkpoint' && option === undefined && process.env.MALLE_SIGNING_KEY !== undefined) ||
    (command === 'rebuild' && (option === undefined || option === '--accept-heads'));
  if (!url || !isKnown) {
    process.stderr.write(USAGE);
    return 2;
  }
  const checkpoint = command === 'verify' && option !== undefined ? readFileSync(option, 'utf8') : null;
  const signer = signerOf(process.env);
  const database = await openRegister(url);
  const em = database.entities();
  try {
    if (command === 'rebuild') {
      process.stdout.write(`${await rebuildAll(em, option !== undefined)} packs judged anew.\n`);
      return 0;
    }
    if (command === 'checkpoint') {
      process.stdout.write(
        (await newestCheckpoint(em, signer!, Date.now())) ?? 'Nobody has entered this register yet.\n',
      );
      return 0;
    }
    const key = signer?.publicKey ?? null;
    const found = await verifyRegister(em, { checkpoint, key }, Date.now());
    for (const { what, why, heldAt } of found.findings) {
      const since = heldAt === null ? '' : ` It held at ${new Date(heldAt).toISOString()}.`;
      process.stdout.write(`${what}: ${why.replace(/\.$/, '')}.${since}\n`);
    }
    const { packs, records, entries, checkpoints, findings } = found;
    process.stdout.write(
      `${packs} packs, ${records} records, ${entries} entries of the log, ${checkpoints} checkpoints: ${findings.length === 0 ? 'everything holds' : `${findings.length} findings`}.\n`,
    );
    return findings.length === 0 ? 0 : 1;
  } finally {
    await database.close();
  }
}

run(main);
