import type { Page } from '@playwright/test';
import type { IncidentRow, LaterRow, PackDetails, PackRow } from '../src/contract';
import { VERDICT_WORDS } from '../src/core/wording';
import {
  allPacksKept,
  cells,
  choose,
  expect,
  preview,
  signedIn,
  standing,
  test,
  timeline,
  type,
} from './malle';

/** Malle opened where there is no network: on what it was last told, with the cards, and what is written lands later. */

/** Until this device has the application and what was told of this. */
async function everythingKept(page: Page, about = 'packs'): Promise<void> {
  const kept = () =>
    page.evaluate(async (wanted) => {
      await navigator.serviceWorker.ready;
      const pages = await caches.open('page');
      const databases = await indexedDB.databases();
      if (!(await pages.match('/')) || !databases.some(({ name }) => name === 'malle.told')) return false;
      const opened = indexedDB.open('malle.told');
      await new Promise((resolve) => (opened.onsuccess = resolve));
      const got = opened.result.transaction('answers').objectStore('answers').getAll();
      await new Promise((resolve) => (got.onsuccess = resolve));
      opened.result.close();
      const parts = got.result as { queries: { queryKey: string[] }[] }[];
      return parts.some(({ queries }) => queries.some(({ queryKey }) => queryKey[0] === wanted));
    }, about);
  await expect.poll(kept).toBe(true);
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
  await allPacksKept(page);
  await everythingKept(page, 'later-rows');
  register.kill();
  await page.goto(`${register.url}/incidents/new`);
  await page.getByRole('link', { name: 'Leak or smell' }).tap();
  await expect(page.getByText('Stay out of the vapour')).toBeInViewport();

  await expect(page.getByText(/^No connection. This page is as of today/)).toContainText(
    /All \d+ packs are on this device/,
  );
  // A pack this device never opened: it is judged here, from its own records, with what is typed.
  await scanned(page, 'HX-10');
  await expect(standing(page)).toContainText('May be flown');
  await expect(standing(page)).not.toContainText('As the register last told');
  await expect(timeline(page).getByRole('listitem').first()).toBeVisible();
  await cells(page).fill('384 383 358 384 383 384');
  await expect(preview(page)).toContainText('Cell 3');
  await cells(page).fill('');
  await page.getByRole('link', { name: 'Report an incident' }).tap();
  await page.getByRole('link', { name: 'Leak or smell' }).tap();
  await page.getByRole('link', { name: 'Log it' }).tap();
  await page.getByRole('textbox', { name: 'What happened' }).fill('Sweet smell from the box.');
  await page.getByRole('button', { name: 'Report it' }).tap();
  await expect(page.getByText('on this device, waiting to be sent')).toBeVisible();
  await page.goto(register.url);
  await scanned(page, 'HX-10');
  await expect(standing(page)).toContainText('May not be charged or flown');
  await expect(standing(page)).toContainText('What burnt or leaked does not fly again.');
  await expect(standing(page)).not.toContainText('May be flown');

  // In the list of packs, too, what was seen here outranks what the register last told.
  await page.goto(`${register.url}/packs?q=HX-10`);
  const listed = page.getByRole('row').or(page.getByRole('listitem')).filter({ hasText: 'HX-10' }).first();
  await expect(listed).toContainText(/retire advised/i);
  await scanned(page, 'HX-10');
  await expect(standing(page)).not.toContainText('May be flown');

  // The network is back: what was written is sent by itself, and the page is of now. At no moment is the pack green again.
  await page.evaluate(() => {
    const seen: string[] = [];
    Object.assign(window, { seen });
    const look = () => {
      const block = document.querySelector('[aria-label="How it stands"]');
      if (block?.textContent.includes('May be flown')) seen.push(block.textContent);
    };
    new MutationObserver(look).observe(document.body, {
      subtree: true,
      childList: true,
      characterData: true,
    });
  });
  await register.start();
  await expect(standing(page)).toContainText('Leak or smell');
  await expect(page.getByRole('banner')).not.toContainText('waiting');
  await page.waitForTimeout(1_500);
  expect(await page.evaluate(() => (window as unknown as { seen: string[] }).seen)).toEqual([]);
  await expect(page.getByRole('banner')).not.toContainText('waiting');
  const incidents = (await (await page.request.get('/api/incidents')).json()) as IncidentRow[];
  expect(incidents.filter(({ kind }) => kind === 'leak')).toHaveLength(1);
  await page.context().close();
});

test('packs are taken out and come back after Malle was opened without a network, and all of it lands once, in order', async ({
  browser,
  register,
}) => {
  const page = await signedIn(browser, register, 'Sunniva Calder', { phone: true, keeps: true });
  await everythingKept(page, 'flying');
  register.kill();
  await page.goto(`${register.url}/flying/take-out`);
  const scan = page.getByRole('textbox', { name: /^Scan or type a tag/ });
  const listed = (tag: string) => page.getByRole('listitem', { name: tag, exact: true });
  // Packs this device never opened: one that may go, one that may not.
  for (const tag of ['HX-03', 'HX-11']) {
    await scan.fill(tag);
    await scan.press('Enter');
    await expect(listed(tag)).toBeVisible();
  }
  await expect(listed('HX-11')).toContainText('May not be charged or flown');
  await page.getByRole('button', { name: 'Take out 1 pack' }).tap();
  await expect(listed('HX-03')).toHaveCount(0);
  // The phone is put away and opened again: the pack is still out, and comes back.
  await page.goto(register.url);
  await expect(page.getByRole('region', { name: 'Out with you' })).toContainText('HX-03');
  await page.goto(`${register.url}/flying/return`);
  await expect(listed('HX-03')).toBeVisible();
  const open = listed('HX-03').getByRole('button', { name: 'HX-03' });
  if ((await open.count()) > 0) await open.tap();
  await listed('HX-03').getByRole('textbox', { name: 'Minutes' }).fill('12');
  await listed('HX-03').getByRole('textbox', { name: 'mAh used' }).fill('10300');
  await listed('HX-03').getByRole('button', { name: 'Unplugged, it is back' }).tap();
  await expect(listed('HX-03')).toHaveCount(0);
  await register.start();
  const pack = async () =>
    ((await (await page.request.get('/api/packs')).json()) as PackRow[]).find(({ tag }) => tag === 'HX-03')!;
  await expect.poll(async () => (await pack()).owed !== null, { timeout: 40_000 }).toBe(true);
  const { records } = (await (
    await page.request.get(`/api/packs/${(await pack()).id}`)
  ).json()) as PackDetails;
  expect(records.slice(-3).map(({ kind }) => kind)).toEqual(['taken-out', 'flight', 'returned']);
  expect((await pack()).holderId).toBeNull();
  await page.context().close();
});

test('a round goes on after its page was opened anew without a network', async ({ browser, register }) => {
  const page = await signedIn(browser, register, 'Ineke Varrow', { keeps: true });
  await page.goto('/rounds');
  await choose(page.getByRole('combobox', { name: 'For' }), 'Free round');
  await choose(page.getByRole('combobox', { name: 'Packs from' }), 'Fire cabinet, upper');
  await page.getByRole('button', { name: /^Begin with/ }).press('Enter');
  const row = (tag: string) => page.getByRole('listitem').filter({ hasText: tag });
  await expect(row('HX-01').getByRole('textbox').first()).toBeFocused();
  await everythingKept(page, 'histories');
  register.kill();
  await page.reload();
  await expect(row('HX-01').getByRole('textbox').first()).toBeFocused();
  await type(page, '419 419 419 418 419 419');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 row waiting to be sent')).toBeVisible();
  await page.reload();
  await expect(row('HX-01')).toContainText('waiting');
  await register.start();
  await expect(page.getByText('all sent')).toBeVisible();
  await expect(row('HX-01')).toContainText('done');
  await page.context().close();
});

test('the rounds, the house rules and what time makes of packs are here without a network, though nobody opened them', async ({
  browser,
  register,
}) => {
  const bench = await signedIn(browser, register, 'Ineke Varrow');
  await bench.goto('/rounds');
  await choose(bench.getByRole('combobox', { name: 'For' }), 'Free round');
  await choose(bench.getByRole('combobox', { name: 'Packs from' }), 'Fire cabinet, upper');
  await bench.getByRole('button', { name: /^Begin with/ }).press('Enter');
  await expect(
    bench.getByRole('listitem').filter({ hasText: 'HX-01' }).getByRole('textbox').first(),
  ).toBeVisible();
  const round = new URL(bench.url()).pathname;
  await bench.context().close();

  const page = await signedIn(browser, register, 'Tolle Marsk', { keeps: true });
  await allPacksKept(page);
  await everythingKept(page, 'round');
  await everythingKept(page, 'later-rows');
  const later = (await (await page.request.get('/api/offline-rows')).json()) as LaterRow[];
  const rows = (await (await page.request.get('/api/packs')).json()) as PackRow[];
  const change = later.find(({ row }) => rows.find(({ id }) => id === row.id)!.verdict !== row.verdict)!;
  register.kill();

  await page.goto('/rules');
  await expect(page.getByRole('heading', { level: 1, name: /house rules/i })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Versions' })).toBeVisible();
  await page.goto('/rounds');
  await expect(page.getByRole('link', { name: /Free round/ }).first()).toBeVisible();
  // The round was begun on another device. It is worked here from the packs that are kept.
  await page.goto(round);
  const row = page.getByRole('listitem').filter({ hasText: 'HX-01' });
  await expect(row.getByRole('textbox').first()).toBeFocused();
  await type(page, '419 419 419 330 419 419');
  await expect(row).toContainText('Cell 4 rests 890 mV below the highest');

  // Nobody writes anything and time passes: the list says what the register would.
  await page.clock.setSystemTime(change.from + 60_000);
  await page.goto(`/packs?q=${change.row.tag}`);
  await expect(page.getByRole('row').filter({ hasText: change.row.tag })).toContainText(
    VERDICT_WORDS[change.row.verdict],
  );
  await page.context().close();
  await register.start();
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
  await expect(page.getByText('No connection to the register.')).toBeVisible();
  await expect(page.getByText('Adela')).toHaveCount(0);
  await register.start();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('button', { name: 'Ineke Varrow' })).toBeVisible();
  await page.context().close();
});
