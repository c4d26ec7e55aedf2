// npm run demo [-- --fresh]: installs what is missing, starts the database, lays the made-up register, serves it.
import {
  becomeScript,
  checkNode,
  databaseUrl,
  ensureBuild,
  ensureDependencies,
  runScript,
} from './prepare.mjs';

checkNode();
ensureDependencies();
ensureBuild();
const env = {
  DATABASE_URL: await databaseUrl('malle_demo', { fresh: process.argv.includes('--fresh') }),
  MALLE_WEB_ROOT: 'dist/web',
  MALLE_LOG: process.env.MALLE_LOG ?? 'warn',
};
runScript('src/demo/main.ts', [], env);
becomeScript('src/server/main.ts', env);
