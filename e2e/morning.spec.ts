import type { Locator, Page } from '@playwright/test';
import type { IncidentRow, PackDetails, PackRow } from '../src/contract';
import { allPacksKept, choose, expect, line, rowsOf, scanInto, signedIn, standing, test } from './malle';

/** A whole morning at the field, two phones and no network: what was written there lands once, in order, and what conflicts is told to both. */

async function takeOut(page: Page, ...tags: readonly string[]): Promise<void> {
  await page.goto('/flying/take-out');
  for (const tag of tags) {
    await scanInto(page, tag);
    const taken = line(page, 'Packs to take out', tag);
    await expect(taken).toBeVisible();
    const short = taken.getByRole('checkbox');
    if ((await short.count()) > 0) await short.tap();
  }
  await page.getByRole('button', { name: `Take out ${tags.length} pack` }).tap();
  for (const tag of tags) await expect(line(page, 'Packs to take out', tag)).toHaveCount(0);
}

/** Opens the row of a pack that comes back, if another one is open. */
async function openBack(page: Page, tag: string): Promise<Locator> {
  const at = line(page, 'Packs that come back', tag);
  await expect(at).toBeVisible();
  const closed = at.getByRole('button', { name: tag, exact: true });
  if ((await closed.count()) > 0) await closed.tap();
  await expect(at.getByRole('button', { name: 'Unplugged, it is back' })).toBeVisible();
  return at;
}

test('eight packs, two pilots, one scanned by both, a crash, a low landing, a hand-over', async ({
  browser,
  register,
}) => {
  const bram = await signedIn(browser, register, 'Bram Oosterfen', { phone: true, keeps: true });
  const mirre = await signedIn(browser, register, 'Mirre Halloway', { phone: true, keeps: true });
  const free = (await rowsOf(bram)).filter(
    ({ mayFly, holderId, verdict, fieldPack, cellsMv }) =>
      mayFly === 'yes' && holderId === null && verdict === 'fit' && !fieldPack && cellsMv !== null,
  );
  const packs = ['HX', 'FW', 'IQ'].flatMap((series) =>
    free.filter(({ tag }) => tag.startsWith(series)).slice(0, 3),
  );
  expect(packs.length).toBeGreaterThanOrEqual(8);
  const [flown, low, crashed, given, both, unused, hers, kept] = packs as [
    ...[PackRow, PackRow, PackRow, PackRow, PackRow, PackRow, PackRow, PackRow],
  ];
  const countBefore = new Map(packs.map(({ id, seq }) => [id, seq]));
  for (const page of [bram, mirre]) await allPacksKept(page);
  register.kill();

  await takeOut(bram, flown.tag, low.tag, crashed.tag, given.tag, both.tag);
  await takeOut(mirre, both.tag, unused.tag, hers.tag, kept.tag);
  // A phone in a pocket forgets its pages: what was taken is still out when it is opened again.
  await bram.goto('/');
  const out = bram.getByRole('region', { name: 'Out with you' });
  for (const { tag } of [flown, low, crashed, given, both]) await expect(out).toContainText(tag);

  await bram.goto('/flying/return');
  const first = await openBack(bram, flown.tag);
  await first.getByRole('textbox', { name: 'Minutes' }).fill('11');
  await first.getByRole('textbox', { name: 'Landed, V' }).fill('3.62');
  await first.getByRole('button', { name: 'Unplugged, it is back' }).tap();
  await expect(first).toHaveCount(0);
  const deep = await openBack(bram, low.tag);
  await deep.getByRole('textbox', { name: 'Minutes' }).fill('16');
  await deep.getByRole('textbox', { name: 'Landed, V' }).fill('3.21');
  await expect(deep).toContainText('a cell to land at. Put it to storage soon.');
  await deep
    .getByRole('button', { name: 'warm', exact: true })
    .or(deep.getByRole('radio', { name: 'warm', exact: true }))
    .first()
    .tap();
  await deep.getByRole('button', { name: 'Unplugged, it is back' }).tap();
  await expect(deep).toHaveCount(0);

  // The crash is told from the row of its pack: the card first, then the report.
  const down = await openBack(bram, crashed.tag);
  await down.getByRole('link', { name: 'Something went wrong' }).tap();
  await bram.getByRole('link', { name: 'Crash or drop' }).tap();
  await bram.getByRole('link', { name: 'Log it' }).tap();
  await expect(bram.getByRole('button', { name: `Leave ${crashed.tag} out` })).toBeVisible();
  await bram.getByRole('textbox', { name: 'What happened' }).fill('Lost a propeller over the flats.');
  await bram.getByRole('button', { name: 'Report it' }).tap();
  await expect(bram.getByText('on this device, waiting to be sent').first()).toBeVisible();
  await bram.goto(`/packs/${crashed.id}`);
  await expect(standing(bram)).toContainText('May not be charged or flown');
  await bram.goto('/flying/take-out');
  await scanInto(bram, crashed.tag);
  await expect(line(bram, 'Packs to take out', crashed.tag)).toContainText('on hold');
  await bram.getByRole('button', { name: `Leave ${crashed.tag} here` }).tap();

  // One goes to the other pilot, written down by whoever had it.
  await choose(bram.getByRole('combobox', { name: 'Who takes them' }), 'Mirre Halloway');
  await scanInto(bram, given.tag);
  const handed = line(bram, 'Packs to take out', given.tag);
  await handed.getByRole('button', { name: 'It goes to Mirre Halloway' }).tap();
  const short = handed.getByRole('checkbox');
  if ((await short.count()) > 0) await short.tap();
  await bram.getByRole('button', { name: 'Take out 1 pack' }).tap();
  await expect(handed).toHaveCount(0);

  await mirre.goto('/flying/return');
  const idle = await openBack(mirre, unused.tag);
  await idle.getByRole('radio', { name: 'not used' }).tap();
  await idle.getByRole('button', { name: 'Unplugged, it is back' }).tap();
  await expect(idle).toHaveCount(0);
  const her = await openBack(mirre, hers.tag);
  await her.getByRole('textbox', { name: 'Minutes' }).fill('9');
  await her.getByRole('button', { name: 'Unplugged, it is back' }).tap();
  await expect(her).toHaveCount(0);
  await expect(mirre.getByRole('banner')).toContainText('waiting');

  // Back in the club’s network.
  await register.start();
  await expect(bram.getByRole('banner')).not.toContainText('waiting', { timeout: 60_000 });
  await expect(mirre.getByRole('banner')).not.toContainText('waiting', { timeout: 60_000 });

  const written = async ({ id }: PackRow) => {
    const { records } = (await (await bram.request.get(`/api/packs/${id}`)).json()) as PackDetails;
    expect(new Set(records.map((record) => record.id)).size).toBe(records.length);
    return records.slice(countBefore.get(id)).map(({ kind }) => kind);
  };
  await expect.poll(() => written(flown)).toEqual(['taken-out', 'flight', 'returned']);
  expect(await written(low)).toEqual(['taken-out', 'flight', 'returned']);
  expect(await written(crashed)).toEqual(['taken-out', 'incident']);
  expect(await written(given)).toEqual(['taken-out', 'taken-out']);
  expect(await written(both)).toEqual(['taken-out', 'taken-out']);
  expect(await written(unused)).toEqual(['taken-out', 'returned']);
  expect(await written(hers)).toEqual(['taken-out', 'flight', 'returned']);
  expect(await written(kept)).toEqual(['taken-out']);
  const incidents = (await (await bram.request.get('/api/incidents')).json()) as IncidentRow[];
  expect(incidents.filter(({ what }) => what?.startsWith('Lost a propeller'))).toHaveLength(1);
  const now = new Map((await rowsOf(bram)).map((row) => [row.id, row]));
  expect(now.get(crashed.id)).toMatchObject({ verdict: 'hold', mayFly: 'no' });
  expect(now.get(low.id)!.owed).not.toBeNull();
  const people = new Map(
    [...now.values()].filter(({ out: taken }) => taken).map(({ id, out: taken }) => [id, taken!.holder]),
  );
  expect(people.get(given.id)).toBe(people.get(kept.id));
  expect(now.get(given.id)!.out!.alsoWith).toBeNull();

  // Both say that they have one pack: both are told, and one of them answers.
  const conflict = (page: Page) => page.getByText(`says they have ${both.tag} too.`);
  for (const page of [bram, mirre]) {
    await page.goto('/');
    await expect(conflict(page)).toBeVisible();
  }
  await bram.getByRole('button', { name: 'Mirre Halloway has it' }).first().tap();
  await expect(conflict(bram)).toHaveCount(0);
  await expect(conflict(mirre)).toHaveCount(0);
  for (const page of [bram, mirre]) await page.context().close();
});
