// npm start: serves a register of one's own; the first visit makes its first custodian.
import {
  becomePrograms,
  checkNode,
  databaseUrl,
  ensureBuild,
  ensureDependencies,
  keepDatabase,
  signingKey,
} from './prepare.mjs';

checkNode();
ensureDependencies();
await ensureBuild();
const env = {
  DATABASE_URL: await databaseUrl('malle'),
  MALLE_WEB_ROOT: 'dist/web',
  MALLE_SIGNING_KEY: signingKey(),
};
keepDatabase();
becomePrograms(['server'], env);
