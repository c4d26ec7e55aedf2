import { rebuildAll, verifyLedger } from '../ledger';
import { openRegister } from '../app';
import { verifyLog } from '../log';
import { run } from './run';

const USAGE = `Usage: ledger verify | rebuild [--accept-heads]   (DATABASE_URL names the register)
--accept-heads takes every ledger as it stands, cut or not; verify first, and know why.
`;

/** Checks every chain of the ledger, or writes every pack's state anew from it. */
async function main([command, option]: readonly string[]): Promise<number> {
  const url = process.env.DATABASE_URL;
  const isKnown = option === undefined || (command === 'rebuild' && option === '--accept-heads');
  if (!url || !isKnown || (command !== 'verify' && command !== 'rebuild')) {
    process.stderr.write(USAGE);
    return 2;
  }
  const database = await openRegister(url);
  try {
    if (command === 'rebuild') {
      process.stdout.write(
        `${await rebuildAll(database.entities(), option !== undefined)} packs judged anew.\n`,
      );
      return 0;
    }
    const { packs, records, broken } = await verifyLedger(database.entities());
    for (const { packId, seq, why } of broken)
      process.stdout.write(`Pack ${packId}, record ${seq}: ${why}.\n`);
    const log = await verifyLog(database.entities());
    for (const { seq, why } of log.broken)
      process.stdout.write(`Entry ${seq} of the register’s log: ${why}.\n`);
    const faults = broken.length + log.broken.length;
    process.stdout.write(
      `${packs} packs, ${records} records, ${log.entries} entries of the log, ${faults} broken links.\n`,
    );
    return faults === 0 ? 0 : 1;
  } finally {
    await database.close();
  }
}

run(main);
