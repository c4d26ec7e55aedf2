import {
  cells,
  expect,
  horizonRow,
  openPack,
  preview,
  signedIn,
  standing,
  test,
  timeline,
  type,
} from './malle';

test('scan a tag, type its cells, see its verdict and its clock; everybody who looks sees it', async ({
  browser,
  register,
  custodian,
}) => {
  const other = await signedIn(browser, register, 'Gereon Wick');
  await expect(horizonRow(custodian, 'HX-06')).toContainText('overdue by');
  await expect(horizonRow(other, 'HX-06')).toContainText('overdue by');

  // By keyboard alone from here on.
  await custodian.keyboard.press('/');
  await expect(custodian.getByRole('combobox', { name: /Scan or type/ })).toBeFocused();
  await type(custodian, 'hx06');
  await expect(custodian.getByRole('option').first()).toContainText('HX-06');
  await custodian.keyboard.press('Enter');
  await expect(custodian.getByRole('heading', { level: 1, name: 'HX-06' })).toBeVisible();
  await expect(cells(custodian)).toBeFocused();
  await expect(standing(custodian)).toContainText('high, overdue by');

  await type(custodian, '381 380 381 380 38');
  await expect(custodian.getByText('“38” is too coarse.')).toBeVisible();
  await expect(preview(custodian)).toBeHidden();
  await type(custodian, '1 380');
  await expect(preview(custodian)).toContainText('fit');
  await expect(preview(custodian)).toContainText('In its storage band: the clock stops.');
  await expect(timeline(custodian).getByRole('listitem').first()).not.toContainText(
    '3.81 3.80 3.81 3.80 3.81 3.80',
  );

  await custodian.keyboard.press('Enter');
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText(
    '3.81 3.80 3.81 3.80 3.81 3.80',
  );
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('Ineke Varrow');
  await expect(standing(custodian)).toContainText('in its storage band since today');
  await expect(cells(custodian)).toHaveValue('');
  await expect(cells(custodian)).toBeFocused();

  // The other browser has not been touched or reloaded.
  await expect(horizonRow(other, 'HX-06')).toBeHidden();
  await custodian.keyboard.press('Escape');
  await custodian.locator('body').press('g');
  await custodian.keyboard.press('t');
  await expect(custodian.getByRole('heading', { name: /^Today/ })).toBeVisible();
  await expect(horizonRow(custodian, 'HX-06')).toBeHidden();
  await other.context().close();
});

test('four cells typed as 384 383 385 384', async ({ custodian }) => {
  await openPack(custodian, 'FW-01');
  await type(custodian, '384 383 385 384');
  await expect(preview(custodian)).toContainText('above its storage band (3.55–3.80 V)');
  await expect(preview(custodian)).toContainText(/due in 4[78] h/);
  await custodian.keyboard.press('Enter');
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('3.84 3.83 3.85 3.84');
  await expect(standing(custodian)).toContainText(/high, due in 4[78] h/);
});

test.describe('what is said of the same volts on each chemistry, before save', () => {
  const CASES: readonly (readonly [string, string, string, readonly (string | RegExp)[]])[] = [
    [
      'LiPo full',
      'TR-05',
      '420',
      ['fit', 'May be flown', 'above its storage band (3.70–3.85 V)', /of 48 h allowed: due in 4[78] h/],
    ],
    ['LiPo stored', 'TR-05', '381', ['fit', 'May be flown', 'In its storage band']],
    [
      'LiPo low',
      'TR-05',
      '345',
      [
        'charge before flying',
        'under the 3.50 V recharge-soon floor. Bring it up to storage now',
        'charge to storage now',
      ],
    ],
    [
      'LiPo ruined',
      'TR-05',
      '295',
      ['retire advised', 'May not be charged or flown', 'below the 3.00 V damage floor', 'set apart, decide'],
    ],
    ['LiPo at the floor exactly', 'TR-05', '300', ['caution', 'charge before flying']],
    [
      'LiHV full for a LiPo, which stores itself',
      'IQ-01',
      '420 420 420 420',
      ['fit', 'The pack stores itself'],
    ],
    ['Li-ion', 'FW-04', '381 381 381 381', ['fit', 'above its storage band (3.55–3.80 V)']],
    ['Li-ion low', 'FW-04', '345 345 345 345', ['May be flown', 'below its storage band']],
    [
      'Li-ion lower',
      'FW-04',
      '295 295 295 295',
      ['charge before flying', 'under the 3.20 V recharge-soon floor'],
    ],
    ['LiFePO4', 'GS-01', '328 328 328 328', ['fit', 'In its storage band']],
    ['LiFePO4 charged as LiPo', 'GS-01', '420 420 420 420', ['hold', 'charged as something it is not']],
    ['NiMH, by its total', 'TX-01', '7.8', ['fit', 'May be flown']],
  ];
  for (const [name, tag, typed, expected] of CASES) {
    test(name, async ({ custodian }) => {
      await openPack(custodian, tag);
      await type(custodian, typed);
      for (const words of expected) await expect(preview(custodian)).toContainText(words);
      if (tag === 'TX-01') await expect(preview(custodian)).not.toContainText('storage');
      await cells(custodian).fill('');
    });
  }
});

test('a reading under load changes neither compliance nor spread', async ({ custodian }) => {
  await openPack(custodian, 'IQ-01');
  const before = await standing(custodian)
    .getByText(/in its storage band since/)
    .textContent();
  await type(custodian, '352 352 341 352');
  await custodian.getByText('under load', { exact: true }).click();
  await expect(preview(custodian)).toContainText('that decides neither storage nor spread');
  await custodian.getByRole('button', { name: 'Save reading' }).click();
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('under load');
  await expect(standing(custodian)).toContainText(before!);
  await expect(standing(custodian)).toContainText(/Spread\s*0 mV/);
  await expect(standing(custodian)).toContainText('Read it rested');
});

test('a finding opens to its numbers, its rule and its records', async ({ custodian }) => {
  await openPack(custodian, 'FW-03');
  const finding = standing(custodian).getByRole('listitem').filter({ hasText: 'damage floor' });
  await finding.getByText('why').click();
  await expect(finding).toContainText('Damage floor2.50 V');
  await expect(finding).toContainText('takes the pack out of use at once');
  await finding.getByRole('link', { name: /record \d+/ }).click();
  await expect(timeline(custodian).locator(':target')).toContainText('2.41 2.39 2.28 2.40');
});

test('a slip is put right by a record that says so', async ({ custodian }) => {
  await openPack(custodian, 'HX-08');
  await type(custodian, '381 381 281 381 381 381');
  await expect(preview(custodian)).toContainText('retire advised');
  await custodian.keyboard.press('Enter');
  await expect(standing(custodian)).toContainText('May not be charged or flown');
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('2.81');

  await timeline(custodian)
    .getByRole('listitem')
    .first()
    .getByRole('button', { name: /Correct/ })
    .click();
  const sheet = custodian.getByRole('dialog');
  await sheet.getByRole('textbox', { name: /should have said/ }).fill('381 381 381 381 381 381');
  await sheet.getByRole('button', { name: 'Correct it' }).click();
  await expect(sheet.getByRole('alert')).toContainText('The reason is missing.');
  await sheet.getByRole('textbox', { name: 'Reason' }).fill('Cell 3 mistyped');
  await sheet.getByRole('button', { name: 'Correct it' }).click();
  await expect(sheet).toBeHidden();
  await expect(standing(custodian)).toContainText('May be flown');
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('Corrected to');
  await expect(timeline(custodian).getByRole('listitem').first()).toContainText('Cell 3 mistyped');
});
