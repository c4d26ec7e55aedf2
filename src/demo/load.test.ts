import { Client } from 'pg';
import type { PackRow } from '../contract';
import { openRegister } from '../server/app';
import { DAY_MS, HOUR_MS } from '../core/measure';
import type { PackId } from '../core/measure';
import { recordsOf, rulesInForce, verifyLedger } from '../server/ledger';
import { packFacts } from '../server/ledger/rows';
import { packRows } from '../server/packs/rows';
import type { Database } from '../server/platform/database';
import { listRowBy, listRowOf } from '../server/testing/listRow';
import { layMadeUpRegister } from '../server/testing/madeUpRegister';
import { emptyDatabase, NOW } from '../server/testing/testApp';
import { loadMadeUpRegister } from './load';

let database: Database;
let url: string;
let rows: Map<string, PackRow & { findings: Record<string, string> }>;

beforeAll(async () => {
  url = await emptyDatabase();
  await layMadeUpRegister(url);
  database = await openRegister(url, NOW);
  const findings: { id: string; findings: { rule: string; severity: string }[] }[] = await database
    .entities()
    .execute('select pack_id as id, findings from pack_state_at(?)', [new Date(NOW).toISOString()]);
  const byId = new Map(findings.map((row) => [row.id, row.findings]));
  rows = new Map(
    (await packRows(database.entities(), NOW)).map((row) => [
      row.tag,
      {
        ...row,
        findings: Object.fromEntries((byId.get(row.id) ?? []).map(({ rule, severity }) => [rule, severity])),
      },
    ]),
  );
});
afterAll(() => database.close());

it('holds a season of about sixty packs whose chains hold', async () => {
  expect(rows.size).toBe(60);
  const { records, broken } = await verifyLedger(database.entities());
  expect(records).toBeGreaterThan(5000);
  expect(broken).toEqual([]);
});

it.each<[string, string, Partial<PackRow>, Record<string, string>]>([
  [
    'HX-11',
    'one cell is dying',
    { verdict: 'retire-advised', mayFly: 'no' },
    {
      'weakest-again': 'retire',
      'weak-cell': 'watch',
      spread: 'watch',
      'cell-drift': 'watch',
    },
  ],
  ['HX-05', 'stored full through a summer', { verdict: 'watch', mayFly: 'yes' }, { 'long-full': 'watch' }],
  [
    'FW-03',
    'over-discharged by a cut-off for three cells',
    { verdict: 'retire-advised', mayFly: 'no' },
    { 'over-discharged': 'retire', 'damage-floor': 'hold' },
  ],
  [
    'HX-12',
    'left plugged in after a hard landing, and retired since',
    { verdict: 'retired', mayFly: 'no', life: 'binned' },
    { 'over-discharged': 'retire', incident: 'hold' },
  ],
  [
    'TR-08',
    'charged in a mode it was not made for',
    { verdict: 'hold', mayFly: 'no' },
    { overfull: 'hold', 'wrong-setting': 'hold' },
  ],
  ['IQ-10', 'came back too hot', { verdict: 'hold', mayFly: 'no' }, { 'hot-use': 'hold', incident: 'hold' }],
  [
    'IQ-09',
    'crashed, looked over, waits for a word',
    { next: { do: 'decide', dueAt: null } },
    { incident: 'hold' },
  ],
  ['TR-07', 'crashed just now', { next: { do: 'keep-off', dueAt: NOW + 38 * 60_000 } }, { incident: 'hold' }],
  ['TR-13', 'rests before it is read again', { verdict: 'retired', life: 'resting' }, {}],
  ['TX-06', 'gone to the recycler', { verdict: 'recycled', placeId: null }, {}],
  ['GS-03', 'held on a suspicion, released since', { verdict: 'fit' }, { 'held-by-hand': 'note' }],
  [
    'IQ-08',
    'the charger gave up on it three times',
    { verdict: 'retire-advised', mayFly: 'no' },
    { 'charge-failed': 'retire' },
  ],
  [
    'TR-11',
    'flown until it sank',
    { verdict: 'watch', mayFly: 'yes', charged: 'charge-first' },
    { 'over-discharge-event': 'watch', 'recharge-soon': 'note' },
  ],
  ['IQ-12', 'never read', { verdict: 'watch', mayFly: 'measure-first' }, { unmeasured: 'watch' }],
  [
    'IQ-05',
    'landed low',
    { verdict: 'fit', mayFly: 'yes', charged: 'charge-first', storage: 'low' },
    { 'recharge-soon': 'note' },
  ],
  ['IQ-07', 'just landed', { verdict: 'fit', mayFly: 'measure-first' }, { unmeasured: 'note' }],
  [
    'HX-03',
    'charged and not read since',
    { verdict: 'fit', mayFly: 'yes', charged: 'charged', storage: 'high', basis: 'charged' },
    { 'storage-high': 'note' },
  ],
  ['FW-06', 'taken off on the taper', { charged: 'charged', basis: 'taper', storage: 'high' }, {}],
  [
    'TR-03',
    'charged fast in the field',
    { next: { do: 'fly-or-drain', dueAt: NOW + 8 * 3_600_000 } },
    { 'field-charged': 'note' },
  ],
  ['IQ-03', 'stores itself', { storage: 'self-storing', dueAt: null }, { 'self-storing': 'note' }],
  ['IQ-04', 'stores itself too late', { storage: 'high' }, { 'smart-settings': 'note' }],
  ['FW-08', 'wears faster since the autumn', { verdict: 'watch' }, { 'wears-faster': 'watch' }],
  ['HX-06', 'forgotten after a day of fog', { verdict: 'fit', storage: 'high' }, { 'storage-high': 'note' }],
  ['FW-02', 'a slip of the finger, put right', { verdict: 'fit', mayFly: 'yes', storage: 'in-band' }, {}],
])('%s, %s, is found for the right reason', (tag, _story, row, findings) => {
  expect(rows.get(tag)).toMatchObject(row);
  expect(rows.get(tag)?.findings).toMatchObject(findings);
});

it('puts no healthy pack on hold or watch', () => {
  const villains = new Set([
    'HX-11',
    'HX-05',
    'FW-03',
    'HX-12',
    'TR-08',
    'IQ-10',
    'IQ-08',
    'TR-11',
    'IQ-12',
    'IQ-11',
    'TR-14',
    'IQ-09',
    'TR-07',
    'FW-08',
  ]);
  const serving = [...rows.values()].filter(({ life }) => life === 'in-service');
  const suspected = serving.filter(({ verdict, tag }) => verdict !== 'fit' && !villains.has(tag));
  expect(suspected.map(({ tag, findings }) => [tag, findings])).toEqual([]);
});

it('leaves a third of its packs unread since their last charge', () => {
  const serving = [...rows.values()].filter(({ life, usedAt }) => life === 'in-service' && usedAt !== null);
  const unread = serving.filter(({ readAt, usedAt }) => readAt === null || readAt < usedAt!);
  expect(unread.length / rows.size).toBeGreaterThan(0.3);
});

it('logs its work without contradicting itself', () => {
  const contradicted = [...rows.values()].filter(({ findings }) => 'unlogged' in findings);
  expect(contradicted.map(({ tag }) => tag)).toEqual([]);
});

it('has clocks on every side of now', () => {
  const due = [...rows.values()]
    .filter(({ mayFly, dueAt }) => mayFly !== 'no' && dueAt !== null)
    .map(({ dueAt }) => dueAt! - NOW);
  expect(due.filter((left) => left <= 0).length).toBeGreaterThanOrEqual(1);
  expect(due.filter((left) => left > 0 && left < 12 * 3_600_000).length).toBeGreaterThanOrEqual(1);
  expect(due.filter((left) => left > 72 * 3_600_000).length).toBeGreaterThanOrEqual(1);
});

it('lists every pack as its whole ledger is judged: at each change that time alone brings, and as a year goes on', async () => {
  const em = database.entities();
  const { rules } = await rulesInForce(em);
  const told: { id: PackId; at: number[] }[] = await em.execute(
    `select pack_id as id, array(select floor((value ->> 'at')::float8) from jsonb_array_elements(lapses)) as at from pack_state`,
  );
  for (const { id, at: changes } of told) {
    const facts = await packFacts(em, id);
    const records = (await recordsOf(em, id)).map(({ record }) => record);
    const odd = [0, 13, 47, 111, 203, 365].map((days) => NOW + days * DAY_MS + 5 * HOUR_MS);
    for (const moment of [...odd, ...changes.flatMap((at) => [at - 1, at, at + 1])]) {
      if (moment < NOW) continue;
      const [row] = await packRows(em, moment, [id]);
      const where = { tag: row!.tag, days: (moment - NOW) / DAY_MS };
      expect({ ...where, ...listRowOf(row!) }).toEqual({
        ...where,
        ...listRowBy(facts!, records, rules, moment),
      });
    }
  }
});

it('is the same register for the same start, to the last seal', async () => {
  const other = await emptyDatabase();
  await layMadeUpRegister(other);
  const seals = async (address: string) => {
    const client = new Client({ connectionString: address });
    await client.connect();
    const { rows: heads } = await client.query(
      'select pack_id, seq, head_hash from pack_state order by pack_id',
    );
    await client.end();
    return heads as unknown[];
  };
  expect(await seals(other)).toEqual(await seals(url));
});

it('leaves a register that has people alone', async () => {
  expect(await loadMadeUpRegister(database.entities(), NOW)).toBeNull();
});
