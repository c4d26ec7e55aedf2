import { readdirSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { Client } from 'pg';
import { DAY_MS, HOUR_MS } from '../core/measure';
import { ruleRefusals } from '../core/rules';
import { openApp } from './app';
import type { App } from './app';
import { recordsOf, rulesInForce, verifyLedger } from './ledger';
import { packFacts } from './ledger/rows';
import { packRows } from './packs/rows';
import { logAt } from './platform/log';
import { rulesHistory } from './rules/service';
import { listRowBy, listRowOf } from './testing/listRow';
import { emptyDatabase, testConfig } from './testing/testApp';
import { until } from './testing/until';

const FOLDER = 'src/server/testing/shapes';
/** Each is a small register as a released version laid it down, tables and all; scripts/keepShape.mjs keeps one. */
const SHAPES = readdirSync(FOLDER).filter((name) => name.endsWith('.sql.gz'));

async function restored(shape: string): Promise<string> {
  const url = await emptyDatabase();
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query(gunzipSync(readFileSync(`${FOLDER}/${shape}`)).toString());
  await client.end();
  return url;
}

/** Until every pack is judged. */
const settled = ({ database }: App) =>
  until(
    () => rulesHistory(database.entities()),
    ({ judged, packs }) => judged === packs,
  );

it('there is a register of every released shape', () => {
  expect(SHAPES.length).toBeGreaterThanOrEqual(5);
});

describe.each(SHAPES)('a register laid down by version %s', (shape) => {
  let app: App;
  let now: number;

  beforeAll(async () => {
    const url = await restored(shape);
    app = await openApp(testConfig(url, { fixedNow: null }), logAt('silent'));
    await settled(app);
    const [row]: { newest: number }[] = await app.database
      .entities()
      .execute('select (extract(epoch from max(recorded_at)) * 1000)::float8 as newest from record');
    now = Math.ceil(row!.newest);
  });
  afterAll(() => app.close());

  it('opens with its ledger whole and its house rules in force', async () => {
    const em = app.database.entities();
    const { packs, records, broken } = await verifyLedger(em);
    expect({ packs, broken }).toEqual({ packs: 4, broken: [] });
    expect(records).toBeGreaterThan(90);
    const { rules } = await rulesInForce(em);
    expect(ruleRefusals(rules)).toEqual([]);
    expect(rules.idle.everyDays).toBe(21);
    const { versions } = await rulesHistory(em);
    expect(versions.map(({ mended }) => mended)).toEqual(versions.map(() => []));
    if (shape < '005')
      expect(versions[0]).toMatchObject({ adoptedBy: null, reason: expect.stringContaining('judged anew') });
  });

  it('lists every pack as its whole ledger is judged, then and as time goes on', async () => {
    const em = app.database.entities();
    const { rules } = await rulesInForce(em);
    for (const days of [0, 0.2, 1, 3, 9, 22, 31, 61, 95, 181, 270, 366]) {
      const moment = now + Math.round(days * DAY_MS) + HOUR_MS;
      for (const row of await packRows(em, moment)) {
        const facts = await packFacts(em, row.id);
        const records = (await recordsOf(em, row.id)).map(({ record }) => record);
        expect({ tag: row.tag, days, ...listRowOf(row) }).toEqual({
          tag: row.tag,
          days,
          ...listRowBy(facts!, records, rules, moment),
        });
      }
    }
  });
});
