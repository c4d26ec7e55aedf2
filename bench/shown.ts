import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';

/** The browser that figures are taken in, with nothing of its own to do on the network. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-background-networking'],
  });
}

/** A page of the made-up register's custodian, at Today. */
export async function signedIn(
  browser: Browser,
  baseURL: string,
  viewport: { width: number; height: number },
): Promise<Page> {
  const context = await browser.newContext({ viewport, baseURL });
  // The runner that strips the types leaves calls of this behind in what runs in the page.
  await context.addInitScript('globalThis.__name = (named) => named');
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('button', { name: /Ineke Varrow/ }).click();
  await page.getByRole('heading', { level: 1, name: 'Today' }).waitFor();
  return page;
}

/**
 * From the address to what is asked for standing on the page, in milliseconds. Measured in the page itself: the runner’s own looking is not
 * the device’s work.
 */
export async function shownAfter(page: Page, path: string, selector: string): Promise<number> {
  await page.addInitScript(noteWhenShown, selector);
  await page.goto(path, { waitUntil: 'commit' });
  for (;;) {
    await page.waitForTimeout(500);
    const at = await page.evaluate(() => (window as unknown as { shownAt?: number }).shownAt);
    if (at !== undefined) return at;
  }
}

/** Runs in the page, before anything else. */
function noteWhenShown(selector: string): void {
  const seen = new MutationObserver(() => {
    if (!document.querySelector(selector)?.textContent) return;
    seen.disconnect();
    Object.assign(window, { shownAt: performance.now() });
  });
  seen.observe(document, { childList: true, subtree: true });
}
