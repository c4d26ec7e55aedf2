import type { Browser, Page } from '@playwright/test';
import { COPIES, largeRegister, serve } from './largeRegister';
import { median, ms, say } from './measure';
import { readKept } from './offline';
import { openBrowser, shownAfter, signedIn } from './shown';

/** As a phone of the middle sort on a weak line: four times slower than this machine, 1.6 Mbit/s down, 150 ms there and back. */
const SLOWER = 4;
const SLOW_LINE = { offline: false, latency: 150, downloadThroughput: 200_000, uploadThroughput: 93_750 };
const TIMES = 5;
/** Words that leave thousands of rows, some, and none. */
const TYPED = ['hx', 'cabinet', 'fit 3', 'zz'];
const BETWEEN_KEYS_MS = 220;
const SCROLLS = 60;

/**
 * What hands feel in a browser on a register of 5,040 packs: how long after a key into the filter of Packs the next frame is drawn, how long a
 * frame takes while the list is scrolled, and how soon Today can be used when a phone that never saw Malle opens it on a weak line.
 */
export async function benchKeys(url: string): Promise<void> {
  const server = await serve(await largeRegister(url));
  const browser = await openBrowser();
  try {
    await filterAndScroll(browser, server.url);
    await firstUse(browser, server.url);
  } finally {
    server.process.kill('SIGKILL');
    await browser.close();
  }
}

async function filterAndScroll(browser: Browser, url: string): Promise<void> {
  const page = await signedIn(browser, url, { width: 1280, height: 800 });
  await page.goto('/packs');
  await page.getByRole('row').nth(5).waitFor();
  await page.waitForTimeout(3_000);
  await page.evaluate(noteKeys);
  say('Key into the filter to the next frame, while all packs are being kept', ...told(await typeAll(page)));
  while ((await page.evaluate(readKept)).packs < COPIES * 60) await page.waitForTimeout(2_000);
  say('  afterwards (wanted 16 and 50 ms)', ...told(await typeAll(page)));
  await page.getByRole('row').nth(5).hover();
  await page.evaluate(noteFrames);
  for (let i = 0; i < SCROLLS; i++) {
    await page.mouse.wheel(0, 900);
    await page.waitForTimeout(30);
  }
  say('  from frame to frame while it is scrolled', ...told(await page.evaluate(() => window.noted!)));
  await page.context().close();
}

/** Types each of the words and takes it back; answers what each key took. */
async function typeAll(page: Page): Promise<readonly number[]> {
  const field = page.getByRole('searchbox', { name: 'Filter the packs' });
  await page.evaluate(() => (window.noted = []));
  for (const typed of TYPED) {
    await field.pressSequentially(typed, { delay: BETWEEN_KEYS_MS });
    for (let left = typed.length; left > 0; left--)
      await field.press('Backspace', { delay: BETWEEN_KEYS_MS });
  }
  return page.evaluate(() => window.noted!);
}

function told(times: readonly number[]): readonly string[] {
  return [`median ${ms(median([...times]))}`, `worst ${ms(Math.max(...times))}`, `of ${times.length}`];
}

declare global {
  interface Window {
    /** Milliseconds, as they are taken. */
    noted?: number[];
  }
}

/** Runs in the page: from a key as the browser took it in to the frame that shows what it did. */
function noteKeys(): void {
  window.addEventListener(
    'input',
    ({ timeStamp }) => {
      const drawn = new MessageChannel();
      drawn.port1.onmessage = () => window.noted?.push(performance.now() - timeStamp);
      requestAnimationFrame(() => drawn.port2.postMessage(null));
    },
    { capture: true },
  );
}

/** Runs in the page: from each frame to the next. */
function noteFrames(): void {
  const noted: number[] = [];
  window.noted = noted;
  let last = performance.now();
  const frame = () => {
    const now = performance.now();
    noted.push(now - last);
    last = now;
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
}

async function firstUse(browser: Browser, url: string): Promise<void> {
  const times: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const seen = await signedIn(browser, url, { width: 390, height: 844 });
    const cookies = await seen.context().cookies();
    await seen.context().close();
    // Signed in, and nothing of Malle is kept there yet.
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, baseURL: url });
    await context.addCookies(cookies);
    const page = await context.newPage();
    const devtools = await context.newCDPSession(page);
    await devtools.send('Network.enable');
    await devtools.send('Network.emulateNetworkConditions', SLOW_LINE);
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
    times.push(await shownAfter(page, '/', '[aria-label="Storage horizon"]'));
    await context.close();
  }
  say(
    'Today can be used, first time on a weak line',
    ms(median(times)),
    `least ${ms(Math.min(...times))} (wanted 2,500 ms)`,
  );
}
