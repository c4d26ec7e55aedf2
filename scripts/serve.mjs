// npm start: serves a register of one's own; the first visit makes its first custodian.
import {
  becomePrograms,
  checkNode,
  databaseUrl,
  ensureBuild,
  ensureDependencies,
  keepDatabase,
  runProgram,
  serverUrl,
  signingKey,
} from './prepare.mjs';

checkNode();
ensureDependencies();
await ensureBuild();
const owner = await databaseUrl('malle');
const env = { MALLE_WEB_ROOT: 'dist/web', MALLE_SIGNING_KEY: signingKey() };
runProgram('migrate', { ...env, DATABASE_URL: owner });
const url = await serverUrl(owner);
keepDatabase();
becomePrograms(['server'], { ...env, DATABASE_URL: url });
