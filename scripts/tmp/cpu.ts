import * as fs from 'node:fs';
import { chromium } from '@playwright/test';
import { execSync } from 'node:child_process';
import { openRegister, layTemplate } from '../../e2e/registers';
const cpu = () => {
  const out = execSync("ps -eo args,cputimes --no-headers | grep -E 'chromium|dist/server|postgres' | grep -v grep", { shell: '/bin/bash' }).toString();
  void out;
  let c = 0, s = 0, p = 0;
  for (const pid of execSync('ls /proc | grep -E "^[0-9]+$"').toString().trim().split('\n')) {
    try {

      const cmd = fs.readFileSync(`/proc/${pid}/cmdline`, 'utf8');
      const f = fs.readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
      const t = (Number(f[11]) + Number(f[12])) / 100;
      if (cmd.includes('chromium')) c += t; else if (cmd.includes('dist/server/server')) s += t; else if (cmd.startsWith('postgres')) p += t;
    } catch {}
  }
  return { c, s, p };
};
(async () => {
  const r = await openRegister();
  const browser = await chromium.launch({ executablePath: process.env.CHROMIUM, args: ['--no-sandbox', '--disable-gpu'] });
  for (const block of [false, true, false, true]) {
    const ctx = await browser.newContext({ baseURL: r.url, serviceWorkers: 'block' });
    const page = await ctx.newPage();
    if (block) await page.route('**/api/histories*', (x) => x.abort());
    const b = cpu(); const t0 = Date.now();
    await page.goto(r.url);
    await page.getByRole('button', { name: 'Ineke Varrow' }).click();
    await page.getByRole('heading', { level: 1, name: /^Today/ }).waitFor();
    const m = cpu(); const t1 = Date.now();
    await page.waitForTimeout(12000);
    const e = cpu();
    console.log(block ? 'blocked' : 'whole', 'opening', t1 - t0, 'ms', JSON.stringify({ c: m.c - b.c, s: m.s - b.s, p: m.p - b.p }), 'after', JSON.stringify({ c: e.c - m.c, s: e.s - m.s, p: e.p - m.p }));
    await ctx.close();
  }
  await browser.close();
  await r.close();
})();
