// npm run bench: speed and size, as ratios within one run. Nothing here is asserted; figures go to docs/bench.md by hand.
import { databaseUrl, ensureBuild, ensureDependencies, runScript } from './prepare.mjs';

ensureDependencies();
await ensureBuild();
runScript('bench/bench.ts', process.argv.slice(2), {
  DATABASE_URL: await databaseUrl('malle_bench', { fresh: true }),
});
