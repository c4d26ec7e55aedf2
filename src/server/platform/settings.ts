import type { Entities } from './database';

type SettingKey =
  | 'cookie-secret'
  | 'custodian-factor'
  | 'demo'
  | 'epoch'
  | 'machine'
  | 'mailed'
  | 'register'
  | 'verification';

/** A value the register keeps about itself; undefined when never written. */
export async function readSetting<Value>(em: Entities, key: SettingKey): Promise<Value | undefined> {
  const [row]: { value: Value }[] = await em.execute('select value from setting where key = ?', [key]);
  return row?.value;
}

/** Writes a setting unless it has a value already. */
export async function writeSettingOnce(em: Entities, key: SettingKey, value: unknown): Promise<void> {
  await em.execute('insert into setting (key, value) values (?, ?::jsonb) on conflict (key) do nothing', [
    key,
    JSON.stringify(value),
  ]);
}

/** Writes a setting, whatever it was. */
export async function writeSetting(em: Entities, key: SettingKey, value: unknown): Promise<void> {
  await em.execute(
    'insert into setting (key, value) values (?, ?::jsonb) on conflict (key) do update set value = excluded.value',
    [key, JSON.stringify(value)],
  );
}
