import type { BrowserContext } from '@playwright/test';
import { COPIES, largeRegister, serve } from './largeRegister';
import { say } from './measure';
import { openBrowser, shownAfter } from './shown';

/** A phone of the middle sort computes at about a quarter of this machine’s pace. */
const SLOWER = 4;
const SECONDS = (ms: number) => `${(ms / 1_000).toFixed(2)} s`;

/**
 * What a phone pays to have every pack of a large register with it, and how soon the first verdict stands there without a network: the
 * made-up register eighty-four times over.
 */
export async function benchOffline(url: string): Promise<void> {
  const server = await serve(await largeRegister(url));
  const browser = await openBrowser();
  try {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, baseURL: server.url });
    const packId = await keepAll(context);
    server.process.kill('SIGKILL');
    await coldStarts(context, packId);
  } finally {
    server.process.kill('SIGKILL');
    await browser.close();
  }
}

/** Signs in as a pilot and waits until everything is kept. Answers the pack that will be opened. */
async function keepAll(context: BrowserContext): Promise<string> {
  // The runner that strips the types leaves calls of this behind in what runs in the page.
  await context.addInitScript('globalThis.__name = (named) => named');
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('button', { name: /Sunniva Calder/ }).click();
  const start = performance.now();
  let kept = { packs: 0, bytes: 0, told: 0 };
  while (kept.packs < COPIES * 60 || kept.told === 0) {
    await page.waitForTimeout(2_000);
    kept = await page.evaluate(readKept);
  }
  say('  until all of it was kept', SECONDS(performance.now() - start));
  say(
    '  stored for each pack',
    `${(kept.bytes / kept.packs / 1_000).toFixed(2)} kB`,
    `${(kept.bytes / 1e6).toFixed(0)} MB in all`,
  );
  say('  lists, register, rounds and rules beside them', `${(kept.told / 1e6).toFixed(1)} MB as JSON`);
  const rows = (await (await page.request.get('/api/packs')).json()) as { id: string; verdict: string }[];
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true));
  // The last answers are written to the device some seconds after they came.
  await page.waitForTimeout(12_000);
  await page.close();
  return rows.find(({ verdict }) => verdict === 'watch')!.id;
}

/** Runs in the page: how many packs it keeps, in how many bytes, and how much was told beside them. */
export async function readKept() {
  const answered = <T>(request: IDBRequest<T>) =>
    new Promise<T>((done) => {
      request.onsuccess = () => done(request.result);
    });
  const there = (await indexedDB.databases()).map(({ name }) => name);
  if (!there.includes('malle.packs') || !there.includes('malle.told')) return { packs: 0, bytes: 0, told: 0 };
  const packs = await answered(indexedDB.open('malle.packs'));
  const index = (await answered(packs.transaction('index').objectStore('index').get('kept'))) as
    { kept: Map<string, unknown> } | undefined;
  const size = index?.kept.size ?? 0;
  let bytes = 0;
  if (size >= 5_040)
    for (const packed of (await answered(packs.transaction('packs').objectStore('packs').getAll())) as {
      readonly bytes: Uint8Array;
    }[])
      bytes += packed.bytes.byteLength;
  packs.close();
  const told = await answered(indexedDB.open('malle.told'));
  const parts: unknown[] =
    size >= 5_040 ? await answered(told.transaction('answers').objectStore('answers').getAll()) : [];
  told.close();
  return { packs: size, bytes, told: parts.length < 3 ? 0 : JSON.stringify(parts).length };
}

async function coldStarts(context: BrowserContext, packId: string): Promise<void> {
  const open = async (path: string, selector: string, rate: number) => {
    const times: number[] = [];
    for (let i = 0; i < 5; i++) {
      const page = await context.newPage();
      const devtools = await context.newCDPSession(page);
      await devtools.send('Emulation.setCPUThrottlingRate', { rate });
      times.push(await shownAfter(page, path, selector));
      await page.close();
    }
    const sorted = times.sort((a, b) => a - b);
    return [SECONDS(sorted[2]!), `least ${SECONDS(sorted[0]!)}`] as const;
  };
  for (const rate of [1, SLOWER]) {
    const pace = rate === 1 ? 'at this machine’s pace' : `${rate} times slower`;
    const verdict = await open(`/packs/${packId}`, '[aria-label="How it stands"]', rate);
    say(`  opened cold, ${pace}: a pack’s verdict`, ...verdict);
    say(
      `  opened cold, ${pace}: a pilot’s page`,
      ...(await open('/', '[aria-label="Free to take"] li', rate)),
    );
  }
}
