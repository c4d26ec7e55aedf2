// What the two commands need before anything else can run. Plain JavaScript, because nothing is installed yet.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { ENVIRONMENT, FLAGS } from './launch.mjs';
import { dataFolder, installDebian, keepClusterRunning, startCluster } from './postgres.mjs';

export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const OLDEST_NODE = [20, 19];
/** The first that is there: the one without windows drives the tests in four fifths of the time. */
const CHROMIUM = [
  '/usr/bin/chromium-headless-shell',
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
];

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < OLDEST_NODE[0] || (major === OLDEST_NODE[0] && minor < OLDEST_NODE[1])) {
    throw new Error(
      `Malle needs Node.js ${OLDEST_NODE.join('.')} or newer; this is ${process.versions.node}.`,
    );
  }
}

/** Installs the packages of the lock file, unless exactly these are installed. */
export function ensureDependencies() {
  const lock = hashOf([join(ROOT, 'package-lock.json')]);
  const mark = join(ROOT, 'node_modules', '.malle-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  console.log('Installing packages.');
  runOrThrow('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(mark, lock);
}

/** Builds the web application and the programs beside it, unless what is built comes from exactly this source. */
export async function ensureBuild() {
  const source = hashOf([
    ...filesUnder(join(ROOT, 'src')),
    join(ROOT, 'vite.config.ts'),
    join(ROOT, 'vite.server.config.ts'),
    join(ROOT, 'package-lock.json'),
  ]);
  const mark = join(ROOT, 'dist', '.source');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === source) return;
  console.log('Building the application.');
  runOrThrow('npx', ['vite', 'build', '--logLevel', 'warn']);
  await packAssets(join(ROOT, 'dist', 'web', 'assets'));
  runOrThrow('npx', ['vite', 'build', '--config', 'vite.server.config.ts', '--logLevel', 'warn']);
  mkdirSync(dirname(mark), { recursive: true });
  writeFileSync(mark, source);
}

/** Builds the measurements like the programs: a loader’s wrappers around every function would be measured, too. */
export function buildBench() {
  const built = ['--config', 'vite.server.config.ts', '--ssr', 'bench/bench.ts', '--emptyOutDir', 'false'];
  runOrThrow('npx', ['vite', 'build', ...built, '--logLevel', 'warn']);
}

/** Beyond this size the last hundredth costs seconds. */
const PACKED_HARDEST_BYTES = 1_000_000;

/** Packs each of the browser's files as small as it goes, once, so that no server packs them for every visitor. */
async function packAssets(folder) {
  const pack = promisify(brotliCompress);
  const names = readdirSync(folder).filter((name) => /\.(js|css|wasm|svg)$/.test(name));
  const packed = names.map(async (name) => {
    const bytes = readFileSync(join(folder, name));
    const quality = bytes.length > PACKED_HARDEST_BYTES ? 9 : constants.BROTLI_MAX_QUALITY;
    const params = { [constants.BROTLI_PARAM_QUALITY]: quality };
    writeFileSync(join(folder, `${name}.br`), await pack(bytes, { params }));
  });
  await Promise.all(packed);
}

/** What turns a printed sheet into a picture for the tests: Debian's, installed when missing. */
export function ensurePoppler() {
  if (spawnSync('pdftoppm', ['-v']).error) {
    console.log('pdftoppm is not on this machine; installing Debian’s package.');
    installDebian(['poppler-utils']);
  }
}

/** The browser the tests drive: Debian's, installed when missing. */
export function ensureChromium() {
  const found = () => process.env.CHROMIUM ?? CHROMIUM.find((path) => existsSync(path));
  if (!found()) {
    console.log('Chromium is not on this machine; installing Debian’s package.');
    installDebian(['chromium-headless-shell']);
  }
  const path = found();
  if (!path) throw new Error('Chromium was installed but not found. Set CHROMIUM to its path.');
  return path;
}

/**
 * The address by which its owner comes into a database of this name in the embedded cluster, made when missing.
 * DATABASE_URL replaces all that.
 */
export async function databaseUrl(name, { fresh = false } = {}) {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL;
  const cluster = await startCluster();
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: `${cluster}/postgres` });
  await client.connect();
  try {
    if (fresh) await client.query(`drop database if exists ${name} with (force)`);
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (!rowCount) await client.query(`create database ${name}`);
  } finally {
    await client.end();
  }
  return `${cluster}/${name}`;
}

/** The address by which a server comes into that database, whose tables are there, where the embedded cluster knows it from its owner. */
export async function serverUrl(ownerUrl) {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL;
  const { letServerIn } = await import('./roles.mjs');
  return letServerIn(ownerUrl);
}

/** The file of the key that signs checkpoints: beside the cluster and not in it, so that the database does not have it. */
export function signingKey() {
  return process.env.MALLE_SIGNING_KEY ?? join(dataFolder(), 'keys', 'signing.key');
}

/** Where a built program lies: `server`, `migrate`, `demo`, `devices` or `bench`. */
export function program(name) {
  return join(ROOT, 'dist', 'server', `${name}.js`);
}

/** Runs a built program to its end. */
export function runProgram(name, env = {}, args = []) {
  runToItsEnd([program(name), ...args], env);
}

/** Runs a TypeScript file of the project to its end. */
export function runScript(file, args = [], env = {}) {
  runToItsEnd(['--import', 'tsx', join(ROOT, file), ...args], env);
}

function runToItsEnd(args, env) {
  const { status } = spawnSync(process.execPath, args, {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (status !== 0) process.exit(status ?? 1);
}

/** Sees to it that the embedded database runs for as long as what is served from it; a foreign one is somebody else's. */
export function keepDatabase() {
  if (!process.env.DATABASE_URL) keepClusterRunning();
}

/** Starts built programs and hands signals on to them. The first is what was asked for: when it ends, all end. */
export function becomePrograms(names, env = {}) {
  const children = names.map((name) =>
    spawn(process.execPath, [...FLAGS, program(name)], {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...ENVIRONMENT, ...process.env, ...env },
    }),
  );
  const killAll = (signal) => children.forEach((child) => child.kill(signal));
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => killAll(signal));
  children[0].on('exit', (code) => {
    killAll('SIGTERM');
    process.exit(code ?? 0);
  });
}

/** This port, or the next one that nobody listens on. */
export function freePort(port) {
  return new Promise((done, fail) => {
    const tried = createServer();
    tried.once('error', (error) => {
      if (error.code === 'EADDRINUSE') done(freePort(port + 1));
      else fail(error);
    });
    tried.listen(port, '127.0.0.1', () => tried.close(() => done(port)));
  });
}

function runOrThrow(command, args) {
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit' });
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} failed.`);
}

function filesUnder(folder) {
  return readdirSync(folder)
    .sort()
    .flatMap((name) => {
      const path = join(folder, name);
      return statSync(path).isDirectory() ? filesUnder(path) : [path];
    });
}

function hashOf(files) {
  const hash = createHash('sha256');
  for (const file of files) hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  return hash.digest('hex');
}
