import { EventEmitter, once } from 'node:events';
import {
  cells,
  choose,
  expect,
  notice,
  openPack,
  preview,
  signedIn,
  standing,
  test,
  timeline,
  type,
} from './malle';
import { openRegister } from './registers';

test('the first start of an empty register, to the first true answer', async ({ page }) => {
  const register = await openRegister({ empty: true });
  await page.goto(register.url);
  await page.getByRole('button', { name: 'Open the register' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'The name is missing.' }).first()).toBeVisible();
  await page.getByRole('textbox', { name: 'Your name' }).fill('Ann Example');
  await page.getByRole('textbox', { name: 'Sign-in name' }).fill('ann');
  await page.getByLabel('Password').fill('ten letters at least');
  await page.getByRole('button', { name: 'Open the register' }).click();

  await page.getByRole('link', { name: 'Receive a pack' }).click();
  await page.getByRole('link', { name: 'A type not listed yet' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Quad 4S');
  await page.getByRole('textbox', { name: 'Cells in series' }).fill('4');
  await page.getByRole('textbox', { name: 'Capacity, mAh or Ah' }).fill('3,3');
  await page.getByRole('textbox', { name: 'Burst, C' }).fill('much');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'The burst rating is missing or not a number.' }).first(),
  ).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Burst, C' })).toHaveValue('much');
  await page.getByRole('textbox', { name: 'Burst, C' }).fill('40');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('link', { name: /Quad 4S LiPo 4S 3.3 Ah/ })).toBeVisible();

  await page.keyboard.press('/');
  await type(page, 'receive');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Tag' }).fill('Q-1');
  await choose(page.getByRole('combobox', { name: 'Type', exact: true }), 'Quad 4S');
  await page.getByRole('button', { name: 'Receive the pack' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Q-1' })).toBeVisible();
  await expect(standing(page)).toContainText('Measure before flying');
  await type(page, '384 383 385 384');
  await expect(preview(page)).toContainText('May be flown');
  await page.keyboard.press('Enter');
  await expect(standing(page)).toContainText('in its storage band');
  await page.context().close();
  await register.close();
});

test('receiving suggests the next tag of the series', async ({ custodian }) => {
  await custodian.goto(new URL('/packs/receive', custodian.url()).href);
  await choose(custodian.getByRole('combobox', { name: 'Type', exact: true }), 'Survey wing 4S4P 14 Ah');
  await custodian.getByRole('button', { name: 'FW-11' }).click();
  await expect(custodian.getByRole('textbox', { name: 'Tag' })).toHaveValue('FW-11');
});

test('a move and a note land in the timeline and show where the pack is', async ({ custodian }) => {
  await openPack(custodian, 'GS-04');
  await custodian.keyboard.press('Escape');
  await cells(custodian).blur();
  await custodian.keyboard.press('m');
  await choose(custodian.getByRole('combobox', { name: 'Place' }), 'Transport box B');
  await choose(custodian.getByRole('combobox', { name: 'In whose hands' }), 'Jory Penhallick');
  await custodian.getByRole('button', { name: 'Save move' }).click();
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText(
    'to Transport box B, with Jory Penhallick',
  );
  // The form now begins from there: saved once more by mistake, it would move nothing back.
  await expect(custodian.getByRole('combobox', { name: 'Place' })).toHaveText('Transport box B');
  await expect(custodian.getByRole('combobox', { name: 'In whose hands' })).toHaveText('Jory Penhallick');
  await expect(custodian.getByRole('complementary')).toContainText('Transport box B');
  await custodian.getByRole('tab', { name: /^Note/ }).click();
  await custodian.getByRole('textbox', { name: 'Note' }).fill('Lead re-taped.');
  await custodian.getByRole('button', { name: 'Save note' }).click();
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('Lead re-taped.');
});

test('a reader looks and cannot write; a pilot writes and cannot edit the register', async ({
  browser,
  register,
}) => {
  const reader = await signedIn(browser, register, 'Petra Lindmoor');
  await openPack(reader, 'HX-02');
  await expect(
    reader.getByText('As a reader you can look at everything here and change nothing.'),
  ).toBeVisible();
  await expect(cells(reader)).toBeHidden();
  const pilot = await signedIn(browser, register, 'Jory Penhallick');
  await openPack(pilot, 'HX-02');
  await expect(cells(pilot)).toBeVisible();
  await expect(pilot.getByRole('link', { name: 'Edit facts' })).toBeHidden();
  await pilot.goto(`${register.url}/settings/types`);
  await expect(pilot.getByRole('link', { name: 'Add a pack type' })).toBeHidden();
  await expect(pilot.getByRole('link', { name: 'People' })).toBeHidden();
  await reader.context().close();
  await pilot.context().close();
});

test('a person let in by the custodian signs in with their password', async ({
  browser,
  register,
  custodian,
}) => {
  await custodian.goto(`${register.url}/settings/people/new`);
  await custodian.getByRole('textbox', { name: 'Name', exact: true }).fill('Wim Newcomer');
  await custodian.getByRole('textbox', { name: 'Sign-in name' }).fill('wim');
  await custodian.getByLabel('First password').fill('Basketball1');
  await custodian.getByRole('button', { name: 'Add it' }).click();
  await expect(custodian.getByRole('alert').first()).toContainText('tried first');
  await custodian.getByLabel('First password').fill('ten letters at least');
  await custodian.getByRole('button', { name: 'Add it' }).click();
  await expect(custodian.getByRole('link', { name: /Wim Newcomer/ })).toBeVisible();
  const context = await browser.newContext();
  const answer = await context.request.post(`${register.url}/api/session`, {
    data: { login: 'wim', password: 'ten letters at least' },
  });
  expect(answer.status()).toBe(201);
  await context.close();
});

test('whoever goes on while something of the settings is saved stays where they went', async ({
  custodian,
  register,
}) => {
  await custodian.goto(`${register.url}/settings/instruments/new`);
  await custodian.getByRole('textbox', { name: 'Name', exact: true }).fill('Spare meter');
  const elsewhere = new EventEmitter();
  await custodian.route('**/api/instruments', async (route) => {
    await once(elsewhere, 'arrived');
    await route.continue();
  });
  await custodian.getByRole('button', { name: 'Add it' }).click();
  await custodian.getByRole('link', { name: 'Places', exact: true }).click();
  await expect(custodian).toHaveURL(/\/settings\/places$/);
  elsewhere.emit('arrived');
  await expect(notice(custodian)).toContainText('Added.');
  await expect(custodian).toHaveURL(/\/settings\/places$/);
});

test('the packs are filtered by typing, sorted by a press, and the address remembers', async ({
  custodian,
  register,
}) => {
  await custodian.goto(`${register.url}/packs`);
  const rows = custodian.getByRole('row');
  await expect(custodian.getByText('60 packs')).toBeVisible();
  await custodian.getByRole('searchbox').pressSequentially('hx cabinet');
  await expect(custodian.getByText(/\d+ of 60/)).toBeVisible();
  await custodian.getByRole('button', { name: 'Lowest' }).click();
  await custodian.getByRole('button', { name: 'Lowest' }).click();
  await expect(custodian.getByRole('columnheader', { name: /Lowest/ })).toHaveAttribute(
    'aria-sort',
    'descending',
  );
  await custodian.getByRole('button', { name: 'Columns' }).click();
  await custodian.getByRole('checkbox', { name: 'Spread' }).uncheck();
  await custodian.getByRole('checkbox', { name: 'Owner' }).check();
  await custodian.keyboard.press('Escape');
  await expect(custodian.getByRole('columnheader', { name: 'Owner' })).toBeVisible();

  const address = custodian.url();
  const first = await rows.nth(1).textContent();
  await custodian.goto('about:blank');
  await custodian.goto(address);
  await expect(custodian.getByRole('searchbox')).toHaveValue('hx cabinet');
  await expect(custodian.getByRole('columnheader', { name: 'Spread' })).toBeHidden();
  await expect(custodian.getByRole('columnheader', { name: 'Owner' })).toBeVisible();
  await expect(rows.nth(1)).toHaveText(first!);
  await custodian.getByRole('searchbox').fill('no such pack');
  await custodian.getByRole('button', { name: 'Show all 60' }).click();
  await expect(custodian.getByText('60 packs')).toBeVisible();
});

test('a capacity without its unit is asked about where it may be either', async ({ custodian }) => {
  await custodian.goto('/settings/types/new');
  await custodian.getByRole('textbox', { name: 'Name' }).fill('Heavy lifter');
  await custodian.getByRole('textbox', { name: 'Cells in series' }).fill('12');
  const capacity = custodian.getByRole('textbox', { name: 'Capacity, mAh or Ah' });
  await capacity.fill('22');
  await custodian.getByRole('button', { name: 'Add it' }).click();
  await expect(custodian.getByText('22 mAh, or 22 Ah? Write the unit with it.').first()).toBeVisible();
  await expect(capacity).toHaveValue('22');
  await capacity.fill('22 Ah');
  await custodian.getByRole('button', { name: 'Add it' }).click();
  await expect(custodian.getByRole('link', { name: /Heavy lifter LiPo 12S 22 Ah/ })).toBeVisible();
});
