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
import { benchJudging } from './judging';
import { benchKeys } from './keys';
import { benchOffline } from './offline';
import { benchPlan } from './plan';
import { benchPreview } from './preview';
import { benchProcesses } from './processes';
import { benchRotation } from './rotation';
import { benchReports } from './reports';
import { benchScreens } from './screens';
import { benchStart } from './start';
import { benchWriters } from './writers';

/** What can be asked for by name. */
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
  start: benchStart,
  endpoints: benchEndpoints,
  append: benchAppend,
  judging: benchJudging,
  preview: benchPreview,
  reports: benchReports,
  browsers: benchBrowsers,
  writers: benchWriters,
  keys: benchKeys,
  processes: benchProcesses,
  imports: benchImports,
  offline: benchOffline,
  fuzz: benchFuzz,
  heavy: benchHeavy,
};

/** Without a name: how fast Malle is, each figure beside what was wanted and beside the least that could do the same work in the same run. */
const TABLE = [
  'first-screen',
  'start',
  'endpoints',
  'append',
  'judging',
  'preview',
  'reports',
  'browsers',
  'writers',
  'keys',
  'processes',
] as const;

async function main(asked: readonly string[]): Promise<void> {
  const unknown = asked.filter((name) => !(name in ALONE) && !(name in WITH_DATABASE));
  if (unknown.length > 0)
    throw new Error(
      `There is no bench called ${unknown.join(', ')}. Choose of: ${[...Object.keys(ALONE), ...Object.keys(WITH_DATABASE)].join(', ')}.`,
    );
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL names the database to measure in; use npm run bench.');
  for (const name of asked.length > 0 ? asked : TABLE) {
    await ALONE[name]?.();
    await WITH_DATABASE[name]?.(url);
  }
}

await main(process.argv.slice(2));
