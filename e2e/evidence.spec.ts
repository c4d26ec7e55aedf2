import { Client } from 'pg';
import { expect, signedIn, test } from './malle';

/** Whether the register is still what it was, as a custodian finds out. */

test('a checkpoint that was kept elsewhere shows what was changed past the application', async ({
  browser,
  custodian,
  register,
}) => {
  await custodian.goto('/settings/evidence');
  await custodian.getByRole('button', { name: 'Make one now' }).click();
  const saved = custodian.waitForEvent('download');
  await custodian.getByRole('link', { name: 'Save' }).first().click();
  const path = await (await saved).path();
  await custodian.getByRole('button', { name: 'Look at everything' }).click();
  await expect(custodian.getByText('Everything holds.')).toBeVisible({ timeout: 60_000 });

  // What is no checkpoint is said at the field, and stays there to be mended.
  const field = custodian.getByRole('textbox', { name: /kept elsewhere/ });
  await field.fill('Malle checkpoint 1');
  await custodian.getByRole('button', { name: 'Look at everything' }).click();
  await expect(custodian.getByText('This is not the text of a checkpoint')).toBeVisible();
  await expect(field).toHaveValue('Malle checkpoint 1');

  const database = new Client({ connectionString: register.databaseUrl });
  await database.connect();
  await database.query(`update person set role = 'custodian' where name = 'Fenn Tidewell'`);
  await database.end();
  await custodian.getByLabel('A file with a checkpoint').setInputFiles(path);
  await expect(field).toHaveValue(/^Malle checkpoint 1\nregister /);
  await custodian.getByRole('button', { name: 'Look at everything' }).click();
  await expect(custodian.getByText('One thing does not hold.')).toBeVisible({ timeout: 60_000 });
  await expect(custodian.getByRole('listitem').filter({ hasText: 'The person Fenn Tidewell' })).toContainText(
    /the log does not say so\. It held/,
  );
  await expect(custodian.getByText(/against checkpoint \d+ that was kept elsewhere/)).toBeVisible();

  // Somebody else sees what was found; a pilot does not.
  const officer = await signedIn(browser, register, 'Gereon Wick');
  await officer.goto('/settings/evidence');
  await expect(officer.getByText('One thing does not hold.')).toBeVisible();
  const pilot = await signedIn(browser, register, 'Bram Oosterfen');
  await pilot.goto('/settings/evidence');
  await expect(pilot.getByText(/for custodians and safety officers to look into/)).toBeVisible();
  await officer.context().close();
  await pilot.context().close();
});
