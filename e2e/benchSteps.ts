import type { Locator, Page } from '@playwright/test';
import { v7 as newId } from 'uuid';
import type { ChargingAnswer, RegisterAnswer } from '../src/contract';
import type { Board } from '../src/core/charging';
import { choose } from './malle';

/** What hands do at the bench, for the tests that charge. */

export const onBench = (page: Page, name: string): Locator =>
  page.getByRole('listitem').filter({ has: page.getByRole('heading', { name, exact: true }) });

export async function benchOf(page: Page): Promise<ChargingAnswer> {
  return (await (await page.request.get('/api/charging')).json()) as ChargingAnswer;
}

export async function registerOf(page: Page): Promise<RegisterAnswer> {
  return (await (await page.request.get('/api/register')).json()) as RegisterAnswer;
}

/** Ticks everything that is still open on a card. */
export async function tickAll(page: Page): Promise<void> {
  const open = page.getByRole('main').getByRole('checkbox', { checked: false });
  for (let left = await open.count(); left > 0; left--) await open.first().check();
}

/** A job on the bench charger's first channel that is expected to take a second, or as long as it says. */
export async function placed(page: Page, job: object): Promise<string> {
  const { equipment } = await registerOf(page);
  const { now } = (await (await page.request.get('/api/session')).json()) as { now: number };
  const id = newId();
  const answer = await page.request.post('/api/charging/jobs', {
    data: {
      id,
      do: 'charge',
      equipmentId: equipment.find(({ name }) => name === 'Bench charger')!.id,
      channel: '1',
      boardId: null,
      adapterId: null,
      start: now,
      end: now + 1_000,
      ...job,
    },
  });
  if (answer.status() !== 201) throw new Error(await answer.text());
  return id;
}

export function topOf({ chemistry }: ChargingAnswer['packs'][number]): number {
  return chemistry === 'lihv' ? 4_350 : 4_200;
}

/** Everything right at the gate of a job: what the charger detects, what its display says, what eyes and hands confirm. */
export async function startAtTheGate(page: Page, job: string, cells: number): Promise<void> {
  await page.goto(`/charging/jobs/${job}`);
  await page.getByRole('textbox', { name: 'Cells it detects' }).fill(String(cells));
  const chemistry = (await page.getByRole('definition').first().textContent())!.trim();
  await choose(page.getByRole('combobox', { name: 'Chemistry on the display now' }), chemistry);
  await tickAll(page);
  await page.getByRole('button', { name: 'Start it' }).click();
}

/** A job for a full strip: as many single cells as it has ports, near enough each other and on no lead yet, the emptiest first. */
export async function stripJob(
  page: Page,
): Promise<{ readonly job: object; readonly loaded: ChargingAnswer['packs'] }> {
  const { packs, jobs } = await benchOf(page);
  const onLeads = new Set(jobs.filter(({ state }) => state === 'running').flatMap(({ packIds }) => packIds));
  const strip = (await registerOf(page)).equipment.find(({ name }) => name === 'Trainer strip')!;
  const { ports, toleranceMv } = strip.facts as Board;
  const trainers = packs
    .filter(
      ({ id, series, bar, cellsMv }) =>
        series === 1 && !onLeads.has(id) && bar !== 'out-of-use' && bar !== 'away' && cellsMv !== null,
    )
    .sort((a, b) => a.cellsMv![0]! - b.cellsMv![0]!);
  const first = trainers.findIndex(
    (one, i) => (trainers[i + ports - 1]?.cellsMv?.[0] ?? Infinity) - one.cellsMv![0]! <= toleranceMv,
  );
  const loaded = trainers.slice(first, first + ports);
  const setting = {
    chemistry: loaded[0]!.chemistry,
    mode: 'balance',
    cells: ports,
    topMv: topOf(loaded[0]!),
    amps: 0.5,
  };
  return { job: { packIds: loaded.map(({ id }) => id), boardId: strip.id, setting }, loaded };
}
