import type { Locator, Page } from '@playwright/test';
import exifr from 'exifr';
import sharp from 'sharp';
import { choose, expect, openPack, scan, signedIn, standing, test, timeline } from './malle';

/** Looking a pack over, with a photo, and the places packs lie in. */

const photo = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#744' } })
    .withExif({
      IFD3: {
        GPSLatitudeRef: 'N',
        GPSLatitude: '52/1 22/1 0/1',
        GPSLongitudeRef: 'E',
        GPSLongitude: '4/1 53/1 0/1',
      },
    })
    .jpeg()
    .toBuffer();
const entry = (page: Page) => page.getByRole('region', { name: 'Write a record' });

/** As a hand drags: down, along, and let go. */
async function drag(page: Page, what: Locator, to: Locator): Promise<void> {
  await what.hover();
  await page.mouse.down();
  const { x, y, width, height } = (await to.boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2, { steps: 12 });
  await page.mouse.up();
}

test('an inspection with a photo, by thumb', async ({ browser, register }) => {
  const page = await signedIn(browser, register, 'Jory Penhallick', { phone: true });
  await page.getByRole('combobox', { name: /Scan or type/ }).fill('HX-08');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: /^Inspection/ }).tap();
  await choose(page.getByRole('combobox', { name: 'Occasion' }), 'after use');
  const connector = entry(page).getByRole('radiogroup', { name: 'Main connector' });
  await connector.getByRole('radio', { name: 'fail' }).tap();
  await page.getByRole('textbox', { name: /said of: Main connector/ }).fill('one contact dark');
  await expect(page.getByRole('status', { name: 'Verdict before save' })).toContainText('main connector');

  const taking = page.getByLabel('Photo of Main connector');
  // A program with a picture's name, a text, and far too much: each refused here, with the reason.
  await taking.setInputFiles({
    name: 'photo.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.from('\x7fELF a program'.repeat(99)),
  });
  await expect(entry(page).getByRole('alert')).toContainText(
    'photo.jpg is broken or of a kind this browser cannot read',
  );
  await taking.setInputFiles({
    name: 'notes.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('not a picture'),
  });
  await expect(entry(page).getByRole('alert')).toContainText('notes.txt is no picture');
  await taking.setInputFiles({
    name: 'huge.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.alloc(40_000_000, 7),
  });
  await expect(entry(page).getByRole('alert')).toContainText('huge.jpg has 40 MB');
  const sent: string[] = [];
  page.on('request', (request) => {
    if (request.method() === 'PUT' && request.url().includes('/api/photos/')) sent.push(request.url());
  });
  await taking.setInputFiles({
    name: 'contact.jpg',
    mimeType: 'image/jpeg',
    buffer: await photo(3000, 2000),
  });
  await expect(page.getByRole('button', { name: /^Photo 1 of/ })).toBeVisible();
  await expect.poll(() => sent.length).toBe(1);

  await page.getByRole('button', { name: 'Save the inspection' }).tap();
  const first = timeline(page).getByRole('listitem').first();
  await expect(first).toContainText('fail: Main connector, one contact dark');
  await expect(standing(page)).toContainText('The pack failed its inspection: main connector');
  // The record does not wait for its picture, which the server draws anew before it keeps it.
  await expect.poll(async () => (await page.request.get(sent[0]!)).status()).toBe(200);
  const bytes = await (await page.request.get(sent[0]!)).body();
  expect(await exifr.parse(bytes, true)).toBeUndefined();
  expect(await sharp(bytes).metadata()).toMatchObject({ width: 1600, format: 'jpeg' });
  await first.getByRole('button', { name: 'Main connector' }).tap();
  await expect(page.getByRole('dialog').getByRole('img')).toBeVisible();
  await page.context().close();
});

test('a large picture is taken in while the hand goes on typing', async ({ custodian: page }) => {
  const noise = Buffer.alloc(6000 * 4500 * 3);
  for (let i = 0; i < noise.length; i += 1) noise[i] = (i * 2_654_435_761) >>> 24;
  const large = await sharp(noise, { raw: { width: 6000, height: 4500, channels: 3 } })
    .jpeg({ quality: 88 })
    .toBuffer();
  expect(large.length).toBeGreaterThan(8_000_000);
  await openPack(page, 'HX-09');
  await page.getByRole('tab', { name: /^Inspection/ }).click();
  await entry(page)
    .getByRole('radiogroup', { name: 'Case and wrap' })
    .getByRole('radio', { name: 'note' })
    .click();
  await page
    .getByLabel('Photo of Case and wrap')
    .setInputFiles({ name: 'large.jpg', mimeType: 'image/jpeg', buffer: large });
  const words = page.getByRole('textbox', { name: /said of: Case and wrap/ });
  await words.pressSequentially('scuffed at one corner');
  await expect(words).toHaveValue('scuffed at one corner');
  await expect(page.getByRole('button', { name: /^Photo 1 of/ })).toBeVisible();
});

test('a photo taken without a connection goes along with its inspection later', async ({
  custodian: page,
}) => {
  await openPack(page, 'HX-10');
  await page.getByRole('tab', { name: /^Inspection/ }).click();
  await page.context().setOffline(true);
  await entry(page)
    .getByRole('radiogroup', { name: 'Case and wrap' })
    .getByRole('radio', { name: 'note' })
    .click();
  await page
    .getByLabel('Photo of Case and wrap')
    .setInputFiles({ name: 'case.jpg', mimeType: 'image/jpeg', buffer: await photo(800, 600) });
  await expect(page.getByRole('button', { name: /^Photo 1 of/ })).toBeVisible();
  // Cells and resistance go along, all or none.
  await page.getByRole('textbox', { name: 'Cells in order, if read' }).fill('380 381 380 380 380 379');
  await page.getByRole('textbox', { name: /^Resistance/ }).fill('3.1 3.2 3.1 3.0 3.1');
  await page.getByRole('button', { name: 'Save the inspection' }).click();
  await expect(entry(page).getByText('Type the milliohms of all 6 cells')).toBeVisible();
  await page.getByRole('textbox', { name: /^Resistance/ }).fill('3.1 3.2 3.1 3.0 3.1 3.1');
  await page.getByRole('textbox', { name: 'Pack °C' }).fill('19');
  await page.getByRole('button', { name: 'Save the inspection' }).click();
  await expect(timeline(page)).toContainText('waiting to be sent');
  await page.context().setOffline(false);
  await expect(timeline(page)).not.toContainText('waiting to be sent');
  await page.reload();
  const records = timeline(page).getByRole('listitem');
  await expect(records.filter({ hasText: '3.80 3.81 3.80 3.80 3.80 3.79' })).toHaveCount(1);
  await expect(records.filter({ hasText: '3.1 3.2 3.1 3 3.1 3.1' })).toHaveCount(1);
  await timeline(page).getByRole('button', { name: 'Case and wrap' }).first().click();
  await expect(page.getByRole('dialog').getByRole('img')).toBeVisible();
});

test('packs are moved by drag, by picking, and by two scans; a bad place is asked about or refused', async ({
  custodian: page,
}) => {
  await page.goto('/packs/stowage');
  const place = (name: string) => page.getByRole('region', { name, exact: true });
  const tile = (tag: string) => page.getByRole('button', { name: new RegExp(`^${tag},`) });
  await expect(place('Fire cabinet, upper')).toContainText('3 packs out of use among sound ones');

  await drag(page, tile('HX-07'), place('Transport box B'));
  await expect(place('Transport box B').getByRole('button', { name: /^HX-07/ })).toBeVisible();

  await tile('HX-09').press('Enter');
  await place('Transport box B').getByRole('button', { name: 'Lay it in slot 2' }).press('Enter');
  await expect(place('Transport box B').getByRole('button', { name: /^HX-09/ })).toBeVisible();

  // Scan the pack, scan the place.
  await scan(page, 'HX-10');
  await expect(page.getByText('HX-10 picked')).toBeVisible();
  await scan(page, 'P-03');
  await expect(place('Transport box A').getByRole('button', { name: /^HX-10/ })).toBeVisible();

  // One that is out of use does not slip in among sound ones.
  await drag(page, tile('HX-11'), place('Transport box B'));
  await expect(page.getByRole('alert')).toContainText('HX-11: A pack that is out of use does not lie');
  await expect(place('Fire cabinet, upper').getByRole('button', { name: /^HX-11/ })).toBeVisible();
  await tile('HX-11').press('Enter');
  await expect(place('Sand bin outdoors').getByRole('button', { name: 'Lay HX-11 here' })).toBeVisible();
  for (const sound of ['Transport box B', 'Fire cabinet, lower'])
    await expect(place(sound).getByRole('button', { name: /^Lay / })).toHaveCount(0);
  // One that is sound is asked about where it had better not lie.
  await drag(page, tile('FW-01'), place('Transport box B'));
  await expect(page.getByRole('alert')).toContainText('FW-01 in Transport box B?');
  await page.getByRole('button', { name: 'Leave it where it is' }).click();
  await expect(place('Fire cabinet, lower').getByRole('button', { name: /^FW-01/ })).toBeVisible();

  await page.getByRole('switch', { name: 'Arrange the map' }).click();
  const shelf = page.getByRole('group', { name: /^Survey van, column 15, row 7/ });
  await shelf.press('ArrowRight');
  await expect(page.getByRole('group', { name: /^Survey van, column 15, row 7/ })).toBeVisible();
  const drawn = page.waitForResponse(
    (response) =>
      response.url().endsWith('/api/map') && Boolean(response.request().postData()?.includes('"y":5')),
  );
  await shelf.press('ArrowUp');
  await drawn;
  await page.reload();
  await page.getByRole('switch', { name: 'Arrange the map' }).click();
  await expect(page.getByRole('group', { name: /^Survey van, column 15, row 6/ })).toBeVisible();
});

test('a checklist is the rules’ own: an item is added, moved, asked to have a photo, and looked at', async ({
  custodian: page,
}) => {
  await page.goto('/rules');
  await page.getByRole('button', { name: 'Change the rules' }).click();
  const lists = page.getByRole('region', { name: 'Checklists' });
  await choose(lists.getByRole('combobox', { name: 'Occasion' }), 'before use');
  await lists.getByRole('button', { name: 'Add an item' }).click();
  await lists.getByRole('textbox', { name: 'Item 7' }).fill('Velcro strap');
  await choose(lists.getByRole('combobox', { name: 'Photo of item 7' }), 'photo always');
  await lists.getByRole('button', { name: 'Move item 7 up' }).click();
  await expect(lists.getByRole('textbox', { name: 'Item 6' })).toHaveValue('Velcro strap');
  await lists.getByRole('button', { name: 'Remove item 1' }).click();
  await expect(lists.getByRole('alert')).toContainText('must ask for swelling');
  await page.getByRole('button', { name: 'Drop the changes' }).click();

  await page.getByRole('button', { name: 'Change the rules' }).click();
  await choose(lists.getByRole('combobox', { name: 'Occasion' }), 'before use');
  await lists.getByRole('button', { name: 'Add an item' }).click();
  await lists.getByRole('textbox', { name: 'Item 7' }).fill('Velcro strap');
  await choose(lists.getByRole('combobox', { name: 'Photo of item 7' }), 'photo always');
  await page.getByRole('textbox', { name: /Why/ }).fill('Two packs slid in flight');
  await page.getByRole('button', { name: /^Adopt/ }).click();
  await expect(page.getByRole('region', { name: 'Versions' })).toContainText('Velcro strap');

  await openPack(page, 'FW-01');
  await page.getByRole('tab', { name: /^Inspection/ }).click();
  await choose(page.getByRole('combobox', { name: 'Occasion' }), 'before use');
  await page.getByRole('button', { name: /in order, save$/ }).click();
  await expect(entry(page).getByRole('alert')).toContainText('Velcro strap wants a photo');
  await page
    .getByLabel('Photo of Velcro strap')
    .setInputFiles({ name: 'strap.jpg', mimeType: 'image/jpeg', buffer: await photo(400, 300) });
  await expect(page.getByRole('button', { name: /^Photo 1 of/ })).toBeVisible();
  await page.getByRole('button', { name: /save/i }).last().click();
  await expect(timeline(page).getByRole('listitem').first()).toContainText('before use');
});

test('what is due stands on Today, in Packs and in a calendar of one’s own', async ({ custodian: page }) => {
  await page.goto('/');
  const due = page.getByRole('region', { name: 'Due within a week' });
  await expect(due).toContainText('Inspect for the season');
  await due.getByRole('link', { name: 'Inspect for the season' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'of 60' })).toBeVisible();
  await page.goto('/settings/calendar');
  await page.getByRole('button', { name: 'Get an address' }).click();
  const address = await page.getByRole('textbox', { name: 'Subscribe to this address' }).inputValue();
  const calendar = await page.request.get(address);
  expect(await calendar.text()).toContain('FW-10: inspect for the season');
});
