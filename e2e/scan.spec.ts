import type { PackRow } from '../src/contract';
import { v7 as newId } from 'uuid';
import { cells, expect, openPack, preview, scan, test, timeline, type } from './malle';

/** A wedge scanner works everywhere, and what is typed in the scan field may be a tag, volts or a command. */

test('a wedge scan opens its pack wherever the cursor is, and leaves the field as it was', async ({
  custodian,
}) => {
  await scan(custodian, 'HX-01');
  await expect(custodian.getByRole('heading', { level: 1, name: 'HX-01' })).toBeVisible();
  await type(custodian, '418 41');
  await scan(custodian, 'hx-02');
  await expect(custodian.getByRole('heading', { level: 1, name: 'HX-02' })).toBeVisible();
  await openPack(custodian, 'HX-01');
  await expect(cells(custodian)).toHaveValue('418 41');
  await cells(custodian).fill('');
});

test('a scan is heard whole, though the register changes in the middle of it', async ({
  custodian: page,
}) => {
  await openPack(page, 'HX-01');
  const packs = (await (await page.request.get('/api/packs')).json()) as PackRow[];
  const packId = packs.find(({ tag }) => tag === 'HX-01')!.id;
  const note = {
    id: newId(),
    at: Date.now(),
    kind: 'note',
    payload: { text: 'Sleeve torn.' },
    supersedes: null,
  };
  await scan(page, 'FW-07', {
    midway: async () => {
      await page.request.post('/api/records', { data: { packId, records: [note] } });
      await expect(timeline(page)).toContainText('Sleeve torn.');
    },
  });
  await expect(page.getByRole('heading', { level: 1, name: 'FW-07' })).toBeVisible();
});

test('a tag with volts after it opens the pack with the reading typed', async ({ custodian }) => {
  await custodian.keyboard.press('/');
  await type(custodian, 'FW-07 367 367 367 367');
  await custodian.keyboard.press('Enter');
  await expect(custodian.getByRole('heading', { level: 1, name: 'FW-07' })).toBeVisible();
  await expect(cells(custodian)).toHaveValue('367 367 367 367');
  await expect(preview(custodian)).toContainText('In its storage band: the clock stops.');
  await cells(custodian).fill('');
});

test('commands are typed where tags are', async ({ custodian }) => {
  const command = async (words: string) => {
    await custodian.keyboard.press('/');
    await type(custodian, words);
    await custodian.keyboard.press('Enter');
  };
  await command('packs');
  await expect(custodian.getByRole('heading', { name: 'Packs' })).toBeVisible();
  await command('shed');
  await expect(custodian.locator('html')).toHaveAttribute('data-theme', 'shed');
  await command('paper');
  await expect(custodian.locator('html')).toHaveAttribute('data-theme', 'paper');
  await command('keys');
  await expect(custodian.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await custodian.keyboard.press('Escape');
  await custodian.keyboard.press('?');
  await expect(custodian.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('an unknown tag offers to receive it; a replaced one still finds its pack', async ({ custodian }) => {
  await scan(custodian, 'ZZ-99');
  await expect(custodian.getByText('No pack carries the tag ZZ-99.')).toBeVisible();
  await custodian.getByRole('link', { name: 'Receive ZZ-99 as a new pack' }).click();
  await expect(custodian.getByRole('textbox', { name: 'Tag' })).toHaveValue('ZZ-99');

  await openPack(custodian, 'TR-06');
  await custodian.getByRole('link', { name: 'Edit facts' }).click();
  await custodian.getByRole('textbox', { name: 'Tag' }).fill('HX 01');
  await custodian.getByRole('button', { name: 'Save the facts' }).click();
  await expect(custodian.getByRole('alert').first()).toContainText('HX-01 has this tag already.');
  await expect(custodian.getByRole('textbox', { name: 'Tag' })).toHaveValue('HX 01');
  await custodian.getByRole('textbox', { name: 'Tag' }).fill('TR-60');
  await custodian.getByRole('button', { name: 'Save the facts' }).click();
  await expect(custodian.getByRole('heading', { level: 1, name: 'TR-60', exact: true })).toBeVisible();
  await scan(custodian, 'TR-06');
  await expect(custodian.getByRole('heading', { level: 1, name: 'TR-60', exact: true })).toBeVisible();
  await expect(custodian.getByText('Tag TR-06 was replaced; this is the same pack.')).toBeVisible();
});

test('what is entered before the packs are here waits for them', async ({ custodian: page }) => {
  const field = page.getByRole('combobox', { name: /Scan or type/ });
  let letGo: (() => void) | undefined;
  await page.route(/\/packs(\?|$)/, async (route) => {
    await new Promise<void>((done) => (letGo = done));
    await route.continue();
  });
  await page.reload();
  await field.fill('7');
  await field.press('Enter');
  await expect(page.getByText('The packs are still on their way.')).toBeVisible();
  letGo!();
  await expect(page.getByText('Several answer to this.')).toBeVisible();
  await page.reload();
  await field.fill('HX7');
  await field.press('Enter');
  await expect(page.getByText('The packs are still on their way.')).toBeVisible();
  letGo!();
  await expect(page.getByRole('heading', { level: 1, name: 'HX-07', exact: true })).toBeVisible();
});

test('of several packs that answer none is opened unseen; a place, a type and a hand are found by name', async ({
  custodian: page,
}) => {
  const field = page.getByRole('combobox', { name: /Scan or type/ });
  await field.fill('7');
  await field.press('Enter');
  await expect(page.getByText('Several answer to this.')).toBeVisible();
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
  await field.pressSequentially('', { delay: 60 });
  await field.fill('HX7');
  await field.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'HX-07' })).toBeVisible();
  await field.fill('fire cabinet, up');
  await expect(page.getByRole('option', { name: /Fire cabinet, upper.* here/ })).toBeVisible();
  await field.press('Enter');
  await expect(page).toHaveURL(/\/packs\?q=/);
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: / of 60|packs/ })
      .first(),
  ).toBeVisible();
});

test('a label’s address opens its pack and says nothing of another tag', async ({ custodian: page }) => {
  await page.goto('/tag/HX-07');
  await expect(page.getByRole('heading', { level: 1, name: 'HX-07' })).toBeVisible();
  await expect(page.getByText('was replaced')).toHaveCount(0);
});
