import { test as base, expect } from '@playwright/test';
import type { Browser, Locator, Page } from '@playwright/test';
import { openRegister } from './registers';
import { FASTEST_HAND_MS } from '../src/web/app/wedge';
import type { PackRow } from '../src/contract';
import type { Register } from './registers';

/** The register of the test file that runs in this worker; a file that comes later gets its own. */
class OfItsFile {
  #file: string | null = null;
  #register: Register | null = null;

  async of(file: string): Promise<Register> {
    if (this.#register && this.#file === file) return this.#register;
    await this.close();
    this.#file = file;
    this.#register = await openRegister();
    return this.#register;
  }

  async close(): Promise<void> {
    await this.#register?.close();
    this.#register = null;
  }
}

/** Tests in a browser, on a register of the test file's own. */
export const test = base.extend<
  { custodian: Page; problems: string[]; register: Register },
  { ofItsFile: OfItsFile }
>({
  ofItsFile: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures needed from this pattern
    async ({}, use) => {
      const registers = new OfItsFile();
      await use(registers);
      await registers.close();
    },
    { scope: 'worker' },
  ],
  register: async ({ ofItsFile }, use, { file }) => {
    await use(await ofItsFile.of(file));
  },
  custodian: async ({ browser, register }, use) => {
    const page = await signedIn(browser, register, 'Ineke Varrow');
    await use(page);
    await page.context().close();
  },
});

export { expect };

export interface Device {
  readonly phone?: boolean;
  readonly theme?: 'light' | 'dark';
  /** Keeps the application, and so opens it without a network. */
  readonly keeps?: boolean;
}

/** A browser of somebody's own, with this person signed in and their first page on screen: Today, or a pilot's packs. */
export async function signedIn(
  browser: Browser,
  register: Register,
  name: string,
  { phone = false, theme = 'light', keeps = false }: Device = {},
): Promise<Page> {
  const context = await browser.newContext({
    baseURL: register.url,
    colorScheme: theme,
    serviceWorkers: keeps ? 'allow' : 'block',
    ...(phone ? { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true } : {}),
  });
  const page = await context.newPage();
  await page.goto(register.url);
  await page.getByRole('button', { name }).click();
  await expect(page.getByRole('heading', { level: 1, name: new RegExp(`^(Today|${name})`) })).toBeVisible();
  return page;
}

/** Types as a hand does, which rests before the next key: text with an Enter close behind is heard as a scanner's. */
export async function type(page: Page, text: string): Promise<void> {
  await page.keyboard.type(text);
  await page.waitForTimeout(FASTEST_HAND_MS + 20);
}

/** Opens a pack the way a hand does: out of whatever field it is in, `/`, its tag, Enter. */
export async function openPack(page: Page, tag: string): Promise<void> {
  await page.keyboard.press('Escape');
  await page.keyboard.press('/');
  await type(page, tag);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: tag, exact: true })).toBeVisible();
}

/**
 * A wedge scanner: keys five milliseconds apart, then Enter. The times are given with the keys, as the hardware would,
 * because on a busy machine the test itself cannot type that evenly.
 * @param midway what happens elsewhere after the second key
 */
export async function scan(
  page: Page,
  tag: string,
  { midway }: { midway?: () => Promise<void> } = {},
): Promise<void> {
  const keyboard = await page.context().newCDPSession(page);
  const start = Date.now() / 1000 + 0.2;
  const keys = [...tag.split('').map((key) => ({ key, text: key })), { key: 'Enter', text: '\r' }];
  for (const [i, { key, text }] of keys.entries()) {
    if (midway && i === 2) await midway();
    const timestamp = start + i * 0.005;
    await keyboard.send('Input.dispatchKeyEvent', { type: 'keyDown', key, text, timestamp });
    await keyboard.send('Input.dispatchKeyEvent', { type: 'keyUp', key, timestamp: timestamp + 0.002 });
  }
  await keyboard.detach();
}

/** Until this device has every pack of the register in full. */
export async function allPacksKept(page: Page): Promise<void> {
  const menu = page.getByRole('button', { name: /: menu$/ });
  await expect(async () => {
    await page.keyboard.press('Escape');
    await menu.click();
    await expect(page.getByText(/^All \d+ packs are kept on this device/)).toBeVisible({ timeout: 1_000 });
  }).toPass({ timeout: 60_000 });
  await page.keyboard.press('Escape');
  // The application itself is kept by another hand.
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    while (!(await (await caches.open('page')).match('/')))
      await new Promise((again) => setTimeout(again, 200));
  });
}

/** Chooses an answer of a list field, by its words. */
export async function choose(field: Locator, answer: string | RegExp): Promise<void> {
  await field.click();
  await field.page().getByRole('listbox').getByRole('option', { name: answer, exact: true }).click();
}

/** All packs as the register lists them. */
export const rowsOf = async (page: Page) =>
  (await (await page.request.get('/api/packs')).json()) as PackRow[];

/** A pack's line in one of the lists that are made by scanning. */
export const line = (page: Page, list: string, tag: string): Locator =>
  page.getByRole('list', { name: list }).getByRole('listitem', { name: tag, exact: true });

/** Types a tag where packs are scanned one after the other. */
export async function scanInto(page: Page, tag: string): Promise<void> {
  const field = page.getByRole('textbox', { name: /^Scan or type a tag/ });
  await field.fill(tag);
  await field.press('Enter');
}

/** Where the page says that something was done. */
export const notice = (page: Page) => page.getByRole('region', { name: /^What was done/ });
export const preview = (page: Page) => page.getByRole('status', { name: 'Verdict before save' });
export const standing = (page: Page) => page.getByRole('region', { name: 'How it stands' });
export const timeline = (page: Page) => page.getByRole('region', { name: 'Timeline' });
export const cells = (page: Page) => page.getByRole('textbox', { name: /Cells in order|The pack’s volts/ });
export const horizonRow = (page: Page, tag: string) =>
  page.getByRole('region', { name: 'Storage horizon' }).getByRole('listitem').filter({ hasText: tag });
