import { expect, openPack, test, type } from './malle';

/** The parts every page is made of, by keyboard and by hand, where nothing of the register hangs on them. */

test('days and moments are typed as hands write them, and taken from a calendar', async ({
  custodian: page,
}) => {
  await page.goto('/settings/parts');
  const paper = page.getByRole('region', { name: 'On paper' });
  const day = paper.getByRole('textbox', { name: 'A day', exact: true });
  const moment = paper.getByRole('textbox', { name: 'A moment' });

  await day.fill('3.12.25');
  await expect(day).toHaveAccessibleDescription('Wed 3 Dec 2025');
  await day.press('Tab');
  await expect(day).toHaveValue('3 Dec 2025');
  await day.fill('12/31');
  await day.blur();
  await expect(day).toHaveAccessibleDescription(/There is no month 31: the day comes first/);
  await expect(day).toHaveValue('12/31');
  await expect(day).toHaveAttribute('aria-invalid', 'true');
  await day.fill('soon');
  await day.blur();
  await expect(day).toHaveAccessibleDescription(/Type a day as in 3\.12\./);

  await moment.fill('fri');
  await moment.blur();
  await expect(moment).toHaveAccessibleDescription(/Add the time, as in fri 18:00/);
  await moment.fill('fri 18');
  await moment.blur();
  await expect(moment).toHaveValue(/^\d{1,2} [A-Z][a-z]{2} \d{4} 18:00$/);

  // From the calendar a day keeps the time that was typed; without one the time is asked for.
  await paper.getByRole('button', { name: 'Calendar for A moment' }).click();
  await page.getByRole('dialog').getByRole('button', { name: /15/ }).first().click();
  await expect(moment).toHaveValue(/^15 [A-Z][a-z]{2} \d{4} 18:00$/);
  await moment.fill('');
  await paper.getByRole('button', { name: 'Calendar for A moment' }).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(moment).toBeFocused();
  await type(page, '7:30');
  await moment.blur();
  await expect(moment).toHaveValue(/07:30$/);
});

test('lists, ticks, switches and choices answer to the keyboard alone', async ({ custodian: page }) => {
  await page.goto('/settings/parts');
  const paper = page.getByRole('region', { name: 'On paper' });
  const list = paper.getByRole('combobox', { name: 'One of a list', exact: true });
  await list.focus();
  await page.keyboard.press('Enter');
  // The answer that stands is where the arrows begin, once the list is open.
  await expect(page.getByRole('option', { selected: true })).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(list).toHaveText('not noted');
  await expect(list).toBeFocused();
  // A letter goes to the answer that begins so, and never to one that cannot be chosen.
  await page.keyboard.press('t');
  await expect(list).toHaveText('not noted');
  // Letters pressed soon after one another are one word.
  await page.waitForTimeout(1_100);
  await page.keyboard.press('f');
  await expect(list).toHaveText('Fire cabinet, upper');
  await expect(paper.getByRole('combobox', { name: 'One of a list, refused' })).toHaveAccessibleDescription(
    'Choose one.',
  );
  await expect(paper.getByRole('combobox', { name: 'Not to be changed either' })).toBeDisabled();

  const tick = paper.getByRole('checkbox', { name: 'Not ticked' });
  await tick.press('Space');
  await expect(tick).toBeChecked();
  await expect(paper.getByRole('switch', { name: 'Off' })).toBeChecked();
  await paper.getByRole('switch', { name: 'Off' }).press('Space');
  await expect(tick).not.toBeChecked();

  const few = paper.getByRole('radiogroup', { name: 'One of a few' });
  await few.getByRole('radio', { name: 'soft' }).focus();
  await page.keyboard.press('ArrowRight', { delay: 60 });
  await expect(few.getByRole('radio', { name: 'hard' })).toBeChecked();

  await paper.getByRole('button', { name: 'A question …' }).press('Enter');
  const question = page.getByRole('alertdialog', { name: 'A question' });
  await page.mouse.click(5, 400);
  await expect(question).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(question).toBeHidden();
  await expect(paper.getByRole('button', { name: 'A question …' })).toBeFocused();

  // On a pack's page letters are keys, but not while a list has the focus.
  await openPack(page, 'HX-07');
  await page.getByRole('combobox', { name: 'Meter' }).focus();
  await page.keyboard.press('f');
  await expect(page.getByRole('tab', { name: /^Reading/ })).toHaveAttribute('aria-selected', 'true');
});

test('a table is laid out by each person, and stays so', async ({ custodian: page }) => {
  await page.goto('/packs');
  const heads = page.getByRole('columnheader');
  await expect(heads.nth(2)).toHaveText('Cells');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('button', { name: 'Ladder to the left' }).click();
  await page.getByRole('checkbox', { name: 'Lowest' }).uncheck();
  await page.keyboard.press('Escape');
  await expect(heads.nth(2)).toHaveText('Ladder');

  const spread = page.getByRole('columnheader', { name: 'Spread' });
  const before = (await spread.boundingBox())!.width;
  await spread.getByRole('button').focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  expect((await spread.boundingBox())!.width).toBeGreaterThan(before + 40);
  await spread.getByRole('button').press('Enter');
  await expect(spread).toHaveAttribute('aria-sort', 'ascending');

  // Found again from the sections, without an address that says so.
  await page.getByRole('link', { name: 'Rounds', exact: true }).click();
  await page.getByRole('link', { name: 'Packs', exact: true }).click();
  await expect(heads.nth(2)).toHaveText('Ladder');
  await expect(page.getByRole('columnheader', { name: 'Lowest' })).toHaveCount(0);
  await expect(spread).toHaveAttribute('aria-sort', 'ascending');
  expect((await spread.boundingBox())!.width).toBeGreaterThan(before + 40);

  // Dragged by its edge, and all back as at first.
  const box = (await spread.boundingBox())!;
  await page.mouse.move(box.x + box.width - 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width + 60, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  expect((await spread.boundingBox())!.width).toBeGreaterThan(box.width + 30);
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('button', { name: 'As at first' }).click();
  await page.keyboard.press('Escape');
  await expect(heads.nth(2)).toHaveText('Cells');
  await expect(page.getByRole('columnheader', { name: 'Lowest' })).toBeVisible();
});
