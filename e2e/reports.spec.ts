import { expect, test } from './malle';

/** What happened in a period, on screen, for a spreadsheet and on paper. */

test('a report tells of when it is, is given up and made after all, and is exported as it stands', async ({
  custodian: page,
}) => {
  await page.goto('/reports');
  const holds = page.getByRole('region', { name: 'Holds and their length', exact: true });
  await expect(holds).toContainText('released');
  await expect(page.getByText(/^As of today/)).toBeVisible();

  const csv = await holds.getByRole('link', { name: 'CSV' }).getAttribute('href');
  const text = await (await page.request.get(csv!)).text();
  const lines = text.trim().split('\r\n').length - 1;
  await expect(holds.getByRole('row')).toHaveCount(lines + 1);

  // One that takes long: it never answers here.
  await page.route('**/api/reports?*', () => undefined);
  await page.getByText('this month', { exact: true }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Cancelled.')).toBeVisible();
  await page.unroute('**/api/reports?*');
  await page.getByRole('button', { name: 'Make it after all' }).click();
  await expect(page.getByText(/^As of today/)).toBeVisible();

  // One that breaks off in the middle says so, and can be asked for again.
  await page.route('**/api/reports?*', (route) =>
    route.fulfill({ contentType: 'application/x-ndjson', body: '{"done":25,"of":60}\n' }),
  );
  await page.getByText('three months', { exact: true }).click();
  await expect(page.getByText('No connection to the register.')).toBeVisible();
  await page.unroute('**/api/reports?*');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByText(/^As of today/)).toBeVisible();
});
