import { parseArgs } from 'node:util';
import { openRegister } from '../app';
import { readBackup, rotate, withScratch, writeBackup } from '../backup/dump';
import { verifyRegister } from '../evidence';
import { writableAddress } from '../platform/hosts';
import { signerOf } from '../platform/signing';
import { run } from './run';

const USAGE = `Usage: backup FOLDER [--keep N] [--for AGE-PUBLIC-KEY] [--unproven]   (DATABASE_URL names the register)
Writes the whole register into a file of this folder, reads it into a database of its own, and looks whether everything holds there.
--keep N     leaves the newest N backups of the folder
--for KEY    encrypts it; such a backup is not read back, since the key to that is elsewhere
--unproven   does not read it back
`;

/** Makes a backup that is known to be one. */
async function main(args: readonly string[]): Promise<number> {
  const given = process.env.DATABASE_URL;
  const { positionals, values } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { keep: { type: 'string' }, for: { type: 'string' }, unproven: { type: 'boolean' } },
  });
  const [folder, ...rest] = positionals;
  const keep = values.keep === undefined ? null : Number(values.keep);
  if (!given || folder === undefined || rest.length > 0 || (keep !== null && !(keep >= 1))) {
    process.stderr.write(USAGE);
    return 2;
  }
  const url = await writableAddress(given);
  const path = await writeBackup(url, folder, values.for ?? null, new Date());
  if (values.for === undefined && !values.unproven) await prove(url, path);
  process.stdout.write(`${path}\n`);
  // Only when there is a new one that is good.
  const gone = keep === null ? [] : rotate(folder, keep);
  if (gone.length > 0) process.stdout.write(`Removed ${gone.join(', ')}.\n`);
  return 0;
}

/** Reads the backup back and holds what it gives against itself. */
async function prove(url: string, path: string): Promise<void> {
  const key = signerOf(process.env)?.publicKey ?? null;
  await withScratch(url, `malle_proof_${process.pid}_${Date.now()}`, async (scratch) => {
    await readBackup(scratch, path, null);
    const database = await openRegister(scratch);
    try {
      const { findings, packs, records } = await verifyRegister(
        database.entities(),
        { checkpoint: null, key },
        Date.now(),
      );
      if (findings.length > 0) {
        const told = findings.map(({ what, why }) => `${what}: ${why}`).join('\n');
        throw new Error(`The backup ${path} was read back, and does not hold:\n${told}`);
      }
      process.stdout.write(`Read back: ${packs} packs, ${records} records, everything holds.\n`);
    } finally {
      await database.close();
    }
  });
}

run(main);
