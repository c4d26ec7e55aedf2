import { Secret, TOTP } from 'otpauth';
import { expect, notice, scan, test } from './malle';
import type { Browser, Page } from '@playwright/test';
import { openRegister } from './registers';
import type { Register } from './registers';

/** More than a password, and less than one where several people stand at one bench. */

const PASSWORD = 'low tide, wet boots';

let register: Register;
/** By its name: at an address of figures no browser makes a passkey. */
let address: string;
test.beforeEach(async () => {
  register = await openRegister({ empty: true });
  address = register.url.replace('127.0.0.1', 'localhost');
});
test.afterEach(() => register.close());

/** Only where somebody is signed in. */
const isIn = (page: Page) => page.getByRole('button', { name: /: menu$/ });

/** The first custodian of a new register. */
async function firstCustodian(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ baseURL: address })).newPage();
  await page.goto('/');
  await page.getByLabel('Your name').fill('Merle Sandbank');
  await page.getByLabel('Sign-in name').fill('merle');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Open the register' }).click();
  await expect(isIn(page)).toBeVisible();
  return page;
}

async function signOut(page: Page): Promise<void> {
  await isIn(page).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
}

async function signIn(page: Page, login: string): Promise<void> {
  await page.getByLabel('Sign-in name').fill(login);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}

function codeNow(secret: string, steps = 0): string {
  return new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + steps * 30_000 });
}

test('a phone is set up by its picture, asked for from then on, and a spare code helps without it', async ({
  browser,
}) => {
  const page = await firstCustodian(browser);
  await page.goto('/account');
  await page.getByRole('button', { name: 'Set up a phone' }).click();
  await expect(page.getByAltText('The picture for your phone')).toHaveJSProperty('complete', true);
  const secret = (await page.locator('code').innerText()).replaceAll(' ', '');
  const code = page.getByLabel('2. The code that the phone shows now');
  await code.fill('123');
  await page.getByRole('button', { name: 'Ask for codes from now on' }).click();
  await expect(page.getByText('This is not the code of now.')).toBeVisible();
  await code.fill(codeNow(secret, -1));
  await page.keyboard.press('Enter');
  const codes = page.getByRole('status').filter({ hasText: 'Spare codes' }).getByRole('listitem');
  await expect(codes).toHaveCount(10);
  const spare = await codes.allInnerTexts();
  const kept = await page.evaluate(() => JSON.stringify({ ...localStorage }));
  expect(kept).not.toContain(secret);
  await signOut(page);

  await signIn(page, 'merle');
  const asked = page.getByLabel('Code');
  await expect(asked).toBeFocused();
  await page.getByRole('button', { name: 'Come in' }).click();
  await expect(page.getByText('Type the code that your phone shows now.')).toBeVisible();
  await asked.fill('000000');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This code is not right')).toBeVisible();
  await expect(page.getByLabel('Sign-in name')).toHaveValue('merle');
  await asked.fill(codeNow(secret));
  await page.keyboard.press('Enter');
  await expect(isIn(page)).toBeVisible();
  await signOut(page);

  await signIn(page, 'merle');
  await page.getByLabel('Code').fill(spare[3]!.toUpperCase());
  await page.keyboard.press('Enter');
  await expect(isIn(page)).toBeVisible();
  await page.goto('/account');
  await expect(page.getByText('9 spare codes are left.')).toBeVisible();
  // The house now asks it of all custodians.
  await page.goto('/settings/people');
  await page.getByRole('button', { name: 'Ask custodians for one' }).click();
  await expect(page.getByText('Custodians need codes of a phone, or a passkey.')).toBeVisible();
  await page.goto('/account');
  await page.getByRole('button', { name: 'Sign in without codes again' }).click();
  await expect(page.getByText('Until you have one you may do what a deputy may.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Merle Sandbank, deputy: menu' })).toBeVisible();
  await page.context().close();
});

test('a passkey lets its owner in, and one that was taken away does not', async ({ browser }) => {
  const page = await firstCustodian(browser);
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('WebAuthn.enable');
  const { authenticatorId } = await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  const keys = page.getByRole('region', { name: 'Passkeys' });
  await page.goto('/account');
  await keys.getByRole('button', { name: 'Make a passkey' }).click();
  await expect(keys.getByText('The name is missing.')).toBeVisible();
  await keys.getByLabel('What you call this device').fill('The blue phone');
  await keys.getByRole('button', { name: 'Make a passkey' }).click();
  await expect(keys.getByRole('listitem')).toContainText('The blue phone');
  // The device knows that it has one already.
  await keys.getByLabel('What you call this device').fill('Again');
  await keys.getByRole('button', { name: 'Make a passkey' }).click();
  await expect(keys.getByText('This device has a passkey for you already.')).toBeVisible();
  await signOut(page);
  await page.getByRole('button', { name: 'Sign in by a passkey' }).click();
  await expect(isIn(page)).toBeVisible();
  await page.goto('/account');
  await expect(keys.getByRole('listitem')).toContainText('last used');
  await keys.getByRole('button', { name: 'Take it away' }).click();
  await expect(keys.getByRole('listitem')).toHaveCount(0);
  await signOut(page);
  await page.getByRole('button', { name: 'Sign in by a passkey' }).click();
  await expect(page.getByText('This passkey is not known here any more.')).toBeVisible();
  // Whoever leaves the browser's question has lost nothing.
  await devtools.send('WebAuthn.removeVirtualAuthenticator', { authenticatorId });
  await signIn(page, 'merle');
  await expect(isIn(page)).toBeVisible();
  await page.context().close();
});

test('at a shared bench people change by PIN and by badge, and find only what is theirs', async ({
  browser,
}) => {
  test.slow();
  const bench = await firstCustodian(browser);
  await bench.goto('/settings/people');
  await bench.getByLabel('What this one is called').fill('The long bench');
  await bench.getByRole('button', { name: 'Make this browser one' }).click();
  const benches = bench.getByRole('region', { name: 'Shared benches' });
  await expect(benches.getByRole('listitem')).toContainText('this browser');
  // Somebody else, from their own phone.
  await bench.goto('/settings/people/new');
  await bench.getByRole('textbox', { name: 'Name', exact: true }).fill('Runa Tidewell');
  await bench.getByRole('textbox', { name: 'Sign-in name' }).fill('runa');
  await bench.getByLabel('First password').fill(PASSWORD);
  await bench.getByRole('button', { name: 'Add it' }).click();
  await expect(bench.getByRole('link', { name: /Runa Tidewell/ })).toBeVisible();
  const phone = await (await browser.newContext({ baseURL: address })).newPage();
  await phone.goto('/');
  await expect(phone.getByText('who are you?')).toHaveCount(0);
  await signIn(phone, 'runa');
  await expect(isIn(phone)).toBeVisible();
  await phone.goto('/account');
  await phone.getByRole('button', { name: 'Keep it' }).click();
  await expect(phone.getByText('Type a PIN, or scan a badge below.')).toBeVisible();
  await phone.getByLabel('PIN', { exact: true }).fill('1111');
  await phone.getByRole('button', { name: 'Keep it' }).click();
  await expect(phone.getByText('This PIN is among those that are tried first.')).toBeVisible();
  await phone.getByLabel('PIN', { exact: true }).fill('2580');
  await phone.getByLabel('Badge').focus();
  // A scanner at the phone: letters and Enter, faster than any hand. In this field that is no pack's tag.
  await scan(phone, 'CREW-0042');
  await expect(notice(phone)).toContainText('you come in by it from now on');
  const kept = await phone.evaluate(() => JSON.stringify({ ...localStorage }));
  expect(kept).not.toMatch(/2580|0042/);

  // At the bench, by PIN: a wrong one first.
  await isIn(bench).click();
  await bench.getByRole('menuitem', { name: 'Change person' }).click();
  await bench.getByRole('button', { name: /Runa Tidewell/ }).click();
  await bench.getByLabel('The PIN of Runa Tidewell').fill('2581');
  await bench.keyboard.press('Enter');
  await expect(bench.getByText('This is not the PIN.')).toBeVisible();
  await bench.getByLabel('The PIN of Runa Tidewell').fill('2580');
  await bench.keyboard.press('Enter');
  await expect(bench.getByRole('button', { name: /^Runa Tidewell, pilot: menu/ })).toBeVisible();
  await signOut(bench);
  // The front page knows the bench, too; a badge that is nobody's leads nowhere.
  await bench.getByLabel('Scan your badge').fill('CREW-0043');
  await bench.keyboard.press('Enter');
  await expect(bench.getByText('Nobody has this badge.')).toBeVisible();
  await signIn(bench, 'merle');
  await expect(isIn(bench)).toBeVisible();
  // By badge, from whichever page is open; what is neither a pack nor a badge is told as before.
  await bench.goto('/packs');
  await bench.getByRole('heading', { level: 1 }).waitFor();
  await scan(bench, 'CREW-0043');
  await expect(bench.getByText('CREW-0043').first()).toBeVisible();
  await scan(bench, 'crew-0042');
  await expect(bench.getByRole('button', { name: /^Runa Tidewell, pilot: menu/ })).toBeVisible();

  // Ended by the custodian: whoever is in there is out.
  const custodian = await (await browser.newContext({ baseURL: address })).newPage();
  await custodian.goto('/');
  await signIn(custodian, 'merle');
  await expect(isIn(custodian)).toBeVisible();
  await custodian.goto('/settings/people');
  await custodian.getByRole('button', { name: 'End it' }).click();
  await expect(bench.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  await expect(bench.getByText('who are you?')).toHaveCount(0);
  for (const page of [bench, phone, custodian]) await page.context().close();
});
