import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { openRegister } from '../app';
import { readBackup } from '../backup/dump';
import { verifyRegister } from '../evidence';
import { note } from '../log';
import { writableAddress } from '../platform/hosts';
import { signerOf } from '../platform/signing';
import { run } from './run';

const USAGE = `Usage: restore FILE [--identity FILE]   (DATABASE_URL names an empty database)
Reads a backup into it and looks whether everything holds. Everybody signs in anew.
--identity FILE   the secret key of an encrypted backup, as its one line that begins with AGE-SECRET-KEY-
`;

/** Brings a register back from a backup. */
async function main(args: readonly string[]): Promise<number> {
  const given = process.env.DATABASE_URL;
  const { positionals, values } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { identity: { type: 'string' } },
  });
  const [path, ...rest] = positionals;
  if (!given || path === undefined || rest.length > 0) {
    process.stderr.write(USAGE);
    return 2;
  }
  const url = await writableAddress(given);
  await readBackup(url, path, values.identity === undefined ? null : secretIn(values.identity));
  const database = await openRegister(url);
  try {
    const em = database.entities();
    const key = signerOf(process.env)?.publicKey ?? null;
    const { packs, records, findings } = await verifyRegister(em, { checkpoint: null, key }, Date.now());
    await note(em, {
      ...{
        by: null,
        at: Date.now(),
        through: null,
        did: 'restored',
        subject: 'register',
        subjectId: null,
        name: null,
      },
      changes: { packs: [null, packs], records: [null, records] },
    });
    for (const { what, why } of findings) process.stdout.write(`${what}: ${why}.\n`);
    process.stdout.write(
      `${packs} packs and ${records} records are back${findings.length === 0 ? ', and everything holds' : `; ${findings.length} things do not hold`}.\n`,
    );
    return findings.length === 0 ? 0 : 1;
  } finally {
    await database.close();
  }
}

function secretIn(file: string): string {
  const line = readFileSync(file, 'utf8')
    .split('\n')
    .find((one) => one.startsWith('AGE-SECRET-KEY-'));
  if (line === undefined) throw new Error(`There is no secret key in ${file}.`);
  return line.trim();
}

run(main);
