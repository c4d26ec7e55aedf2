import type { Page } from '@playwright/test';
import { Client } from 'pg';
import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { answeredItems, DEFAULT_CHECKLISTS } from '../src/core/inspection';
import { HOUR_MS, MINUTE_MS } from '../src/core/measure';
import { choose, expect, notice, openPack, signedIn, standing, test } from './malle';
import { openRegister } from './registers';
import type { Register } from './registers';

/** When it goes wrong, and when it is over. The server's clock is set, never waited for, so the register is its own. */
let register: Register;
test.beforeAll(async () => {
  register = await openRegister();
});
test.afterAll(() => register.close());

const photo = () =>
  sharp({ create: { width: 900, height: 600, channels: 3, background: '#744' } })
    .jpeg()
    .toBuffer();
const today = (page: Page) => page.goto('/');
const watched = (page: Page, tag: string) =>
  page.getByRole('list', { name: 'In quarantine' }).getByRole('listitem').filter({ hasText: tag });
const decision = (page: Page) => page.getByRole('form', { name: 'Decision' });

async function namePack(page: Page, tag: string): Promise<void> {
  await page.getByRole('textbox', { name: 'Packs' }).fill(tag);
  await page.getByRole('textbox', { name: 'Packs' }).press('Enter');
  await expect(page.getByRole('button', { name: `Leave ${tag} out` })).toBeVisible();
}

/** Looks a pack over by the list its page offers; what is named failed. */
async function lookOver(page: Page, volts: string, failed: string[] = []): Promise<void> {
  await page.getByRole('button', { name: 'Inspect it now' }).click();
  await expect(page.getByRole('combobox', { name: 'Occasion' })).toHaveText('after a crash or drop');
  for (const item of failed)
    await page.getByRole('radiogroup', { name: item }).getByRole('radio', { name: 'fail' }).click();
  await page.getByRole('textbox', { name: 'Cells in order, if read' }).fill(volts);
  const keep = page.getByRole('button', { name: 'Save the inspection' });
  await keep.click();
  // A photo is asked for once.
  if (failed.length > 0) await keep.click();
  // Kept, or safely waiting: the form is empty again, and the look counts.
  await expect(page.getByRole('textbox', { name: 'Cells in order, if read' })).toHaveValue('');
  await expect(page.getByRole('button', { name: 'Inspect it now' })).toHaveCount(0);
}

test('a crash, from the card to the recycler', async ({ browser }) => {
  const start = Math.ceil(Date.now() / MINUTE_MS) * MINUTE_MS + MINUTE_MS;
  register.kill();
  await register.start(start);
  const pilot = await signedIn(browser, register, 'Bram Oosterfen', { phone: true });
  const custodian = await signedIn(browser, register, 'Ineke Varrow');
  const reader = await signedIn(browser, register, 'Petra Lindmoor');

  let presses = 0;
  const began = performance.now();
  const press = async (act: Promise<unknown>) => {
    presses += 1;
    await act;
  };
  await press(pilot.getByRole('link', { name: 'Report an incident' }).tap());
  await expect(pilot.getByRole('heading', { name: 'What happened?' })).toBeVisible();
  await press(pilot.getByRole('link', { name: 'Crash or drop' }).tap());
  // The card is there to be read before anything can be typed.
  await expect(pilot.getByText('Put it outdoors in a fire-resistant container')).toBeInViewport();
  await expect(pilot.getByText(/call the fire service/)).toBeInViewport();
  expect(await pilot.locator('main :is(input, textarea)').count()).toBe(0);
  await press(pilot.getByRole('link', { name: 'Log it' }).tap());
  await press(namePack(pilot, 'HX-07'));
  await press(namePack(pilot, 'HX-08'));
  await press(
    pilot
      .getByLabel('Photo of what happened')
      .setInputFiles({ name: 'reeds.jpg', mimeType: 'image/jpeg', buffer: await photo() }),
  );
  await expect(pilot.getByRole('button', { name: /^Photo 1 of/ })).toBeVisible();
  await press(pilot.getByRole('button', { name: 'Report it' }).tap());
  await expect(pilot.getByRole('heading', { name: /^Crash or drop/ })).toBeVisible();
  console.log(`reported in ${presses} presses, ${Math.round((performance.now() - began) / 1000)} s`);
  expect(presses).toBeLessThanOrEqual(10);
  const named = pilot.getByRole('region', { name: 'Packs' }).getByRole('listitem');
  await expect(named).toHaveCount(2);
  for (const line of await named.all()) await expect(line).toContainText('hold');
  await expect(
    pilot.getByRole('region', { name: 'Log', exact: true }).getByRole('button', { name: 'Photo 1' }),
  ).toBeVisible();

  // Everybody's Today counts down, without anybody asking for it anew.
  for (const page of [custodian, reader])
    for (const tag of ['HX-07', 'HX-08'])
      await expect(watched(page, tag).getByRole('timer')).toContainText('1:00:00');

  // The pilot cannot end the watch, nor can the custodian without a reason.
  await pilot.goto('/');
  await openPackByTag(pilot, 'HX-07');
  await expect(pilot.getByRole('button', { name: 'End the quarantine early' })).toHaveCount(0);
  await openPack(custodian, 'HX-07');
  await custodian.getByRole('button', { name: 'End the quarantine early' }).click();
  await custodian.getByRole('button', { name: 'End it' }).click();
  await expect(custodian.getByRole('alertdialog').getByRole('alert')).toContainText('The reason is missing.');
  await custodian.getByRole('button', { name: 'Let it run' }).click();
  // Nor is it charged or released meanwhile.
  await custodian.getByRole('link', { name: 'For and against' }).click();
  await expect(decision(custodian).getByText(/Keep off until the quarantine is over/)).toBeVisible();
  await expect(decision(custodian).getByRole('button', { name: 'Release HX-07' })).toBeDisabled();

  // An hour later.
  register.kill();
  await register.start(start + 61 * MINUTE_MS);
  await today(custodian);
  await expect(watched(custodian, 'HX-07')).toContainText('quarantine over');
  await watched(custodian, 'HX-07').getByRole('link', { name: 'Inspect it' }).click();
  await lookOver(custodian, '380 380 380 380 380 380');
  await openPack(custodian, 'HX-08');
  await lookOver(custodian, '380 381 380 380 380 380', ['Dents, creases, punctures']);
  await expect(standing(custodian)).toContainText('found the pack out of shape');

  // One is released, the other retired.
  await openPack(custodian, 'HX-07');
  await custodian.getByRole('link', { name: 'Decide about it' }).click();
  await decision(custodian).getByRole('textbox', { name: 'Reason' }).fill('Straight, level, cold.');
  await decision(custodian).getByRole('button', { name: 'Release HX-07' }).click();
  await expect(standing(custodian)).toContainText('May be flown');
  await openPack(custodian, 'HX-08');
  await custodian.getByRole('link', { name: 'Decide about it' }).click();
  await decision(custodian).getByRole('textbox', { name: 'Reason' }).fill('Creased along one side.');
  await decision(custodian).getByRole('button', { name: 'Retire HX-08' }).click();
  await expect(standing(custodian)).toContainText('retired');

  // Harmed, it is not discharged, and goes apart.
  const way = custodian.getByRole('region', { name: 'What becomes of it' });
  await way.getByRole('button', { name: 'It carries its red band' }).click();
  await expect(way).toContainText('it must not be discharged');
  await way.getByRole('textbox', { name: 'Why it must not be discharged' }).fill('Creased.');
  await way.getByRole('button', { name: 'Declare it unsafe' }).click();
  await way.getByRole('textbox', { name: 'How they are covered' }).fill('Leads cut one at a time, taped.');
  await way.getByRole('button', { name: 'They are covered' }).click();
  await way.getByRole('button', { name: 'It lies there' }).click();
  await way.getByRole('link', { name: 'Put it on a consignment' }).click();

  await custodian.getByRole('button', { name: 'Begin a consignment' }).click();
  await custodian.getByRole('button', { name: 'Put HX-08 on the list' }).click();
  const apart = custodian.getByRole('region', { name: 'Damaged, packed apart' });
  await expect(apart).toContainText('HX-08');
  const address = await custodian.getByRole('link', { name: 'Manifest to print' }).getAttribute('href');
  const manifest = await custodian.request.get(address!);
  expect((await manifest.body()).subarray(0, 5).toString()).toBe('%PDF-');
  const over = custodian.getByRole('form', { name: 'Hand over' });
  const sign = over.getByRole('button', { name: /^Handed over/ });
  await sign.click();
  await expect(over.getByRole('alert').first()).toContainText('The receipt number is missing.');
  await over.getByRole('textbox', { name: 'Receipt number' }).fill('EM-2310');
  await over.getByRole('checkbox').check();
  await over
    .getByLabel('Photo of the receipt')
    .setInputFiles({ name: 'receipt.jpg', mimeType: 'image/jpeg', buffer: await photo() });
  await expect(over.getByRole('button', { name: /^Photo 1 of/ })).toBeVisible();
  await sign.click();
  await expect(custodian.getByRole('region', { name: 'Receipt' })).toContainText('EM-2310');
  await openPack(custodian, 'HX-08');
  await expect(standing(custodian)).toContainText('recycled');
  for (const page of [pilot, custodian, reader]) await page.context().close();
});

async function openPackByTag(page: Page, tag: string): Promise<void> {
  await page.getByRole('combobox', { name: /Scan or type/ }).fill(tag);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: tag })).toBeVisible();
}

test('an intact pack is discharged with the right load, and read again a day later', async ({ browser }) => {
  const start = Math.ceil(Date.now() / MINUTE_MS) * MINUTE_MS + 2 * HOUR_MS;
  register.kill();
  await register.start(start);
  const page = await signedIn(browser, register, 'Ineke Varrow');
  await openPack(page, 'HX-09');
  await page.getByRole('link', { name: 'What becomes of it' }).click();
  await decision(page).getByRole('radio', { name: 'Retire' }).click();
  await decision(page).getByRole('textbox', { name: 'Reason' }).fill('Not worth its place.');
  await decision(page).getByRole('button', { name: 'Retire HX-09' }).click();
  const way = page.getByRole('region', { name: 'What becomes of it' });
  await way.getByRole('button', { name: 'It carries its red band' }).click();
  await way.getByRole('textbox', { name: 'Lamp, volts' }).fill('12');
  await way.getByRole('textbox', { name: 'Watts' }).fill('21');
  await expect(way.getByRole('alert')).toContainText(
    'A lamp rated 12 V burns out on a pack of 22.2 V and leaves it charged.',
  );
  await expect(way.getByRole('button', { name: 'It is on the load' })).toBeDisabled();
  await way.getByRole('textbox', { name: 'Lamp, volts' }).fill('24');
  await way.getByRole('textbox', { name: 'Watts' }).fill('70');
  await expect(way.getByRole('status')).toContainText(/A at first, 6\d W, about 2 h .* to empty/);
  // The load is on record before its end is read: a hand takes longer than that.
  const recorded = page.waitForResponse(
    (response) => response.url().endsWith('/api/records') && response.ok(),
  );
  await way.getByRole('button', { name: 'It is on the load' }).click();
  await recorded;
  const cells = way.getByRole('textbox', { name: /Cells in order, volts/ });
  await cells.fill('0.05 0.05 0.20 0.05 0.05 0.05');
  await way.getByRole('button', { name: 'Save the reading' }).click();
  await expect(way.getByRole('alert')).toContainText('Cell 3 still reads 0.20 V');
  // A refusal takes nothing out of the field.
  await expect(cells).toHaveValue('0.05 0.05 0.20 0.05 0.05 0.05');
  await way.getByRole('textbox', { name: /Cells in order, volts/ }).fill('0,05 0,05 0,06 0,05 0,05 0,05');
  await way.getByRole('button', { name: 'Save the reading' }).click();
  await expect(way).toContainText('It rests. Read it again tomorrow');
  register.kill();
  await register.start(start + 24 * HOUR_MS + MINUTE_MS);
  await today(page);
  const leaving = page.getByRole('region', { name: 'On the way out' }).getByRole('listitem');
  await leaving.filter({ hasText: 'HX-09' }).getByRole('link', { name: 'Read it again for rebound' }).click();
  await way.getByRole('textbox', { name: /Cells in order, volts/ }).fill('0.08 0.08 0.09 0.08 0.08 0.08');
  await way.getByRole('button', { name: 'Save the reading' }).click();
  await expect(way.getByRole('button', { name: 'They are covered' })).toBeVisible();
  await page.context().close();
});

test('an over-discharged pack comes up under supervision, watched and timed, and rests', async ({
  browser,
}) => {
  const start = Math.ceil(Date.now() / MINUTE_MS) * MINUTE_MS + 27 * HOUR_MS;
  register.kill();
  await register.start(start);
  const page = await signedIn(browser, register, 'Ineke Varrow');
  await readFlat(page, 'HX-05', start);
  await openPack(page, 'HX-05');
  // This house retires such packs until it says otherwise.
  await page.goto(`${page.url()}/recovery`);
  const before = page.getByRole('region', { name: 'Preconditions' });
  await expect(before).toContainText('The rules say to retire over-discharged packs.');
  await adopt(page, 'ready-state');
  await page.reload();
  await expect(before).toContainText('The records show all that is asked for.');

  await page.getByRole('textbox', { name: 'Charger' }).fill('Bench charger');
  await page.getByRole('textbox', { name: 'Current, A' }).fill('4');
  await page.getByRole('button', { name: 'Begin, the clock runs' }).click();
  await expect(page.getByText('How the cause is known is missing.')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Current, A' })).toHaveValue('4');
  await page.getByRole('textbox', { name: 'How the cause is known' }).fill('Left on its lead over a week.');
  await page.getByRole('button', { name: 'Begin, the clock runs' }).click();
  await expect(page.getByText(/^Too much: up to/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Current, A' }).fill('1,5');
  await page.getByRole('button', { name: 'Begin, the clock runs' }).click();
  const running = page.getByRole('region', { name: 'Running' });
  await expect(running.getByRole('timer')).toContainText('30:00');

  // A quarter of an hour later somebody looks; cells half typed are not lost and not kept as none.
  register.kill();
  await register.start(start + 15 * MINUTE_MS);
  await page.reload();
  await expect(running.getByRole('timer')).toContainText('15:00');
  await running.getByRole('textbox', { name: /^Cells in order/ }).fill('3.31 3.30');
  await running.getByRole('button', { name: 'Every cell came up' }).click();
  await expect(running.getByRole('alert')).toBeVisible();
  await expect(running.getByRole('textbox', { name: /^Cells in order/ })).toHaveValue('3.31 3.30');
  await running.getByRole('textbox', { name: /^Cells in order/ }).fill('3.31 3.30 3.30 3.31 3.30 3.30');
  await running.getByRole('button', { name: 'Every cell came up' }).click();
  await expect(page.getByRole('region', { name: 'Ended' })).toContainText('Let it rest.');
  await openPack(page, 'HX-05');
  await expect(standing(page)).toContainText('hold');
  await expect(page.getByRole('list', { name: 'What a release wants' })).toContainText(/Read it rested from/);
  await page.context().close();
});

/** Somebody read it flat, then looked it over and found it whole. */
async function readFlat(page: Page, tag: string, now: number): Promise<void> {
  const packs = (await (await page.request.get('/api/packs')).json()) as { id: string; tag: string }[];
  const { id } = packs.find((pack) => pack.tag === tag)!;
  const record = (kind: string, payload: object, at: number) => ({
    id: newId(),
    at,
    kind,
    payload,
    supersedes: null,
  });
  const volts = { of: 'cells', cellsMv: [2900, 2910, 2900, 2900, 2900, 2900] };
  const noted = { instrument: null, meterErrorMv: 5, temperatureC: null, remarks: null };
  const items = answeredItems(DEFAULT_CHECKLISTS.scheduled, {});
  const found = {
    occasion: 'scheduled',
    items,
    swelling: 'none',
    thicknessMm: null,
    massG: null,
    remarks: null,
  };
  const answer = await page.request.post('/api/records', {
    data: {
      packId: id,
      records: [
        record('reading', { volts, condition: 'rested', ...noted }, now - 3 * HOUR_MS),
        record('inspection', found, now - 2 * HOUR_MS),
      ],
    },
  });
  expect(answer.status(), await answer.text()).toBe(201);
}

async function adopt(page: Page, preset: string): Promise<void> {
  const { versions } = (await (await page.request.get('/api/rules')).json()) as {
    versions: { version: number }[];
  };
  const data = { basedOn: versions[0]!.version, preset, changes: [], reason: 'A call may come.' };
  expect((await page.request.post('/api/rules', { data })).status()).toBe(201);
}

test('two people decide the same pack from stale pages: one wins, the other keeps the text and sees what changed', async ({
  browser,
}) => {
  register.kill();
  await register.start();
  const first = await signedIn(browser, register, 'Ineke Varrow');
  const second = await signedIn(browser, register, 'Tolle Marsk');
  // This page hears nothing of what others do.
  await first.route('**/api/live', (route) => route.abort());
  for (const page of [first, second]) {
    await today(page);
    await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
    await openPack(page, 'IQ-09');
    await page.getByRole('link', { name: 'Decide about it' }).click();
  }
  await decision(first).getByRole('textbox', { name: 'Reason' }).fill('Sound after its look.');
  await decision(second).getByRole('radio', { name: 'Hold' }).click();
  await decision(second).getByRole('textbox', { name: 'Reason' }).fill('Look at the corner again.');
  await decision(second).getByRole('button', { name: 'Hold IQ-09' }).click();
  await expect(standing(second)).toContainText('Look at the corner again.');

  await decision(first).getByRole('button', { name: 'Release IQ-09' }).click();
  const changed = decision(first).getByRole('alert').filter({ hasText: 'Since you opened this page' });
  await expect(changed).toContainText('Decision, Tolle Marsk: Put on hold: Look at the corner again.');
  await expect(decision(first).getByRole('textbox', { name: 'Reason' })).toHaveValue('Sound after its look.');
  await expect(decision(first).getByRole('button', { name: 'Release IQ-09' })).toBeDisabled();
  await changed.getByRole('button', { name: 'I have seen it' }).click();
  // The hold wants a look of its own now.
  await expect(decision(first).getByText(/^Inspect it by/)).toBeVisible();
  for (const page of [first, second]) await page.context().close();
});

test('a report written without a connection holds the pack at once, survives a reload, and lands once', async ({
  browser,
}) => {
  const page = await signedIn(browser, register, 'Adela Quint', { phone: true });
  // The pages of the field are fetched while there is a connection.
  await expect
    .poll(() =>
      page.evaluate(
        () =>
          performance.getEntriesByType('resource').filter(({ name }) => name.includes('IncidentsPage'))
            .length,
      ),
    )
    .toBeGreaterThan(0);
  await openPackByTag(page, 'HX-10');
  await page.context().setOffline(true);
  await page.getByRole('link', { name: 'Report an incident' }).tap();
  await page.getByRole('link', { name: 'Leak or smell' }).tap();
  await expect(page.getByText('Stay out of the vapour')).toBeInViewport();
  await page.getByRole('link', { name: 'Log it' }).tap();
  await expect(page.getByRole('button', { name: 'Leave HX-10 out' })).toBeVisible();
  await page.getByRole('textbox', { name: 'What happened' }).fill('Sweet smell from the box.');
  await page.getByRole('button', { name: 'Report it' }).tap();
  await expect(page.getByText('on this device, waiting to be sent')).toBeVisible();
  // The page can be had again, the register still cannot take it: it lies on the device.
  const post = (url: URL) => url.pathname === '/api/incidents';
  await page.route(post, (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()));
  await page.context().setOffline(false);
  await page.reload();
  await expect(page.getByText('on this device, waiting to be sent')).toBeVisible();
  await page.unroute(post);
  await expect(page.getByText('on this device, waiting to be sent')).toHaveCount(0);
  await openPackByTag(page, 'HX-10');
  await expect(standing(page)).toContainText('Leak or smell');
  const client = new Client({ connectionString: register.databaseUrl });
  await client.connect();
  const { rows } = await client.query(`select count(*)::int as count from incident where kind = 'leak'`);
  await client.end();
  expect(rows).toEqual([{ count: 1 }]);
  await page.context().close();
});

test('tags that are scanned before the packs are there are taken when they come', async ({
  custodian: page,
}) => {
  let come: () => void = () => undefined;
  const held = new Promise<void>((done) => (come = done));
  await page.route('**/api/packs', async (route) => {
    await held;
    await route.continue();
  });
  await page.goto('/incidents/new/crash/log');
  const field = page.getByRole('textbox', { name: 'Packs', exact: true });
  for (const tag of ['HX-02', 'NO-99', 'hx-04']) {
    await field.fill(tag);
    await field.press('Enter');
  }
  await expect(field).toHaveAccessibleDescription(/Looks for HX-02, NO-99, hx-04/);
  await expect(field).toHaveValue('');
  come();
  const named = page.getByRole('list', { name: 'Packs named' });
  await expect(named.getByRole('button')).toHaveText([/HX-02/, /HX-04/]);
  await expect(field).toHaveAccessibleDescription(/No pack carries the tag NO-99/);
});

test('an incident is followed up, closed and opened again', async ({ browser }) => {
  const page = await signedIn(browser, register, 'Ineke Varrow');
  await page.goto('/incidents');
  await page.getByRole('link', { name: /^Over-discharged/ }).click();
  const close = page.getByRole('region', { name: 'Closing' });
  await close.getByRole('textbox', { name: 'Closing note' }).fill('Every wing is checked.');
  await close.getByRole('button', { name: /^Close it/ }).click();
  await expect(close.getByRole('alert')).toContainText('1 follow-up is not done yet.');
  await expect(close.getByRole('textbox', { name: 'Closing note' })).toHaveValue('Every wing is checked.');
  await page.getByRole('button', { name: 'Done: Check the cut-off on every wing' }).click();
  await close.getByRole('button', { name: /^Close it/ }).click();
  await expect(page.getByRole('heading', { name: /Over-discharged closed/ })).toBeVisible();
  await close.getByRole('textbox', { name: 'Open it again because' }).fill('It happened again.');
  await close.getByRole('button', { name: /^Open/ }).click();
  await expect(page.getByRole('heading', { name: /Over-discharged open/ })).toBeVisible();
});

test('several of a type are retired for one reason, each by its own box', async ({ browser }) => {
  const page = await signedIn(browser, register, 'Ineke Varrow');
  await page.goto('/end-of-life/batch');
  const group = page.getByRole('combobox', { name: 'Type or delivery' });
  await choose(group, /^Trainer 1S 550 mAh, \d+ packs$/);
  await page.getByRole('button', { name: /^Retire/ }).click();
  await expect(page.getByText('Choose the packs that are to go')).toBeVisible();
  await expect(page.getByText('The reason is missing.')).toBeVisible();
  for (const tag of ['TR-05', 'TR-06']) await page.getByRole('checkbox', { name: tag }).check();
  await page.getByRole('textbox', { name: 'Reason for all of them' }).fill('The trainers are sold.');
  await page.getByRole('button', { name: 'Retire 2 packs' }).click();
  await expect(notice(page)).toContainText('2 packs retired.');
  await page.goto('/end-of-life/board');
  const toMark = page.getByRole('region', { name: 'Mark it with a red band' });
  await expect(toMark.getByRole('listitem').filter({ hasText: /TR-05|TR-06/ })).toHaveCount(2);
});
