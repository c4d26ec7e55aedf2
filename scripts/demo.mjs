// npm run demo [-- --fresh]: installs what is missing, starts the database, lays the made-up register, serves it with its stand-in instruments.
import {
  becomePrograms,
  checkNode,
  databaseUrl,
  ensureBuild,
  ensureDependencies,
  freePort,
  keepDatabase,
  runProgram,
  serverUrl,
  signingKey,
} from './prepare.mjs';

checkNode();
ensureDependencies();
await ensureBuild();
const owner = await databaseUrl('malle_demo', { fresh: process.argv.includes('--fresh') });
const env = {
  MALLE_WEB_ROOT: 'dist/web',
  MALLE_SIGNING_KEY: signingKey(),
  MALLE_LOG: process.env.MALLE_LOG ?? 'warn',
};
runProgram('demo', { ...env, DATABASE_URL: owner });
const url = await serverUrl(owner);
const port = await freePort(Number(process.env.MALLE_PORT ?? 4180));
keepDatabase();
becomePrograms(['server', 'devices'], {
  ...env,
  DATABASE_URL: url,
  MALLE_PORT: String(port),
  MALLE_STAND_INS_PORT: String(await freePort(port + 1)),
});
