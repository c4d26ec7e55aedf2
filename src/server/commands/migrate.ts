import { openRegister } from '../app';
import { run } from './run';

const USAGE = `Usage: migrate   (DATABASE_URL names the register, by the address of the owner of its tables)
Brings the tables up to date, for a server whose role may not.
`;

/** Makes the tables of a register, or brings them up to date. */
async function main(args: readonly string[]): Promise<number> {
  const url = process.env.DATABASE_URL;
  if (!url || args.length > 0) {
    process.stderr.write(USAGE);
    return 2;
  }
  await (await openRegister(url)).close();
  return 0;
}

run(main);
