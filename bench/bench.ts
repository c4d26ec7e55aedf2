import { benchAppend } from './append';
import { benchBrowsers } from './browsers';
import { benchCore } from './core';
import { benchEndpoints } from './endpoints';
import { benchEvidence } from './evidence';
import { benchImports } from './imports';
import { benchFirstScreen } from './firstScreen';
import { benchFaults } from './faults';
import { benchFuzz } from './fuzz';
import { benchFleet } from './fleet';
import { benchForecast } from './forecast';
import { benchHeavy } from './heavy';
import { benchKeys } from './keys';
import { benchOffline } from './offline';
import { benchPlan } from './plan';
import { benchPreview } from './preview';
import { benchRotation } from './rotation';
import { benchReports } from './reports';
import { benchScreens } from './screens';
import { growTo, layRegister } from './register';
import { benchWriters } from './writers';
import { openRegister } from '../src/server/app';

/** What can be asked for by name; without a name all of it is measured, and what needs a register after that. */
const ALONE: Readonly<Record<string, () => void | Promise<void>>> = {
  'first-screen': benchFirstScreen,
  core: benchCore,
  screens: benchScreens,
  fleet: benchFleet,
  forecast: benchForecast,
  evidence: benchEvidence,
  plan: benchPlan,
  rotation: benchRotation,
  faults: benchFaults,
};

/** The same for what needs a database. */
const WITH_DATABASE: Readonly<Record<string, (url: string) => Promise<void>>> = {
  append: benchAppend,
  imports: benchImports,
  offline: benchOffline,
  keys: benchKeys,
  browsers: benchBrowsers,
  writers: benchWriters,
  fuzz: benchFuzz,
  heavy: benchHeavy,
};

/** Prints what Malle costs, each figure beside the least that could do the same work in the same run. */
async function main(asked: readonly string[]): Promise<void> {
  const unknown = asked.filter((name) => !(name in ALONE) && !(name in WITH_DATABASE));
  if (unknown.length > 0)
    throw new Error(
      `There is no bench called ${unknown.join(', ')}. Choose of: ${[...Object.keys(ALONE), ...Object.keys(WITH_DATABASE)].join(', ')}.`,
    );
  for (const name of asked.length > 0 ? asked : Object.keys(ALONE)) await ALONE[name]?.();
  const measured =
    asked.length > 0 ? asked.filter((name) => name in WITH_DATABASE) : Object.keys(WITH_DATABASE);
  if (measured.length === 0) return;
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL names the database to measure in; use npm run bench.');
  for (const name of measured) await WITH_DATABASE[name]!(url);
  if (asked.length > 0) return;
  const database = await openRegister(url);
  const register = await layRegister(database);
  await growTo(database, register, 2);
  await database.close();
  await benchEndpoints(url, register);
  await benchPreview(url, register);
  await benchReports(url, register);
}

await main(process.argv.slice(2));
