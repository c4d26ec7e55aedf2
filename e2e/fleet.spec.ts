import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { choose, expect, openPack, test, timeline } from './malle';

/** The packs as a whole: what is to be bought, what came bad from the box; and a charge that comes from a charger's own log. */

const short = (page: Page) => page.getByRole('region', { name: 'In short' });
const table = (page: Page) => page.getByRole('region', { name: 'What to buy, by type' });
const packsSaid = async (page: Page) =>
  Number(/about (\d+) packs?/.exec((await short(page).textContent()) ?? '')?.[1] ?? NaN);

test('what to buy is worked out on the real register, and what is assumed moves it', async ({
  custodian: page,
}) => {
  await page.goto('/fleet');
  await expect(short(page)).toBeVisible({ timeout: 60_000 });
  const today = await packsSaid(page);
  expect(today).toBeGreaterThan(5);
  await expect(page.getByText(/How \d+ packs wear by their own measurements/)).toBeVisible();

  // By keyboard alone: twice as much flying wears faster.
  const flying = page.getByRole('slider', { name: 'If we fly' });
  await flying.focus();
  for (let i = 0; i < 10; i += 1) await page.keyboard.press('ArrowRight');
  await expect(flying).toHaveAttribute('aria-valuetext', '2.0 × as much');
  // Nothing moves under the hand while this is worked out, or when that ends.
  const place = async () => (await table(page).boundingBox())!.y;
  const bar = page.getByRole('progressbar');
  await expect(bar).toBeVisible();
  const during = await place();
  await expect(bar).toHaveCount(0);
  expect(await place()).toBe(during);
  await expect.poll(() => packsSaid(page)).toBeGreaterThan(today);
  await page.getByRole('button', { name: 'All as today' }).click();
  await expect.poll(() => packsSaid(page)).toBe(today);

  // A slip stays where it was typed, is named there, and the register's figure counts.
  const keep = table(page).getByRole('textbox', { name: /^Packs of Ground station/ });
  await keep.fill('a few');
  await expect(keep).toHaveAttribute('aria-invalid', 'true');
  await expect(table(page).getByText('A whole number.')).toBeVisible();
  await page.reload();
  await expect(keep).toHaveValue('a few');
  await expect.poll(() => packsSaid(page), { timeout: 60_000 }).toBe(today);
  await keep.fill('9');
  await expect.poll(() => packsSaid(page)).toBeGreaterThanOrEqual(today + 4);

  // A price that nobody knows is told, not invented.
  await table(page)
    .getByRole('textbox', { name: /^Price of a Ground station/ })
    .fill('');
  await expect(short(page).getByText(/No price is known for Ground station/)).toBeVisible();
  await page.getByRole('radio', { name: 'each year' }).click();
  await expect(page.getByRole('region', { name: 'Orders' }).getByRole('listitem')).toHaveCount(2);

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const lines = (await readFile(await download.path(), 'utf8')).trim().split('\r\n');
  expect(lines[0]).toMatch(/^type,in service,to be retired,kept in service,price/);
  expect(lines.find((line) => line.startsWith('Ground station'))).toMatch(/^Ground station[^,]*,4,\d+,9,,/);
});

test('working it out can be cancelled and begun again', async ({ custodian: page }) => {
  await page.goto('/fleet/buy');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Cancelled.' })).toBeVisible();
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(short(page)).toBeVisible({ timeout: 60_000 });
});

test('how many packs a day takes is planned on the bench as it stands', async ({ custodian: page }) => {
  await page.goto('/fleet/day');
  const result = page.getByRole('region', { name: 'Packs for the day' });
  await choose(page.getByRole('combobox', { name: 'Packs of' }), /^Inspection quad/);
  await expect(result.getByText(/Every charge of the day was planned/)).toBeVisible();
  const packs = async () => Number(/^(\d+) pack/.exec((await result.textContent()) ?? '')?.[1] ?? NaN);
  const atTheField = await packs();
  await page.getByRole('radio', { name: /^home rate/ }).click();
  await expect(result).toBeVisible();
  expect(await packs()).toBeGreaterThanOrEqual(atTheField);
  const flight = page.getByRole('textbox', { name: 'A flight, min' });
  await flight.fill('0');
  await expect(flight).toHaveAccessibleDescription(/More than 0/);
  await flight.fill('300');
  await expect(result.getByText(/every flight takes a pack of its own/)).toBeVisible();
  await page.reload();
  await expect(flight).toHaveValue('300');
});

test('a delivery is shown as it came, with what can be held against it', async ({ custodian: page }) => {
  await page.goto('/fleet/deliveries');
  const delivery = page.getByRole('region', { name: 'The delivery' });
  await expect(delivery.getByRole('row').nth(1)).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    delivery.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const text = await readFile(await download.path(), 'utf8');
  expect(text).toMatch(/^pack,received,first read/);
});

/** Fifty minutes of a charger: a title, a comma for the decimals, a line that is half one, and a column nobody asks for. */
function logOf(first: number): string {
  const comma = (value: number) => value.toFixed(3).replace('.', ',');
  const lines = Array.from({ length: 300 }, (_, i) => {
    const share = Math.min(1, i / 250);
    const amps = i < 2 ? 0 : share < 1 ? 5.2 : 5.2 * Math.exp(-(i - 250) / 12);
    const cells = [0, 0.002, -0.001, 0.001].map((off) => comma(first + (4.34 - first) * share + off));
    return [i * 10, ...cells, comma(amps), 'ok'].join(';');
  });
  lines[40] = '400;3,9';
  return ['My charger, program 3', 'Sekunde;Zelle 1;Zelle 2;Zelle 3;Zelle 4;Strom;Status', ...lines].join(
    '\r\n',
  );
}

test('a charge comes from a charger’s own log, and the next log is read as this one was', async ({
  custodian: page,
}) => {
  const file = (text: string) => ({ name: 'charge.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await openPack(page, 'IQ-02');
  const entry = page.getByRole('region', { name: 'Write a record' });
  await entry.getByRole('tab', { name: /^Charge/ }).click();
  const log = entry.getByLabel('A charger’s log');
  await log.setInputFiles(file('\u0000\u0001\u0002'));
  await expect(entry.getByText('This file is no table of text.')).toBeVisible();
  await log.setInputFiles(file('x;y\r\n1;2\r\n'));
  await expect(entry.getByText(/No column of this file is a time/)).toBeVisible();
  await log.setInputFiles(file(logOf(3.7)));
  await expect(entry.getByText(/300 lines, \d+ points kept, 1 line without a figure/)).toBeVisible();
  await choose(entry.getByRole('combobox', { name: 'Zelle 4 is' }), 'nothing wanted');
  await choose(entry.getByRole('combobox', { name: 'Zelle 4 is' }), 'a cell’s volts');
  await entry.getByRole('button', { name: 'Take it into the charge' }).click();
  await expect(entry.getByText('The log is read; its curve is kept with the charge.')).toBeVisible();
  await expect(entry.getByRole('textbox', { name: 'Minutes' })).toHaveValue(/^(4[5-9]|50)$/);
  await expect(entry.getByRole('textbox', { name: 'mAh moved' })).toHaveValue(/^3\d{3}$/);
  await expect(entry.getByRole('textbox', { name: 'Cells at the end' })).toHaveValue(/^4\.3\d\d /);
  await entry.getByRole('button', { name: 'Save charge' }).click();
  // On a busy machine it may have waited here for a moment first; either way it stands in the timeline.
  await expect(
    timeline(page)
      .getByText(/How it went|curve/i)
      .first(),
  ).toBeVisible();
});
