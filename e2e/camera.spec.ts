import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';
import sharp from 'sharp';
import type { PackRow } from '../src/contract';
import { expect, signedIn, test } from './malle';
import type { Register } from './registers';

/** The phone's camera reads the labels Malle prints: Chromium plays a real sheet of them as its camera's picture. */

const [WIDTH, HEIGHT] = [1280, 720];

async function browserThatSees(file: string | null): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      ...(file === null
        ? []
        : [
            '--use-fake-ui-for-media-stream',
            '--use-fake-device-for-media-stream',
            `--use-file-for-fake-video-capture=${file}`,
          ]),
    ],
  });
}

/** A printed sheet of these packs' labels as a film of one picture. */
async function filmOf(page: Page, packs: readonly PackRow[]): Promise<string> {
  const ids = packs.map(({ id }) => id).join(',');
  const sheet = await page.request.get(`/api/labels.pdf?ids=${ids}&sheet=a4-21&skip=0`);
  expect(sheet.ok()).toBe(true);
  const folder = mkdtempSync(join(tmpdir(), 'malle-labels-'));
  writeFileSync(join(folder, 'labels.pdf'), await sheet.body());
  execFileSync('pdftoppm', ['-r', '220', '-png', join(folder, 'labels.pdf'), join(folder, 'page')]);
  const printed = readFileSync(
    join(
      folder,
      readdirSync(folder).find((name) => name.endsWith('.png'))!,
    ),
  );
  const trimmed = await sharp(printed).trim().toBuffer();
  const grey = await sharp(trimmed)
    .resize(WIDTH - 120, HEIGHT - 120, { fit: 'contain', background: 'white' })
    .extend({ top: 60, bottom: 60, left: 60, right: 60, background: 'white' })
    .greyscale()
    .raw()
    .toBuffer();
  const colourless = Buffer.alloc((WIDTH / 2) * (HEIGHT / 2) * 2, 128);
  const frame = Buffer.concat([Buffer.from('FRAME\n'), grey, colourless]);
  const head = Buffer.from(`YUV4MPEG2 W${WIDTH} H${HEIGHT} F10:1 Ip A1:1 C420jpeg\n`);
  const file = join(folder, 'labels.y4m');
  writeFileSync(file, Buffer.concat([head, ...Array.from({ length: 10 }, () => frame)]));
  return file;
}

async function threePacks(page: Page): Promise<readonly PackRow[]> {
  const rows = (await (await page.request.get('/api/packs')).json()) as PackRow[];
  return ['IQ-03', 'IQ-04', 'HX-03'].map((tag) => rows.find((row) => row.tag === tag)!);
}

async function withCamera(
  browser: Browser,
  register: Register,
  camera: (packs: Page) => Promise<string | null>,
  use: (page: Page) => Promise<void>,
): Promise<void> {
  const first = await signedIn(browser, register, 'Jory Penhallick');
  const sees = await browserThatSees(await camera(first));
  await first.context().close();
  const page = await signedIn(sees, register, 'Jory Penhallick', { phone: true });
  await use(page);
  await sees.close();
}

test('several labels of a real sheet are read in a row, each with its tick, and stand in the list to take out', async ({
  browser,
  register,
}) => {
  const asked: string[] = [];
  await withCamera(
    browser,
    register,
    async (page) => filmOf(page, await threePacks(page)),
    async (page) => {
      page.on('request', (request) => asked.push(request.url()));
      await page.goto('/flying/take-out');
      await page.getByRole('button', { name: 'Camera' }).tap();
      const ticks = page.getByRole('list', { name: 'Scanned' });
      for (const tag of ['IQ-03', 'IQ-04', 'HX-03']) await expect(ticks).toContainText(tag);
      await page.getByRole('button', { name: 'Done' }).tap();
      for (const tag of ['IQ-03', 'IQ-04', 'HX-03'])
        await expect(page.getByRole('listitem', { name: tag, exact: true })).toBeVisible();
    },
  );
  // What reads the codes ships with the application.
  expect(asked.filter((url) => !url.startsWith(register.url) && !url.startsWith('blob:'))).toEqual([]);
});

test('one scan on a pilot’s first page opens the pack', async ({ browser, register }) => {
  await withCamera(
    browser,
    register,
    async (page) => filmOf(page, (await threePacks(page)).slice(2)),
    async (page) => {
      await page.getByRole('button', { name: 'Camera' }).tap();
      await expect(page.getByRole('heading', { level: 1, name: 'HX-03' })).toBeVisible();
    },
  );
});

test('without a camera, or without leave to use it, typing is left and the page says so', async ({
  browser,
  register,
}) => {
  await withCamera(
    browser,
    register,
    () => Promise.resolve(null),
    async (page) => {
      await page.goto('/flying/return');
      await page.getByRole('button', { name: 'Camera' }).tap();
      await expect(page.getByRole('alert')).toContainText(/Type the tag|type the tag/);
      await page.getByRole('button', { name: 'Close' }).last().tap();
      await expect(page.getByRole('textbox', { name: /^Scan or type a tag/ })).toBeVisible();
    },
  );
});
