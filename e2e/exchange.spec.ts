import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { clubLists, oldBook } from './lists';
import { choose, expect, notice, signedIn, test } from './malle';
import { openRegister } from './registers';

/** What a club has comes in from its own lists, and a register moves whole. */

const folder = mkdtempSync(join(tmpdir(), 'lists-'));
const region = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

async function opened(page: Page, path: string): Promise<void> {
  await page.goto('/settings/import');
  await page.getByLabel('The file', { exact: true }).last().setInputFiles(path);
  await expect(region(page, 'What each line becomes')).toBeVisible();
}

test('a hundred and twenty packs in four odd lists, a year of one of them, and taking it back', async ({
  custodian: page,
}) => {
  test.slow();
  const began = Date.now();
  for (const { path, good, refused, word } of await clubLists(folder)) {
    await opened(page, path);
    const becomes = region(page, 'What each line becomes');
    if (word) {
      await expect(becomes).toContainText('20 packs can come in');
      await choose(page.getByLabel(`“${word[0]}”`), word[1]);
    }
    await expect(becomes).toContainText(`${good} packs can come in`);
    if (refused > 0) await expect(becomes).toContainText(`${refused} line${refused > 1 ? 's' : ''} cannot`);
    await page.getByRole('button', { name: `Bring in ${good} packs` }).click();
    await expect(region(page, 'Done')).toContainText(`${good} packs came in`);
    if (refused > 0) {
      const [file] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name: 'Save the lines that did not come in' }).click(),
      ]);
      const text = readFileSync(await file.path(), 'utf8');
      expect(text.trim().split('\r\n')).toHaveLength(refused + 1);
      expect(text).toContain('Why not');
    }
  }
  // Under five minutes is what a club may wait; this is what it took.
  console.log(`120 packs in four lists: ${((Date.now() - began) / 1000).toFixed(1)} s`);

  await page.goto('/packs?q=FA-04');
  await expect(page.getByRole('link', { name: 'FA-04', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'FA-04', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Timeline' })).toContainText('leicht gebläht');
  await expect(page.getByRole('region', { name: 'Timeline' })).toContainText('12 cycles');
  await expect(page.getByRole('region', { name: 'How it stands' })).not.toContainText('seller');

  // The same file once more: everything is there already.
  await opened(page, join(folder, 'wings.xlsx'));
  await expect(page.getByText('This very file was brought in before.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing to bring in' })).toBeDisabled();

  // A history, in which one pilot is nobody of this register.
  await page.getByText('What happened to them', { exact: true }).click();
  await page.getByLabel('The file', { exact: true }).last().setInputFiles(oldBook(folder));
  const becomes = region(page, 'What each line becomes');
  await expect(becomes).toContainText('90 lines can come in');
  await expect(becomes).toContainText('2 lines cannot');
  await expect(becomes).toContainText('90 lines without a time of day');
  await choose(page.getByLabel('“Old Jan”'), 'Bram Oosterfen');
  await expect(becomes).toContainText('90 lines can come in');
  await page.getByRole('button', { name: 'Bring in 90 lines' }).click();
  await expect(region(page, 'Done')).toContainText('90 records came in');
  await page.goto('/packs?q=FA-01');
  await page.getByRole('link', { name: 'FA-01', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Timeline' })).toContainText('Bram Oosterfen');

  // It was the wrong book.
  await page.goto('/settings/import');
  const line = page.getByRole('listitem').filter({ hasText: 'akkubuch.csv' });
  await line.getByRole('button', { name: 'Take back' }).click();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('The reason is missing.')).toBeVisible();
  await page.getByLabel('Why').fill('Another club’s book.');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(notice(page).getByText('90 records taken back')).toBeVisible();
  await expect(line).toContainText('taken back');
});

test('an import that breaks off in the middle goes on, and nothing comes in twice', async ({
  custodian: page,
}) => {
  const [, , , tabs] = await clubLists(folder);
  const path = tabs!.path.replace('trainers', 'more-trainers');
  const { writeFileSync } = await import('node:fs');
  writeFileSync(path, readFileSync(tabs!.path).toString('utf16le').replaceAll('TB/', 'TC/'));
  await opened(page, path);
  let calls = 0;
  await page.route('**/api/imports/*/packs', (route) => (++calls === 2 ? route.abort() : route.continue()));
  await page.getByRole('button', { name: 'Bring in 30 packs' }).click();
  await expect(page.getByText('It broke off.')).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 30 packs' }).click();
  await expect(region(page, 'Done')).toContainText('5 packs came in, 25 were there already');
  await page.goto('/packs?q=TC/');
  await expect(page.getByText('30 of')).toBeVisible();
});

test('wrong files, wrong columns and wrong roles are told plainly', async ({
  custodian: page,
  browser,
  register,
}) => {
  await page.goto('/settings/import');
  const file = page.getByLabel('The file', { exact: true }).last();
  await file.setInputFiles({
    name: 'photo.xlsx',
    mimeType: 'image/png',
    buffer: Buffer.from([1, 0, 2, 0, 3]),
  });
  await expect(page.getByText('This file was not opened.')).toBeVisible();
  await file.setInputFiles({
    name: 'colours.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Colour;Shelf mark\nred;QD-91\n'),
  });
  await expect(page.getByText('No column is the tag.')).toBeVisible();
  await choose(page.getByLabel('Shelf mark is'), 'Tag');
  await expect(region(page, 'What each line becomes')).toContainText('Its chemistry is not told.');
  const pilot = await signedIn(browser, register, 'Bram Oosterfen');
  await pilot.goto('/settings/import');
  await expect(pilot.getByText('Bringing in a list is for custodians and deputies.')).toBeVisible();
  await pilot.context().close();
});

test('a register is saved, read into an empty one elsewhere, and is the same', async ({
  custodian: page,
  browser,
}) => {
  test.slow();
  const archive = await (await page.request.get('/api/archive')).body();
  const before = (await (await page.request.get('/api/packs')).json()) as {
    id: string;
    verdict: string;
    seq: number;
  }[];
  const other = await openRegister({ empty: true });
  try {
    const context = await browser.newContext({ baseURL: other.url, serviceWorkers: 'block' });
    const fresh = await context.newPage();
    await fresh.goto('/');
    const input = fresh.getByLabel('The archive', { exact: true });
    await input.setInputFiles({
      name: 'half.gz',
      mimeType: 'application/gzip',
      buffer: archive.subarray(0, archive.length / 2),
    });
    await expect(fresh.getByText('The archive was not read.')).toBeVisible({ timeout: 60_000 });
    await expect(fresh.getByText(/cut short after line \d+/)).toBeVisible();
    await input.setInputFiles({ name: 'register.gz', mimeType: 'application/gzip', buffer: archive });
    await expect(fresh.getByText('The archive is read')).toBeVisible({ timeout: 180_000 });
    await fresh.getByLabel('Password').fill('short');
    await fresh.getByRole('button', { name: 'Open the register' }).click();
    await expect(fresh.getByText('A password has at least 10 characters.')).toBeVisible();
    await fresh.getByLabel('Password').fill('long enough for this');
    await fresh.getByRole('button', { name: 'Open the register' }).click();
    await expect(fresh.getByRole('heading', { name: /^Today/ })).toBeVisible();
    const after = (await (await fresh.request.get('/api/packs')).json()) as typeof before;
    const told = (rows: typeof before) => rows.map(({ id, verdict, seq }) => `${id} ${verdict} ${seq}`);
    expect(told(after)).toEqual(told(before));
    const again = await (await fresh.request.get('/api/archive')).body();
    const { gunzipSync } = await import('node:zlib');
    expect(gunzipSync(again).equals(gunzipSync(archive))).toBe(true);
    await context.close();
  } finally {
    await other.close();
  }
});

test('a script gets a key, shown once, and loses it', async ({ custodian: page }) => {
  await page.goto('/settings/scripts');
  await page.getByLabel('What it is for').fill('Hangar screen');
  await page.getByRole('button', { name: 'Make the key' }).click();
  const secret = await page.getByLabel('Key', { exact: true }).inputValue();
  const ask = (key: string) =>
    fetch(`${new URL(page.url()).origin}/api/packs`, { headers: { authorization: `Bearer ${key}` } });
  expect((await ask(secret)).status).toBe(200);
  await page.reload();
  await expect(page.getByText(secret)).toHaveCount(0);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Hangar screen' })
    .getByRole('button', { name: 'End it' })
    .click();
  await expect(notice(page)).toContainText('works no longer');
  expect((await ask(secret)).status).toBe(401);
});
