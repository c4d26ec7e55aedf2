import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Page } from '@playwright/test';
import { Client } from 'pg';
import { expect, openPack, signedIn, test, timeline } from './malle';

/** A register that was lost and brought back, as the people at it see that. */

const ROOT = resolve(import.meta.dirname, '..');

function command(name: 'backup' | 'restore', args: readonly string[], databaseUrl: string): void {
  const { status, stderr, stdout } = spawnSync(
    process.execPath,
    ['--import', 'tsx', `src/server/commands/${name}.ts`, ...args],
    { cwd: ROOT, encoding: 'utf8', env: { ...process.env, DATABASE_URL: databaseUrl } },
  );
  expect(`${stdout}${stderr}`).not.toContain('does not hold');
  expect(status).toBe(0);
}

const restored = (page: Page) =>
  page.getByRole('status').filter({ hasText: 'The register was brought back from a backup.' });

test('what was written after the backup is handed in again by the browsers that wrote it, once', async ({
  browser,
  register,
}) => {
  // Two commands of their own, each of which starts, reads the whole register and ends.
  test.slow();
  const folder = mkdtempSync(join(tmpdir(), 'malle-e2e-backup-'));
  const pilot = await signedIn(browser, register, 'Bram Oosterfen');
  const note = async (text: string) => {
    await openPack(pilot, 'HX-04');
    await pilot.getByRole('tab', { name: 'Note' }).click();
    await pilot.getByRole('textbox', { name: 'Note' }).fill(text);
    await pilot.getByRole('button', { name: 'Save note' }).click();
    await expect(timeline(pilot).getByText(text)).toHaveCount(1);
    await expect(pilot.getByRole('banner')).not.toContainText('waiting');
  };
  await note('Before the backup.');
  command('backup', [folder, '--unproven'], register.databaseUrl);
  await note('After the backup.');
  const other = await signedIn(browser, register, 'Adela Quint');

  register.kill();
  const name = new URL(register.databaseUrl).pathname.slice(1);
  const cluster = new Client({ connectionString: register.databaseUrl.replace(name, 'postgres') });
  await cluster.connect();
  await cluster.query(`drop database ${name} with (force)`);
  await cluster.query(`create database ${name}`);
  await cluster.end();
  command('restore', [join(folder, readdirSync(folder)[0]!)], register.databaseUrl);
  await register.start();

  // Nobody is signed in any more, and nothing of the earlier register is taken for this one's.
  await expect(pilot.getByRole('button', { name: 'Bram Oosterfen' })).toBeVisible();
  await other.reload();
  await other.getByRole('button', { name: 'Adela Quint' }).click();
  await expect(restored(other)).toContainText('Look whether what you wrote lately is there.');
  await openPack(other, 'HX-04');
  await expect(timeline(other).getByText('Before the backup.')).toHaveCount(1);
  await expect(timeline(other).getByText('After the backup.')).toHaveCount(0);

  await pilot.getByRole('button', { name: 'Bram Oosterfen' }).click();
  await expect(restored(pilot)).toContainText('is handed in again');
  await expect(timeline(other).getByText('After the backup.')).toHaveCount(1);
  await expect(timeline(other).getByText('Before the backup.')).toHaveCount(1);
  await restored(pilot).getByRole('button', { name: 'Seen' }).click();
  await expect(restored(pilot)).toHaveCount(0);
  await pilot.reload();
  await expect(timeline(pilot).getByText('After the backup.')).toHaveCount(1);
  await expect(restored(pilot)).toHaveCount(0);
  rmSync(folder, { recursive: true, force: true });
  await other.context().close();
  await pilot.context().close();
});
