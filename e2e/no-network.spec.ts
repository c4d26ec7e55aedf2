import type { Page } from '@playwright/test';
import type { IncidentRow } from '../src/contract';
import { expect, signedIn, standing, test } from './malle';

/** Malle opened where there is no network: on what it was last told, with the cards, and what is written lands later. */

/** Until this device has the application and what was told of the packs. */
async function everythingKept(page: Page): Promise<void> {
  const kept = () =>
    page.evaluate(async () => {
      await navigator.serviceWorker.ready;
      const pages = await caches.open('page');
      const databases = await indexedDB.databases();
      if (!(await pages.match('/')) || !databases.some(({ name }) => name === 'malle.told')) return 0;
      const opened = indexedDB.open('malle.told');
      await new Promise((resolve) => (opened.onsuccess = resolve));
      const got = opened.result.transaction('told').objectStore('told').count();
      await new Promise((resolve) => (got.onsuccess = resolve));
      opened.result.close();
      return got.result;
    });
  await expect.poll(kept, { timeout: 30_000 }).toBe(1);
}

async function scanned(page: Page, tag: string): Promise<void> {
  await page.getByRole('combobox', { name: /scan/i }).fill(tag);
  await page.keyboard.press('Enter');
  await expect(page.getByText(tag, { exact: true }).first()).toBeVisible();
}

test('opened without a network it shows the verdicts and the cards, and what is written lands once', async ({
  browser,
  register,
}) => {
  const page = await signedIn(browser, register, 'Adela Quint', { phone: true, keeps: true });
  await everythingKept(page);
  register.kill();
  await page.goto(`${register.url}/incidents/new`);
  await page.getByRole('link', { name: 'Leak or smell' }).tap();
  await expect(page.getByText('Stay out of the vapour')).toBeInViewport();

  await expect(page.getByText(/^No connection. This page is as of today/)).toBeVisible();
  // A pack this device never opened.
  await scanned(page, 'HX-10');
  await expect(standing(page)).toContainText('As the register last told this device');
  await expect(standing(page)).toContainText('May be flown');
  await page.getByRole('link', { name: 'Report an incident' }).tap();
  await page.getByRole('link', { name: 'Leak or smell' }).tap();
  await page.getByRole('link', { name: 'Log it' }).tap();
  await page.getByRole('textbox', { name: 'What happened' }).fill('Sweet smell from the box.');
  await page.getByRole('button', { name: 'Report it' }).tap();
  await expect(page.getByText('on this device, waiting to be sent')).toBeVisible();
  await page.goto(register.url);
  await scanned(page, 'HX-10');
  await expect(standing(page)).toContainText('Do not fly it before it is.');
  await expect(standing(page)).not.toContainText('May be flown');

  // The network is back: what was written is sent by itself, and the page is of now.
  await register.start();
  await expect(standing(page)).toContainText('Leak or smell', { timeout: 30_000 });
  await expect(page.getByRole('banner')).not.toContainText('waiting');
  const incidents = (await (await page.request.get('/api/incidents')).json()) as IncidentRow[];
  expect(incidents.filter(({ kind }) => kind === 'leak')).toHaveLength(1);
  await page.context().close();
});

test('who signed out leaves nothing on the device, and nobody gets in without a network', async ({
  browser,
  register,
}) => {
  const page = await signedIn(browser, register, 'Adela Quint', { keeps: true });
  await everythingKept(page);
  await page.getByRole('button', { name: /Adela/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Ineke Varrow' })).toBeVisible();
  register.kill();
  await page.goto(register.url);
  await expect(page.getByText('No connection to the register.')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('Adela')).toHaveCount(0);
  await register.start();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('button', { name: 'Ineke Varrow' })).toBeVisible();
  await page.context().close();
});
