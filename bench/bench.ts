import { benchAppend } from './append';
import { benchCore } from './core';
import { benchEndpoints } from './endpoints';
import { benchFirstScreen } from './firstScreen';
import { benchForecast } from './forecast';
import { benchPreview } from './preview';
import { benchReports } from './reports';
import { benchScreens } from './screens';

/** Prints what Malle costs, each figure beside the least that could do the same work in the same run. */
async function main(): Promise<void> {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL names the database to measure in; use npm run bench.');
  benchFirstScreen();
  benchCore();
  benchScreens();
  benchForecast();
  const register = await benchAppend(url);
  await benchEndpoints(url, register);
  await benchPreview(url, register);
  await benchReports(url, register);
}

await main();
