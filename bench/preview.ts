import { inflateRawSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import type { HistoriesAnswer } from '../src/contract';
import { SignedInAsker } from './asker';
import { largeRegister, serve } from './largeRegister';
import { ms, say } from './measure';
import { openBrowser, signedIn } from './shown';

/** A change of house rules tried on a register of 5,040 packs in a browser's worker, beside fetching its ledgers and reading them as JSON alone. */
export async function benchPreview(url: string): Promise<void> {
  const server = await serve(await largeRegister(url));
  const browser = await openBrowser();
  try {
    const asker = await SignedInAsker.at(server.url);
    const rows = (await asker.json('/packs')) as readonly { readonly id: string }[];
    const fetched = await secondsToFetch(asker);
    const page = await signedIn(browser, server.url, { width: 1280, height: 800 });
    page.setDefaultTimeout(900_000);
    await page.goto('/rules');
    await page.getByRole('button', { name: 'Change the rules' }).click();
    await page.getByRole('textbox', { name: 'Spread in tolerance' }).fill('10');
    const preview = page.getByRole('region', { name: 'Preview' });
    await preview.getByRole('button', { name: 'Cancel' }).waitFor();
    const typed = await slowestKey(page);
    await preview.getByText('judged anew in').waitFor();
    const text = await preview.innerText();
    const [, records, took] = /([\d]+) records, judged anew in ([\d.]+) s/.exec(text) ?? [];
    say(
      `Preview of a change of rules, ${rows.length} packs (wanted 15 s)`,
      `${took} s for ${records} records`,
      `fetching and reading them alone ${fetched.toFixed(1)} s`,
    );
    say('  slowest key into a reason meanwhile (wanted 50 ms)', ms(typed.slowest), `of ${typed.keys} keys`);
  } finally {
    server.process.kill('SIGKILL');
    await browser.close();
  }
}

/** How long it takes to fetch every ledger and read its JSON, one page after the other. */
async function secondsToFetch(asker: SignedInAsker): Promise<number> {
  const began = performance.now();
  let after: string | null = null;
  do {
    const page = (await asker.json(
      `/histories?packed=yes${after === null ? '' : `&after=${after}`}`,
    )) as HistoriesAnswer;
    for (const { packed } of page.packs)
      if (packed !== null) JSON.parse(inflateRawSync(Buffer.from(packed, 'base64')).toString());
    after = page.next;
  } while (after !== null);
  return (performance.now() - began) / 1_000;
}

/** Types into the reason, whose text changes no rule, and takes the longest a key waited for the next frame. */
async function slowestKey(page: Page): Promise<{ slowest: number; keys: number }> {
  const text = 'closer looks after a season of salt and sand';
  const field = page.getByRole('textbox', { name: 'Why the rules change' });
  await field.focus();
  await field.evaluate((element) => {
    const waits: number[] = [];
    element.addEventListener('input', () => {
      const at = performance.now();
      requestAnimationFrame(() => waits.push(performance.now() - at));
    });
    (window as unknown as { waits: number[] }).waits = waits;
  });
  await page.keyboard.type(text, { delay: 60 });
  const waits = await page.evaluate(() => (window as unknown as { waits: number[] }).waits);
  return { slowest: Math.max(...waits), keys: waits.length };
}
