// npm run screenshots: one picture of each main view into docs/screenshots, from the made-up register at a fixed clock.
import { spawn } from 'node:child_process';
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  ROOT,
  databaseUrl,
  ensureBuild,
  ensureChromium,
  ensureDependencies,
  freePort,
  program,
  runProgram,
  signingKey,
} from './prepare.mjs';

ensureDependencies();
await ensureBuild();
const executablePath = ensureChromium();
const env = {
  DATABASE_URL: await databaseUrl('malle_pictures', { fresh: true }),
  MALLE_CLOCK: '2026-03-02T18:40:00Z',
  MALLE_WEB_ROOT: 'dist/web',
  MALLE_SIGNING_KEY: signingKey(),
  MALLE_LOG: 'error',
  MALLE_PORT: '0',
};
runProgram('demo', env);
const server = spawn(process.execPath, [program('server')], {
  cwd: ROOT,
  env: { ...process.env, ...env },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const base = await new Promise((found) => {
  server.stdout.on('data', (data) => {
    const address = /http:\/\/\S+/.exec(String(data));
    if (address) found(address[0]);
  });
});

const standInsPort = await freePort(new URL(base).port * 1 + 1);
const standIns = spawn(process.execPath, [program('devices')], {
  cwd: ROOT,
  env: { ...process.env, ...env, MALLE_PORT: new URL(base).port, MALLE_STAND_INS_PORT: String(standInsPort) },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((found) => standIns.stdout.once('data', found));
/** Works the stand-in instruments as their page does. */
const atTheBench = (form) =>
  fetch(`http://127.0.0.1:${standInsPort}`, {
    method: 'POST',
    body: new URLSearchParams(form),
    redirect: 'manual',
  });

const { chromium } = await import('@playwright/test');
const browser = await chromium.launch({
  executablePath,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const folder = join(ROOT, 'docs', 'screenshots');
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });

/** At the pace of the stand-ins a charge is past its middle by then. */
const CHARGED_FOR_MS = 14_000;
const PACE = '120';

/** The stand-in of the bench charger does what the running job's card says. */
async function chargeAtTheBench(page) {
  const { jobs, packs } = await (await page.request.get(`${base}/api/charging`)).json();
  const job = jobs.find(({ state }) => state === 'running');
  const { chemistry, mode, cells, topMv, amps } = job.setting;
  const at = { charger: '0', channel: job.channel };
  await atTheBench({ ...at, do: 'plug', tag: packs.find(({ id }) => id === job.packIds[0]).tag });
  const setting = {
    chemistry,
    mode,
    cells: String(cells),
    top: String((topMv ?? 0) / 1000),
    amps: String(amps),
  };
  await atTheBench({ ...at, ...setting, do: 'set', fault: 'none' });
  await atTheBench({ do: 'speed', speed: PACE });
  await atTheBench({ ...at, do: 'start' });
}

const BENCH = { viewport: { width: 1280, height: 800 } };
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true };
const cells = (page) => page.getByRole('textbox', { name: /Cells in order/ });

await picture('today', BENCH, 'light', 'Ineke Varrow', async () => undefined);
await picture('packs', BENCH, 'light', 'Ineke Varrow', (page) => page.goto(`${base}/packs?sort=-verdict`));
await picture('pack', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await open(page, 'HX-06');
  await cells(page).fill('381 380 381 380 381 379');
});
await picture(
  'pack-trends',
  { viewport: { width: 1280, height: 1500 } },
  'light',
  'Ineke Varrow',
  async (page) => {
    await open(page, 'HX-11');
    const health = page.getByRole('region', { name: 'Health and trends' });
    await health.getByRole('figure').first().waitFor();
    await health.evaluate((section) => section.scrollIntoView());
    await page.evaluate(() => globalThis.scrollBy(0, -100));
  },
);
await picture('house-rules-preview', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/rules`);
  await page.getByRole('button', { name: 'Change the rules' }).click();
  await choose(page, 'Start from', 'Long life');
  await page.getByText('judged anew in').waitFor();
});
await picture('calculators', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/bench`);
  await page.getByRole('textbox', { name: 'Fill in from the pack' }).fill('HX-06');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Channel, W' }).fill('300');
  await page.getByRole('textbox', { name: 'Load, A' }).fill('5');
  await page.getByRole('textbox', { name: 'Load at most, W' }).fill('20');
  await page.getByRole('textbox', { name: 'Hover to rest, mV' }).fill('160');
  // The last field lies below the fold; the picture begins with the pack it is all about.
  await page.evaluate(() => globalThis.scrollTo(0, 0));
});
await picture('round', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await begin(page, 'Put-away after flying');
  await rowField(page).fill('349 350 349 350');
  await page.keyboard.press('Enter');
  await page.getByText('1 of ').waitFor();
  await rowField(page).fill('346 347 345 346');
  for (let i = 0; i < 2; i++) await page.keyboard.press('m', { delay: 80 });
});
await picture('charging-plan', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/charging/plan`);
  await page.getByText(/best possible|No plan can|more could be served/).waitFor({ timeout: 60_000 });
  await page
    .getByRole('button', { name: /^Charge full: HX/ })
    .first()
    .click();
});
await picture('dial-card', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/charging/plan`);
  await page.getByText(/best possible|No plan can|more could be served/).waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Keep this plan' }).click();
  await page.getByText('jobs to come').waitFor();
  await page.goto(`${base}/charging/bench`);
  await channel(page, 'Bench charger 2')
    .getByRole('link', { name: /Its card|Start it/ })
    .click();
  await page.getByRole('button', { name: 'Start it' }).waitFor();
});
await picture('bench', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/charging/bench`);
  await channel(page, 'Bench charger 1')
    .getByRole('link', { name: /Its card|Start it/ })
    .click();
  await page.getByRole('button', { name: 'Start it' }).waitFor();
  const chemistry = (await page.getByRole('definition').first().textContent()).trim();
  const count = await page.getByText(/^\dS$/).first().textContent();
  await choose(page, 'Chemistry on the display now', chemistry);
  await page.getByRole('textbox', { name: 'Cells it detects' }).fill(count.replace('S', ''));
  const open = page.getByRole('main').getByRole('checkbox', { checked: false });
  for (let left = await open.count(); left > 0; left--) await open.first().check();
  await page.getByRole('button', { name: 'Start it' }).click();
  await channel(page, 'Bench charger 1').getByText('Watched by').waitFor();
  await chargeAtTheBench(page);
  await page.waitForTimeout(CHARGED_FOR_MS);
  await atTheBench({ do: 'speed', speed: '1' });
});
await picture(
  'memory',
  { viewport: { width: 1280, height: 1000 } },
  'light',
  'Ineke Varrow',
  async (page) => {
    await atTheBench({ do: 'remember', tag: 'IQ-06' });
    await open(page, 'IQ-06');
    const entry = page.getByRole('region', { name: 'Write a record' });
    await entry.getByRole('tab', { name: /^Memory/ }).click();
    await entry.getByText(/Enter saves/).waitFor();
    await entry.getByRole('radio', { name: 'Set' }).click();
    await entry.getByRole('button', { name: 'Fill in by the house rules' }).click();
    await entry.evaluate((section) => section.scrollIntoView());
    await page.evaluate(() => globalThis.scrollBy(0, -420));
  },
);
await picture('fleet', { viewport: { width: 1280, height: 1000 } }, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/fleet/buy`);
  await page.getByRole('region', { name: 'In short' }).waitFor({ timeout: 60_000 });
});
await picture('out', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/flying/out`);
  await page.getByRole('region', { name: 'Field packs' }).waitFor();
});
await picture('stowage', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/packs/stowage`);
  await page.getByRole('button', { name: /^IQ-10,/ }).click();
});
await picture('consignment', BENCH, 'dark', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/end-of-life/consignments`);
  await page.getByRole('button', { name: 'Begin a consignment' }).click();
  await page.getByRole('button', { name: /^Put all/ }).click();
  await page.getByRole('region', { name: 'Discharged, contacts covered' }).getByText('HX-12').waitFor();
});
await picture('incident-card-phone', PHONE, 'light', 'Jory Penhallick', async (page) => {
  await page.getByRole('link', { name: 'Report an incident' }).click();
  await page.getByRole('link', { name: 'Crash or drop' }).click();
});
await picture('fit', BENCH, 'light', 'Ineke Varrow', async (page) => {
  await page.goto(`${base}/flying/fit`);
  await page.getByRole('button', { name: /^Survey wing .* on Old survey wing: no/ }).click();
});
await picture('mine-phone', PHONE, 'light', 'Odile Saltmarsh', (page) =>
  page.getByRole('region', { name: 'Next flying days' }).waitFor(),
);
await picture('take-out-phone', PHONE, 'light', 'Jory Penhallick', async (page) => {
  await page.goto(`${base}/flying/take-out`);
  await choose(page, 'For which craft', 'Inspection quad');
  await page.getByRole('textbox', { name: 'Outside, °C' }).fill('6');
  for (const tag of ['IQ-03', 'IQ-07', 'HX-03']) {
    await page.getByRole('textbox', { name: /^Scan or type a tag/ }).fill(tag);
    await page.keyboard.press('Enter');
    await page.getByRole('listitem', { name: tag }).waitFor();
  }
  await page.evaluate(() => globalThis.scrollTo(0, 330));
});
await browser.close();
standIns.kill();
server.kill();

async function picture(name, device, colorScheme, person, show) {
  const context = await browser.newContext({
    ...device,
    colorScheme,
    timezoneId: 'Europe/Amsterdam',
    locale: 'en-GB',
  });
  const page = await context.newPage();
  await page.goto(base);
  if (person) {
    await page.getByRole('button', { name: person }).click();
    await page.getByRole('heading', { level: 1, name: new RegExp(`^(Today|${person})`) }).waitFor();
  }
  await show(page);
  // Runs in the page, not here.
  await page.waitForFunction(() => !globalThis.document.body.textContent.includes('Fetching'));
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await context.close();
}

async function open(page, tag) {
  await page.getByRole('combobox', { name: /Scan or type/ }).fill(tag);
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { level: 1, name: tag }).waitFor();
}

function channel(page, name) {
  return page.getByRole('listitem').filter({ has: page.getByRole('heading', { name, exact: true }) });
}

async function choose(page, field, answer) {
  await page.getByRole('combobox', { name: field }).click();
  await page.getByRole('option', { name: answer }).click();
}

async function begin(page, kind) {
  await page.goto(`${base}/rounds`);
  await choose(page, 'For', kind);
  await page.getByRole('button', { name: /^Begin with/ }).click();
  await rowField(page).waitFor();
}

function rowField(page) {
  return page.getByRole('textbox', { name: /^[A-Z]{2}-\d\d$/ });
}
