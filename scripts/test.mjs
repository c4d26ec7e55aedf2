// npm test: types, lint, unit, integration against a real PostgreSQL, the real interface in a browser.
// Ends with the plain line `N passed, N failed` over all runners.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import {
  ROOT,
  checkNode,
  ensureBuild,
  ensureChromium,
  ensureDependencies,
  ensurePoppler,
} from './prepare.mjs';
import { dataFolder, removeCluster, startCluster } from './postgres.mjs';

checkNode();
ensureDependencies();
await ensureBuild();
ensurePoppler();
// A cluster for this run alone: the tests leave hundreds of databases, and after a crash every file of them is written again.
process.env.MALLE_DATA = join(dataFolder(), 'tests');
removeCluster();
const env = { ...process.env, CHROMIUM: ensureChromium(), MALLE_TEST_CLUSTER: await startCluster() };
const results = join(ROOT, '.cache', 'results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

/** What failed, told again at the end: the output is long, and often only its end is looked at. */
const failures = [];
const failedChecks = [
  check('types', 'tsc', ['-p', '.']),
  check('lint', 'eslint', ['.', '--max-warnings', '0']),
  check('format', 'prettier', ['--check', '--log-level', 'warn', '.']),
  check('imports', 'depcruise', ['src', '--config', '.dependency-cruiser.cjs', '--output-type', 'err']),
  check('dead code', 'knip', ['--no-progress']),
].filter((ok) => !ok).length;
const jest = runner(
  'unit and integration',
  'jest',
  ['--json', `--outputFile=${join(results, 'jest.json')}`],
  'jest.json',
  (report) => {
    for (const { name, message, assertionResults } of report.testResults) {
      const failed = assertionResults.filter(({ status }) => status === 'failed');
      failures.push(...failed.map(({ fullName }) => `${relative(ROOT, name)}: ${fullName}`));
      if (failed.length === 0 && message) failures.push(`${relative(ROOT, name)}: ${message.split('\n')[0]}`);
    }
    return {
      passed: report.numPassedTests,
      failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
    };
  },
);
/** A two-core machine stalls now and then; what needs its second try more often than this is broken. */
const MOST_SECOND_TRIES = 3;
const browser = runner('browser', 'playwright', ['test'], 'playwright.json', ({ stats, errors, suites }) => {
  const specs = suites.flatMap(specsOf);
  for (const { file, title, ok } of specs) if (!ok) failures.push(`${file}: ${title}`);
  const secondTries = specs.filter(({ tests }) => tests.some(({ status }) => status === 'flaky'));
  for (const { file, title } of secondTries) console.log(`Passed at its second try only: ${file}: ${title}`);
  const tooMany = secondTries.length > MOST_SECOND_TRIES;
  if (tooMany) console.log(`More than ${MOST_SECOND_TRIES} tests needed a second try: they count as failed.`);
  return {
    passed: stats.expected + (tooMany ? 0 : stats.flaky),
    failed: stats.unexpected + errors.length + (tooMany ? stats.flaky : 0),
  };
});

for (const failure of failures) console.log(`Failed: ${failure}`);
const passed = jest.passed + browser.passed;
const failed = jest.failed + browser.failed + failedChecks;
removeCluster();
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);

function check(name, command, args) {
  console.log(`\n== ${name}`);
  const begun = Date.now();
  const { status } = spawnSync('npx', ['--no-install', command, ...args], {
    cwd: ROOT,
    stdio: 'inherit',
    env,
  });
  const minutes = ((Date.now() - begun) / 60_000).toFixed(1);
  console.log(`== ${name}: ${status === 0 ? 'ok' : 'FAILED'} after ${minutes} min`);
  if (status !== 0) failures.push(name);
  return status === 0;
}

/** Every test of a browser report, however deep its file nests it. */
function specsOf({ specs = [], suites = [] }) {
  return [...specs, ...suites.flatMap(specsOf)];
}

/** A runner that ends badly without a report counts as one failure. */
function runner(name, command, args, report, count) {
  const ok = check(name, command, args);
  const file = join(results, report);
  if (!existsSync(file)) return { passed: 0, failed: 1 };
  const { passed, failed } = count(JSON.parse(readFileSync(file, 'utf8')));
  return { passed, failed: !ok && failed === 0 ? 1 : failed };
}
