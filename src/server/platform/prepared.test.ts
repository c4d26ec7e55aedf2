import { openTestApp } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { executePrepared } from './database';
import type { Entities } from './database';
import { isUniqueViolation } from './problems';

let test: TestApp;
const em = (): Entities => test.app.database.entities();

beforeAll(async () => {
  test = await openTestApp({ withPeople: false });
  await em().execute('create table counted (number int primary key, said text, at timestamptz, list jsonb)');
});
afterAll(() => test.close());

const add = (number: number, by: Entities = em()) =>
  executePrepared<{ number: number }>(by, {
    sql: 'insert into counted (number, said, at, list) select ?, ?, ?, ? returning number',
    params: [number, `it’s "${number}" \\ $1 ?`, '2026-03-02T19:00:00.000Z', JSON.stringify([number])],
  });
const all = async () => em().execute<{ number: number }[]>('select * from counted order by number');

it('does what the same statement does otherwise, each time with its own parameters', async () => {
  for (const number of [1, 2, 3]) expect(await add(number)).toEqual([{ number }]);
  expect(await all()).toMatchObject(
    [1, 2, 3].map((number) => ({ number, said: `it’s "${number}" \\ $1 ?`, list: [number] })),
  );
  const [found] = await executePrepared<{ ids: number[]; none: null }>(em(), {
    sql: 'select array_agg(number order by number) as ids, ?::text as none from counted where number = any(?::int[])',
    params: [null, '{1,3,9}'],
  });
  expect(found).toEqual({ ids: [1, 3], none: null });
});

it('is told to a connection once', async () => {
  for (const number of [11, 12, 13, 14]) await add(number);
  const known: { times: number }[] = await em().execute(
    `select count(*)::int as times from pg_prepared_statements where statement like 'insert into counted%'`,
  );
  expect(known).toEqual([{ times: 1 }]);
});

it('within a transaction is a part of it', async () => {
  const undone = new Error('undone');
  const transaction = em().transactional(async (tx) => {
    await add(21, tx);
    expect(
      await executePrepared(tx, { sql: 'select said from counted where number = ?', params: [21] }),
    ).toHaveLength(1);
    throw undone;
  });
  await expect(transaction).rejects.toBe(undone);
  expect(await all()).not.toContainEqual(expect.objectContaining({ number: 21 }));
});

it('says what went wrong like any other, and gives its connection back', async () => {
  // More often than there are connections.
  for (let i = 0; i < 25; i++) {
    const twice = await add(1).catch((error: unknown) => error);
    expect(isUniqueViolation(twice)).toBe(true);
  }
  expect(await add(31)).toEqual([{ number: 31 }]);
});

it('goes on after the database has ended its connections', async () => {
  await add(41);
  await em()
    .execute(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    )
    .catch(() => undefined);
  for (let number = 42; number < 46; number++) {
    const again = async (left: number): Promise<unknown> =>
      add(number).catch((error: unknown) => {
        if (left === 0) throw error;
        return again(left - 1);
      });
    await again(10);
  }
  expect(await all()).toContainEqual(expect.objectContaining({ number: 45 }));
});
