import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';
import { largeRegister, serve } from './largeRegister';
import { median, ms, say } from './measure';
import { shownAfter } from './shown';

/** As a phone of the middle sort on a weak line: four times slower than this machine, 1.6 Mbit/s down, 150 ms there and back. */
const SLOWER = 4;
const SLOW_LINE = { offline: false, latency: 150, downloadThroughput: 200_000, uploadThroughput: 93_750 };
const TIMES = 5;
/** Words that leave thousands of rows, some, and none. */
const TYPED = ['hx', 'cabinet', 'fit 3', 'zz'];

/**
 * What hands feel in a browser on a register of 5,040 packs: how long after a key into the filter of Packs the next frame is drawn, how long a
 * frame takes while the list is scrolled, and how soon Today can be used when a phone that never saw Malle opens it on a weak line.
 */
export async function benchKeys(url: string): Promise<void> {
  const server = await serve(await largeRegister(url));
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  try {
    await filterAndScroll(browser, server.url);
    await firstUse(browser, server.url);
  } finally {
    server.process.kill('SIGKILL');
    await browser.close();
  }
}

async function signedIn(
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

async function filterAndScroll(browser: Browser, url: string): Promise<void> {
  const page = await signedIn(browser, url, { width: 1280, height: 800 });
  await page.goto('/packs');
  const field = page.getByRole('searchbox', { name: 'Filter the packs' });
  await page.getByRole('row').nth(5).waitFor();
  await page.waitForTimeout(3_000);
  await page.evaluate(noteFrames);
  for (const typed of TYPED) {
    await field.pressSequentially(typed, { delay: 220 });
    for (const _ of typed) await field.press('Backspace', { delay: 220 });
  }
  const keys = await page.evaluate(() => (window as unknown as { keyFrames: number[] }).keyFrames);
  say(
    `Key into the filter → next frame, 5,040 packs`,
    `median ${ms(median(keys))}`,
    `worst ${ms(Math.max(...keys))}`,
    `${keys.length} keys (wanted 16 and 50)`,
  );
  const box = page.getByRole('row').nth(5);
  await box.hover();
  const gaps = await page.evaluate(() => {
    const noted: number[] = [];
    (window as unknown as { gaps: number[] }).gaps = noted;
    let last = performance.now();
    const frame = () => {
      const now = performance.now();
      noted.push(now - last);
      last = now;
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
    return noted.length;
  });
  for (let i = gaps; i < 60; i++) {
    await page.mouse.wheel(0, 900);
    await page.waitForTimeout(30);
  }
  const frames = await page.evaluate(() => (window as unknown as { gaps: number[] }).gaps);
  const sorted = [...frames].sort((a, b) => a - b);
  say(
    '  frame to frame while it is scrolled',
    `median ${ms(median(frames))}`,
    `95 of 100 within ${ms(sorted[Math.floor(sorted.length * 0.95)]!)}`,
  );
  await page.context().close();
}

/** Runs in the page: from a key as the browser took it in to the frame that shows what it did. */
function noteFrames(): void {
  const noted: number[] = [];
  Object.assign(window, { keyFrames: noted });
  window.addEventListener(
    'input',
    ({ timeStamp }) => {
      const drawn = new MessageChannel();
      drawn.port1.onmessage = () => noted.push(performance.now() - timeStamp);
      requestAnimationFrame(() => drawn.port2.postMessage(null));
    },
    { capture: true },
  );
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
