// npm run dev: server and web, both with reload, on the made-up register.
import concurrently from 'concurrently';
import { checkNode, databaseUrl, ensureDependencies, runScript, signingKey } from './prepare.mjs';

checkNode();
ensureDependencies();
const env = { DATABASE_URL: await databaseUrl('malle_dev'), MALLE_SIGNING_KEY: signingKey() };
runScript('src/demo/main.ts', [], env);
const { result } = concurrently(
  [
    { name: 'server', command: 'tsx watch src/server/main.ts', env },
    { name: 'web', command: 'vite' },
  ],
  { killOthersOn: ['failure', 'success'] },
);
await result.catch(() => undefined);
