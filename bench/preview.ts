import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { resolve } from 'node:path';
import type { Page } from '@playwright/test';
import { Client } from 'pg';
import { openApp } from '../src/server/app';
import { rebuildPack } from '../src/server/ledger';
import { logAt } from '../src/server/platform/log';
import { PASSWORD, testConfig } from '../src/server/testing/testApp';
import { ms, say } from './measure';
import type { BenchRegister } from './register';
import { openBrowser } from './shown';

const RECORDS = 500;
const REBUILT = 60;

/** A change of house rules tried on the whole register in a browser's worker, and the server judging it anew. */
export async function benchPreview(url: string, register: BenchRegister): Promise<void> {
  await fillUp(url);
  const app = await openApp(
    testConfig(url, { fixedNow: null, webRoot: resolve('dist/web') }),
    logAt('silent'),
  );
  const began = performance.now();
  for (const id of register.packs.slice(0, REBUILT)) await rebuildPack(app.database.entities(), id);
  const seconds = (performance.now() - began) / 1000;
  say(
    'Server judging anew (wanted 500 packs/s, 150 after a change of rest)',
    `${Math.round((REBUILT * RECORDS) / seconds)} records/s`,
    `${(REBUILT / seconds).toFixed(0)} packs/s`,
  );

  const server = createServer(app.express).listen(0, '127.0.0.1');
  await new Promise((listening) => server.once('listening', listening));
  const browser = await openBrowser();
  const page = await browser.newPage();
  page.setDefaultTimeout(900_000);
  await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
  await page.getByRole('textbox', { name: 'Sign-in name' }).fill('bench');
  await page.getByRole('textbox', { name: 'Password' }).fill(PASSWORD);
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'House rules' }).first().click();
  await page.getByRole('button', { name: 'Change the rules' }).click();
  await page.getByRole('textbox', { name: 'Spread in tolerance' }).fill('10');
  const preview = page.getByRole('region', { name: 'Preview' });
  await preview.getByRole('button', { name: 'Cancel' }).waitFor();
  const typed = await slowestKey(page);
  await preview.getByText('judged twice in').waitFor();
  const text = await preview.innerText();
  const [, records, took] = /([\d]+) records, judged twice in ([\d.]+) s/.exec(text) ?? [];
  say(
    'Browser worker, preview of a rule change (wanted 15 s)',
    `${Math.round(Number(records) / Number(took))} records/s`,
    `${records} records fetched, folded and judged twice in ${took} s`,
  );
  say('Slowest key into a reason while it ran', ms(typed.slowest), `of ${typed.keys} keys`);
  await browser.close();
  server.closeAllConnections();
  server.close();
  await app.close();
}

/** Types into the reason, whose text changes no rule, and takes the longest a key waited for the next frame. */
async function slowestKey(page: Page): Promise<{ slowest: number; keys: number }> {
  const text = 'closer looks after a season of salt and sand';
  const field = page.getByRole('textbox', { name: 'Why the house changes its rules' });
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

/** Brings every pack to so many records, straight in SQL: what is measured reads them, it does not verify their chain. */
async function fillUp(url: string): Promise<void> {
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query(
    `insert into record (pack_id, seq, id, kind, at, recorded_at, by, payload, supersedes, rules_version, prev_hash, hash)
     select s.pack_id, s.seq + i, gen_random_uuid(), 'reading', now() - interval '1 hour' * (i * 17 + 100),
            now(), r.by, r.payload, null, 1, 'bench', 'bench'
       from pack_state s
       join record r on r.pack_id = s.pack_id and r.kind = 'reading' and r.seq = s.seq
       cross join lateral generate_series(1, $1 - s.seq) as i
      where s.seq < $1`,
    [RECORDS],
  );
  await client.query('update pack_state set seq = $1 where seq < $1', [RECORDS]);
  await client.query('analyze');
  await client.end();
}
