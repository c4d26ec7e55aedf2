import { openRegister } from '../server/app';
import { configFrom } from '../server/platform/config';
import { loadMadeUpRegister } from './load';

/** Fills the register at DATABASE_URL with the made-up cooperative, if it is empty. */
async function main(): Promise<void> {
  const config = configFrom(process.env);
  const now = config.fixedNow ?? Date.now();
  const database = await openRegister(config.databaseUrl, now);
  const laid = await loadMadeUpRegister(database.entities(), now);
  process.stdout.write(
    laid
      ? `Made-up register: ${laid.packs} packs, ${laid.records} records.\n`
      : 'The register is there already.\n',
  );
  await database.close();
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`);
  process.exit(1);
});
