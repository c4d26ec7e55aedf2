import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import jsQR from 'jsqr';
import sharp from 'sharp';
import type TestAgent from 'supertest/lib/agent';
import { LABEL_SHEETS } from '../../contract';
import type { LabelSheet, PackDetails } from '../../contract';
import { addPack, addType, bytesOf, openTestApp, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let pilot: TestAgent;
let packs: PackDetails[];
const folder = mkdtempSync(join(tmpdir(), 'labels-'));

beforeAll(async () => {
  test = await openTestApp();
  const custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  const type = await addType(custodian);
  packs = [];
  for (let i = 1; i <= 5; i++) packs.push(await addPack(custodian, type.id, `LB-0${i}`));
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await test.close();
});

const DPI = 300;
const sheet = async (name: LabelSheet, ids: readonly string[], skip = 0) => {
  const { bytes, headers } = await bytesOf(
    pilot.get(`/api/labels.pdf?ids=${ids.join(',')}&sheet=${name}&skip=${skip}`),
  );
  expect(headers['content-type']).toBe('application/pdf');
  return bytes;
};

/** The pages as a printer would lay them on paper. */
function printed(pdf: Buffer): Buffer[] {
  const name = join(folder, 'sheet');
  writeFileSync(`${name}.pdf`, pdf);
  execFileSync('pdftoppm', ['-r', String(DPI), '-png', `${name}.pdf`, name]);
  const pages = readdirSync(folder)
    .filter((file) => file.endsWith('.png'))
    .sort();
  const pictures = pages.map((file) => readFileSync(join(folder, file)));
  for (const file of pages) rmSync(join(folder, file));
  return pictures;
}

/** What a scanner reads on one label of a page. */
async function scanned(page: Buffer, name: LabelSheet, place: number): Promise<string | null> {
  const { columns, rows } = LABEL_SHEETS[name];
  const { width, height } = await sharp(page).metadata();
  const [w, h] = [Math.floor(width / columns), Math.floor(height / rows)];
  // Sheets have margins, so a cell of the page is looked at with its surroundings.
  const left = Math.max(0, (place % columns) * w - 60);
  const top = Math.max(0, Math.floor(place / columns) * h - 120);
  const area = { left, top, width: Math.min(width - left, w + 60), height: Math.min(height - top, h + 140) };
  const { data, info } = await sharp(page)
    .extract(area)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data ?? null;
}

it.each(Object.keys(LABEL_SHEETS) as LabelSheet[])(
  'on %s, an independent reader finds the pack',
  async (name) => {
    const [page] = printed(await sheet(name, [packs[0]!.id]));
    const found = await scanned(page!, name, 0);
    expect(found).toMatch(/^http:\/\/[^/]+\/tag\/LB-01$/);
    await pilot.get(`/api/packs/by-tag/${decodeURIComponent(found!.split('/').at(-1)!)}`).expect(200);
  },
);

it('goes on where the sheet was used up, label by label and page by page', async () => {
  const ids = packs.map(({ id }) => id);
  const [first, second, ...more] = printed(await sheet('a4-14', ids, 12));
  expect(more).toEqual([]);
  expect(await scanned(first!, 'a4-14', 0)).toBeNull();
  expect(await scanned(first!, 'a4-14', 12)).toMatch(/LB-01$/);
  expect(await scanned(first!, 'a4-14', 13)).toMatch(/LB-02$/);
  expect(await scanned(second!, 'a4-14', 0)).toMatch(/LB-03$/);
});

it('a roll has one label a page', async () => {
  expect(
    printed(
      await sheet(
        'roll',
        packs.slice(0, 3).map(({ id }) => id),
      ),
    ),
  ).toHaveLength(3);
});

it('says the facts a hand needs', async () => {
  writeFileSync(join(folder, 'facts.pdf'), await sheet('a4-21', [packs[0]!.id]));
  const text = execFileSync('pdftotext', ['-layout', join(folder, 'facts.pdf'), '-']).toString();
  for (const fact of ['LB-01', 'LiPo 4S 3.3 Ah', '1C = 3.3 A', 'Store at 15.20 V', '(3.80 V a cell)'])
    expect(text).toContain(fact);
});

it('refuses what it cannot print', async () => {
  const { body } = await pilot.get(`/api/labels.pdf?ids=${packs[0]!.id}&sheet=poster`).expect(422);
  expect(reasons(body)).toEqual({ sheet: 'Choose a sheet.' });
  await pilot.get('/api/labels.pdf?sheet=roll').expect(422);
  await pilot.get('/api/labels.pdf?ids=LB-01&sheet=roll').expect(422);
  await test.anybody().get(`/api/labels.pdf?ids=${packs[0]!.id}&sheet=roll`).expect(401);
});
