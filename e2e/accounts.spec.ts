import { Client } from 'pg';
import {
  allPacksKept,
  cells,
  choose,
  expect,
  notice,
  openPack,
  scan,
  signedIn,
  test,
  timeline,
  type,
} from './malle';
import type { Browser, Page } from '@playwright/test';
import type { Register } from './registers';

/** Getting in, staying in and being shut out, as people do it. */

const PASSWORD = 'low tide, wet boots';

/** The person's own row under Settings, opened by a custodian. */
async function openPerson(custodian: Page, name: string): Promise<void> {
  await custodian.goto('/settings/people');
  await custodian.getByRole('link', { name: new RegExp(name) }).click();
}

/** Makes somebody a custodian. */
async function asCustodian(custodian: Page, name: string): Promise<void> {
  await openPerson(custodian, name);
  await choose(custodian.getByRole('combobox', { name: 'Role' }), 'custodian');
  await custodian.getByRole('button', { name: 'Save' }).click();
  await expect(custodian.getByRole('link', { name: new RegExp(`${name}.*custodian`) })).toBeVisible();
}

/** Everybody signed in half an hour ago. */
async function halfAnHourPasses(databaseUrl: string): Promise<void> {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query(
    `update user_session set sess = (sess::jsonb || jsonb_build_object('startedAt', (sess ->> 'startedAt')::float8 - 1800000))::json`,
  );
  // Sessions from before that moment are over.
  await client.query(`update person set access_from = access_from - interval '1 hour'`);
  await client.end();
}

async function linkFor(custodian: Page): Promise<string> {
  await custodian.getByRole('button', { name: /^Make (a|another) link/ }).click();
  const field = custodian.getByRole('textbox', { name: 'Link' });
  await expect(field).toHaveValue(/\/welcome#/);
  return field.inputValue();
}

/** A browser of somebody who chose their password by this link. */
async function inByLink(browser: Browser, register: Register, link: string): Promise<Page> {
  const page = await (await browser.newContext({ baseURL: register.url })).newPage();
  await page.goto(link);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Keep it and come in' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  return page;
}

test('somebody new chooses a password by a link, and nobody else knows it', async ({
  browser,
  custodian,
  register,
}) => {
  await custodian.goto('/settings/people/new');
  await custodian.getByRole('textbox', { name: 'Name', exact: true }).fill('Runa Tidewell');
  await custodian.getByRole('textbox', { name: 'Sign-in name' }).fill('runa');
  await custodian.getByRole('button', { name: 'Add it' }).click();
  await expect(custodian.getByRole('link', { name: /Runa Tidewell.*no password yet/ })).toBeVisible();
  await openPerson(custodian, 'Runa Tidewell');
  const old = await linkFor(custodian);
  await custodian.getByRole('button', { name: 'Make another link' }).click();
  const field = custodian.getByRole('textbox', { name: 'Link' });
  await expect(field).not.toHaveValue(old);
  const link = await field.inputValue();
  await custodian.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await custodian.getByRole('button', { name: 'Copy it' }).click();
  await expect(custodian.getByText('Copied.')).toBeVisible();
  expect(await custodian.evaluate(() => navigator.clipboard.readText())).toBe(link);

  const phone = await (await browser.newContext({ baseURL: register.url })).newPage();
  await phone.goto(old);
  await expect(phone.getByText('This link leads nowhere any more.')).toBeVisible();
  await phone.goto('about:blank');
  await phone.goto(link);
  await expect(phone.getByRole('heading', { name: 'Welcome, Runa Tidewell' })).toBeVisible();
  // The keyboard alone: the field has the focus already.
  await type(phone, 'runa tidewell');
  await phone.keyboard.press('Enter');
  await expect(phone.getByText('little more than your name')).toBeVisible();
  await expect(phone.getByLabel('Password')).toHaveValue('runa tidewell');
  await phone.getByLabel('Password').fill(PASSWORD);
  await phone.keyboard.press('Enter');
  await expect(phone.getByRole('heading', { level: 1, name: /Runa Tidewell/ })).toBeVisible();
  expect(phone.url()).not.toContain('#');
  await phone.goto('about:blank');
  await phone.goto(link);
  await expect(phone.getByText('This link leads nowhere any more.')).toBeVisible();
  await phone.context().close();
});

test('a password is changed on one’s own page, and a device nobody knows is signed out', async ({
  browser,
  custodian,
  register,
}) => {
  await openPerson(custodian, 'Tolle Marsk');
  const here = await inByLink(browser, register, await linkFor(custodian));
  const elsewhere = await signedIn(browser, register, 'Tolle Marsk', { phone: true });

  await here.getByRole('button', { name: /Tolle Marsk.*menu/ }).click();
  await here.getByRole('menuitem', { name: 'Your account' }).click();
  const list = here.getByRole('region', { name: 'Where you are signed in' });
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await expect(list.getByText('this device')).toBeVisible();
  await list.getByRole('button', { name: 'Sign it out' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  // The other device is told at once, and what stands there is gone.
  await expect(elsewhere.getByRole('heading', { name: 'Who are you today?' })).toBeVisible();

  await here.getByLabel('The password you have now').fill('not that one');
  await here.getByLabel('New password').fill('another low tide');
  await here.getByRole('button', { name: 'Change it' }).click();
  await expect(here.getByText('This is not the password you have now.')).toBeVisible();
  await expect(here.getByLabel('New password')).toHaveValue('another low tide');
  const kept = await here.evaluate(() => JSON.stringify({ ...localStorage }));
  expect(kept).not.toContain('low tide');
  expect(kept).not.toContain('not that one');
  await here.getByLabel('The password you have now').fill(PASSWORD);
  await here.getByRole('button', { name: 'Change it' }).click();
  await expect(here.getByLabel('New password')).toHaveValue('');
  await here.reload();
  await expect(here.getByRole('heading', { name: 'Your account' })).toBeVisible();
  await here.context().close();
  await elsewhere.context().close();
});

test('whoever is shut out is asked to sign in, and keeps what they had typed', async ({
  browser,
  custodian,
  register,
}) => {
  const pilot = await signedIn(browser, register, 'Jory Penhallick');
  await openPack(pilot, 'HX-02');
  await cells(pilot).fill('384 383 38');
  await openPerson(custodian, 'Jory Penhallick');
  await linkFor(custodian);
  await expect(pilot.getByRole('heading', { name: 'Who are you today?' })).toBeVisible();
  await pilot.getByRole('button', { name: 'Jory Penhallick' }).click();
  await expect(cells(pilot)).toHaveValue('384 383 38');
  await pilot.context().close();
});

test('a custodian’s own account is theirs alone to change', async ({ custodian }) => {
  await openPerson(custodian, 'Ineke Varrow');
  await expect(custodian.getByRole('button', { name: /link/ })).toHaveCount(0);
  await custodian.getByRole('link', { name: 'your own page' }).click();
  await expect(custodian.getByRole('heading', { name: 'Your account' })).toBeVisible();
});

test('a shared tablet shows nobody what another typed or wrote, and is left without a network, too', async ({
  browser,
  register,
}) => {
  const tablet = await signedIn(browser, register, 'Bram Oosterfen', { keeps: true });
  await allPacksKept(tablet);
  await openPack(tablet, 'HX-04');
  await tablet.context().setOffline(true);
  await tablet.getByRole('tab', { name: 'Note' }).click();
  await tablet.getByRole('textbox', { name: 'Note' }).fill('The lid of its box is cracked.');
  await tablet.getByRole('button', { name: 'Save note' }).click();
  await expect(tablet.getByText('1 waiting')).toBeVisible();
  await tablet.getByRole('tab', { name: 'Reading' }).click();
  await cells(tablet).fill('384 383 38');
  await tablet.getByRole('button', { name: /Bram Oosterfen.*menu/ }).click();
  await tablet.getByRole('menuitem', { name: 'Sign out' }).click();
  // Nobody is signed in, and nothing is kept to be looked at.
  await expect(tablet.getByText(/No connection to the register/)).toBeVisible();
  await expect(tablet.getByText('HX-04')).toHaveCount(0);
  await tablet.reload();
  await expect(tablet.getByText(/No connection to the register/)).toBeVisible();

  await tablet.context().setOffline(false);
  await tablet.reload();
  await tablet.getByRole('button', { name: 'Adela Quint' }).click();
  await expect(tablet.getByRole('heading', { level: 1, name: /^Adela Quint/ })).toBeVisible();
  await openPack(tablet, 'HX-04');
  await expect(cells(tablet)).toHaveValue('');
  await expect(tablet.getByText('The lid of its box is cracked.')).toHaveCount(0);
  await expect(tablet.getByText('waiting', { exact: false })).toHaveCount(0);
  await tablet.getByRole('button', { name: /Adela Quint.*menu/ }).click();
  await tablet.getByRole('menuitem', { name: 'Sign out' }).click();

  await tablet.getByRole('button', { name: 'Bram Oosterfen' }).click();
  await expect(tablet.getByRole('heading', { level: 1, name: /^Bram Oosterfen/ })).toBeVisible();
  await openPack(tablet, 'HX-04');
  await expect(cells(tablet)).toHaveValue('384 383 38');
  await expect(timeline(tablet).getByText('The lid of its box is cracked.')).toBeVisible();
  await expect(tablet.getByText('1 waiting')).toHaveCount(0);
  await tablet.context().close();
});

test('somebody who left is shown under a pseudonym, in a browser that is open, too', async ({
  browser,
  custodian,
  register,
}) => {
  const other = await signedIn(browser, register, 'Ineke Varrow');
  await other.goto('/settings/people');
  await expect(other.getByRole('link', { name: /Adela Quint/ })).toBeVisible();
  await openPerson(custodian, 'Adela Quint');
  await expect(custodian.getByRole('button', { name: 'Show a pseudonym' })).toBeHidden();
  await custodian.getByRole('checkbox', { name: 'Account active' }).press('Space');
  await custodian.getByRole('button', { name: 'Save' }).click();
  // What was saved leads back to the list.
  await custodian.waitForURL(/\/settings\/people$/);
  await custodian.getByRole('link', { name: /Adela Quint.*account ended/ }).click();
  await custodian.getByRole('button', { name: 'Show a pseudonym in place of the name' }).click();
  await expect(notice(custodian)).toHaveText('Adela Quint is shown as Former member 1 from now on.');
  for (const page of [custodian, other]) {
    await expect(page.getByRole('link', { name: /Former member 1.*account ended/ })).toBeVisible();
    await expect(page.getByText('Adela Quint')).toHaveCount(page === custodian ? 1 : 0);
  }
  // What is in the form is the new name: saved again, it brings nothing back.
  await openPerson(custodian, 'Former member 1');
  await expect(custodian.getByRole('textbox', { name: 'Name', exact: true })).toHaveValue('Former member 1');
  await expect(custodian.getByRole('button', { name: 'Show a pseudonym' })).toBeHidden();
  await custodian.goto('/settings/log');
  await expect(custodian.getByRole('main')).toContainText('Adela Quint');
});

test('a page that was left open gives nobody a role: the password is asked for first', async ({
  browser,
  custodian,
  register,
}) => {
  await openPerson(custodian, 'Tolle Marsk');
  const page = await inByLink(browser, register, await linkFor(custodian));
  await asCustodian(custodian, 'Tolle Marsk');
  await halfAnHourPasses(register.databaseUrl);

  await page.goto('/settings/people/new');
  const name = page.getByRole('textbox', { name: 'Name', exact: true });
  await name.fill('Odo Plank');
  await page.getByRole('textbox', { name: 'Sign-in name' }).fill('odo');
  await page.getByRole('button', { name: 'Add it' }).click();
  const sheet = page.getByRole('dialog', { name: 'Is it you?' });
  await expect(sheet.getByLabel('Your password')).toBeFocused();
  // Left alone, nothing is done and nothing that was typed is gone.
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  await expect(page.getByRole('alert').filter({ hasText: 'Give your password first' })).toBeVisible();
  await expect(name).toHaveValue('Odo Plank');

  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(sheet.getByLabel('Your password')).toBeFocused();
  // As quick as a scanner, as what keeps passwords types them: it is a password all the same.
  await scan(page, 'not this one');
  await expect(sheet.getByRole('alert')).toHaveText('This is not the password you have now.');
  await sheet.getByLabel('Your password').fill(PASSWORD);
  await page.keyboard.press('Enter');
  await expect(sheet).toBeHidden();
  await expect(page.getByRole('link', { name: /Odo Plank/ })).toHaveCount(1);
  // A quarter of an hour long nothing more is asked.
  await openPerson(page, 'Odo Plank');
  await linkFor(page);
  await page.context().close();
});
