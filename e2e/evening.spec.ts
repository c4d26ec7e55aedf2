import type { Page } from '@playwright/test';
import type { PackDetails, PackRow, RegisterAnswer, RoundDetails } from '../src/contract';
import type { PackRecord } from '../src/core/record';
import { choose, expect, notice, openPack, rowsOf, scan, signedIn, test, type } from './malle';

/**
 * One evening of a put-away by somebody who makes every mistake there is. Whatever was seen is noted here as it is seen;
 * at the end the ledger must hold all of it, and nothing that was never seen.
 */

const current = (page: Page) =>
  page.locator('li', { has: page.getByRole('status', { name: 'Verdict before saving' }) });
const field = (page: Page) => current(page).getByRole('textbox').first();
/** A hand is slower than a scanner, and is told apart by that. */
const BY_HAND = { delay: 60 };

test('an evening of mistakes ends with the ledger holding every fact that was seen', async ({
  browser,
  register,
}) => {
  const page = await signedIn(browser, register, 'Ineke Varrow');
  const rows = (await (await page.request.get('/api/packs')).json()) as PackRow[];
  const { people, places } = (await (await page.request.get('/api/register')).json()) as RegisterAnswer;
  const hexes = rows.filter(
    ({ tag, verdict, basis, storage }) =>
      tag.startsWith('HX') && verdict === 'fit' && basis === 'read' && storage === 'in-band',
  );
  const quads = rows.filter(
    ({ tag, verdict, mayFly, byCell, cellsMv }) =>
      tag.startsWith('IQ') && verdict === 'fit' && mayFly === 'yes' && byCell && cellsMv,
  );
  expect(hexes.length).toBeGreaterThanOrEqual(3);
  expect(quads.length).toBeGreaterThanOrEqual(4);
  const [swollen, flown, mistaken] = hexes as [PackRow, PackRow, PackRow];
  const [leftOut, killed, crashed, forgotten] = quads as [PackRow, PackRow, PackRow, PackRow];
  const known = new Set<string>();
  for (const { id } of [swollen, flown, mistaken, leftOut, killed, crashed, forgotten])
    for (const record of await ledger(page, id)) known.add(record.id);
  const of = async (pack: PackRow) => (await ledger(page, pack.id)).filter(({ id }) => !known.has(id));
  const box = places.find(({ code, id }) => code !== null && id !== flown.homePlaceId)!;
  const same = (pack: PackRow) => pack.cellsMv!.map((mv) => Math.round(mv / 10)).join(' ');
  const rounded = (pack: PackRow) => pack.cellsMv!.map((mv) => 10 * Math.round(mv / 10));

  // The round is begun, and the first label scanned before the page is there.
  await page.goto('/rounds');
  await page.getByRole('button', { name: /^Begin with/ }).press('Enter');
  await page.waitForURL(/rounds\/[0-9a-f]/);
  await scan(page, swollen.tag);
  await expect(current(page)).toContainText(swollen.tag);
  await scan(page, box.code!);
  await expect(notice(page)).toHaveText(`Packs go into ${box.name} from now on.`);

  // Too few cells, then letters between them, then Enter with a swelling seen; and before the question is answered, the next pack.
  await field(page).pressSequentially('380 381', BY_HAND);
  await field(page).press('Enter');
  await expect(current(page).getByRole('alert')).toContainText('6');
  await field(page).fill(same(swollen));
  for (let i = 0; i < 2; i++) await page.keyboard.press('s', { delay: 55 });
  await expect(current(page)).toContainText('Swelling fail');
  await page.keyboard.press('Enter', { delay: 55 });
  await scan(page, leftOut.tag);
  await expect(current(page)).toContainText(leftOut.tag);

  // A scorched lead, and then no patience: the row is left out.
  for (let i = 0; i < 2; i++) await page.keyboard.press('l', { delay: 55 });
  await expect(current(page)).toContainText('Leads fail');
  await type(page, '- smells of solder');
  await page.keyboard.press('Enter', { delay: 55 });

  // The page is loaded anew in the middle of the figures; they are all still there.
  await scan(page, flown.tag);
  await expect(current(page)).toContainText(flown.tag);
  await field(page).pressSequentially('365 365 365', BY_HAND);
  await page.reload();
  await expect(field(page)).toHaveValue('365 365 365');
  await field(page).pressSequentially(' 365 365 365', BY_HAND);
  // Nobody wrote the flight down; who flew is asked, and minutes are first told in words.
  await choose(current(page).getByLabel('Flown by'), 'Bram Oosterfen');
  await current(page).getByLabel('Minutes').fill('ten');
  await field(page).press('Enter');
  await expect(current(page)).toContainText('Type minutes, or 12:30.');
  await current(page).getByLabel('Minutes').fill('10');
  await field(page).press('Enter');
  await field(page).press('Enter');

  // Another pack's figures under this tag, saved, and put right on the pack's own page.
  await scan(page, mistaken.tag);
  await expect(current(page)).toContainText(mistaken.tag);
  await field(page).fill('371 372 371 370 371 372');
  await field(page).press('Enter');
  await field(page).press('Enter');
  await expect
    .poll(async () => (await ledger(page, mistaken.id)).some(isReadOf([3710, 3720, 3710, 3700, 3710, 3720])))
    .toBe(true);

  // The server dies under the next one, and comes back.
  await scan(page, killed.tag);
  await expect(current(page)).toContainText(killed.tag);
  register.kill();
  await field(page).fill(same(killed));
  await field(page).press('Enter');
  if (await current(page).getByText('Enter again').isVisible()) await field(page).press('Enter');
  await expect(page.getByText('1 row waiting to be sent')).toBeVisible();
  await register.start();
  await expect(page.getByText('all sent')).toBeVisible();

  // Meanwhile a pilot crashes one out of the network's reach, and tells it from the phone.
  const pilot = await signedIn(browser, register, 'Jory Penhallick', { phone: true });
  await pilot.goto(`/incidents/new/crash/log?pack=${crashed.id}`);
  await expect(pilot.getByRole('button', { name: `Leave ${crashed.tag} out` })).toBeVisible();
  await pilot.getByRole('textbox', { name: 'What happened' }).fill('Into the reeds from four metres.');
  await pilot.context().setOffline(true);
  await pilot.getByRole('button', { name: 'Report it' }).tap();
  await expect(pilot.getByText('on this device, waiting to be sent')).toBeVisible();
  await pilot.context().setOffline(false);
  await expect
    .poll(async () => (await rowsOf(page)).find(({ id }) => id === crashed.id)!.verdict)
    .toBe('hold');

  // `7` and Enter opens none of the packs that end so; the wrong figures are corrected by a record that says so.
  const scanField = page.getByRole('combobox', { name: /Scan or type/ });
  await scanField.fill('7');
  await scanField.press('Enter');
  await expect(page.getByText('Several answer to this.')).toBeVisible();
  await scanField.press('Escape');
  const roundAddress = page.url();
  await openPack(page, mistaken.tag);
  const wrong = page
    .getByRole('region', { name: 'Timeline' })
    .getByRole('listitem')
    .filter({ hasText: '3.71 3.72 3.71 3.70 3.71 3.72' })
    .first();
  await wrong.getByRole('button', { name: 'Correct' }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('textbox', { name: /^What it should have said/ }).fill(same(mistaken));
  await sheet.getByRole('textbox', { name: 'Reason' }).fill('That was the pack beside it.');
  await sheet.getByRole('button', { name: 'Correct it' }).click();
  await expect(sheet).toBeHidden();

  // A charge in the wrong unit is asked about, with the unit, and typed again.
  await openPack(page, killed.tag);
  await page.getByRole('tab', { name: /^Charge/ }).click();
  await page.getByRole('textbox', { name: 'mAh moved' }).fill('52000');
  await page.getByRole('button', { name: 'Save charge' }).click();
  await expect(page.getByRole('region', { name: 'Write a record' }).getByRole('alert').first()).toContainText(
    /Ah/,
  );
  await page.getByRole('textbox', { name: 'mAh moved' }).fill('900');
  await page.getByRole('button', { name: 'Save charge' }).click();
  await expect(page.getByRole('textbox', { name: 'mAh moved' })).toHaveValue('');

  // To close over what is typed and not saved is not possible: it is shown, gone back to, and saved.
  await page.goto(roundAddress);
  await scan(page, forgotten.tag);
  await expect(current(page)).toContainText(forgotten.tag);
  await field(page).fill(same(forgotten));
  await page.getByRole('link', { name: 'Summary' }).click();
  await expect(page.getByRole('region', { name: /^Typed here, not saved/ })).toContainText(forgotten.tag);
  await expect(page.getByRole('button', { name: 'Close the round' })).toBeDisabled();
  await page.getByRole('link', { name: 'Back to the rows' }).click();
  await expect(field(page)).toHaveValue(same(forgotten));
  await field(page).press('Enter');
  if (await current(page).getByText('Enter again').isVisible()) await field(page).press('Enter');
  await expect.poll(async () => (await of(forgotten)).some(isReadOf(rounded(forgotten)))).toBe(true);
  await page.getByRole('link', { name: 'Summary' }).click();
  await page.getByRole('button', { name: 'Close the round' }).click();
  await expect(page.getByRole('region', { name: 'Closed' })).toBeVisible();

  // What was seen this evening, and is in the ledger.
  const bram = people.find(({ name }) => name === 'Bram Oosterfen')!.id;
  const swollenNow = await of(swollen);
  expect(swollenNow.some(failing('swelling'))).toBe(true);
  expect(swollenNow.some(isReadOf(rounded(swollen)))).toBe(true);
  const leftNow = await of(leftOut);
  expect(leftNow.some(failing('leads'))).toBe(true);
  const round = (await (
    await page.request.get(`/api/rounds/${/rounds\/([0-9a-f-]+)/.exec(roundAddress)![1]!}`)
  ).json()) as RoundDetails;
  expect(round.rows.find(({ packId }) => packId === leftOut.id)).toMatchObject({
    reason: 'smells of solder',
  });
  const flownNow = await of(flown);
  expect(flownNow.some(isReadOf([3650, 3650, 3650, 3650, 3650, 3650]))).toBe(true);
  expect(flownNow.find(({ kind }) => kind === 'flight')?.payload).toMatchObject({
    minutes: 10,
    pilotId: bram,
  });
  const mistakenNow = await of(mistaken);
  const corrections = mistakenNow.filter(({ kind }) => kind === 'correction');
  expect(corrections).toHaveLength(1);
  expect(JSON.stringify(corrections[0]!.payload)).toContain(JSON.stringify(rounded(mistaken)));
  expect(mistakenNow.map(({ id }) => id)).toContain(corrections[0]!.supersedes);
  const killedNow = await of(killed);
  expect(killedNow.filter(isReadOf(rounded(killed)))).toHaveLength(1);
  expect(killedNow.filter(({ kind }) => kind === 'charge').map(({ payload }) => payload)).toEqual([
    expect.objectContaining({ movedMah: 900 }),
  ]);
  const verdicts = new Map((await rowsOf(page)).map(({ id, verdict }) => [id, verdict]));
  for (const pack of [swollen, leftOut, crashed])
    expect([pack.tag, verdicts.get(pack.id)]).toEqual([pack.tag, 'hold']);
  // Those that were done lie in the box that was scanned, and in nobody's hands.
  const lies = new Map((await rowsOf(page)).map((row) => [row.id, [row.placeId, row.holderId]]));
  for (const pack of [flown, mistaken, killed])
    expect([pack.tag, lies.get(pack.id)]).toEqual([pack.tag, [box.id, null]]);
  await pilot.context().close();
  await page.context().close();
});

async function ledger(page: Page, id: string): Promise<readonly PackRecord[]> {
  return ((await (await page.request.get(`/api/packs/${id}`)).json()) as PackDetails).records;
}

function isReadOf(cellsMv: readonly number[]) {
  return ({ kind, payload }: PackRecord) =>
    kind === 'reading' && JSON.stringify(payload).includes(JSON.stringify(cellsMv));
}

function failing(item: string) {
  return ({ kind, payload }: PackRecord) =>
    kind === 'inspection' && payload.items.some(({ key, answer }) => key === item && answer === 'fail');
}
