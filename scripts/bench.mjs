// npm run bench: speed and size, as ratios within one run. Nothing here is asserted; figures go to docs/bench.md by hand.
import { buildBench, databaseUrl, ensureBuild, ensureDependencies, runProgram } from './prepare.mjs';

ensureDependencies();
await ensureBuild();
buildBench();
const env = { DATABASE_URL: await databaseUrl('malle_bench', { fresh: true }) };
runProgram('bench', env, process.argv.slice(2));
