import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type {
  HistoriesAnswer,
  PackDetails,
  PackRow,
  RegisterAnswer,
  RulesHistoryAnswer,
} from '../../contract';
import { HOUR_MS } from '../../core/measure';
import { BLANK_FLIGHT } from '../../core/record';
import { changedFields, PRESET_RULES, ruleValue } from '../../core/rules';
import {
  addPack,
  addType,
  inspectionPayload,
  NOW,
  openTestApp,
  readingBody,
  reasons,
  recordBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';

let test: TestApp;
let custodian: TestAgent;
let packs: PackDetails[];

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  const type = await addType(custodian);
  packs = [];
  for (let i = 0; i < 30; i++) packs.push(await addPack(custodian, type.id, `R-${i}`));
  for (const [i, pack] of packs.entries()) {
    const cells = i < 10 ? [4190, 4190, 4190, 4155] : [3800, 3800, 3800, 3800];
    await custodian
      .post('/api/records')
      .send({ packId: pack.id, records: [readingBody(cells, { at: NOW - 30 * HOUR_MS })] })
      .expect(201);
  }
});
afterAll(() => test.close());

const history = async () => (await custodian.get('/api/rules').expect(200)).body as RulesHistoryAnswer;
const adopt = (agent: TestAgent, body: object) => agent.post('/api/rules').send(body);
const tighter = (basedOn: number, more: object = {}) => ({
  basedOn,
  preset: 'even-keel',
  changes: [{ path: 'spread.watchMv', value: 30 }],
  reason: 'A season of drifting cells',
  ...more,
});

/** Until every pack has been judged under the newest rules. */
const settled = () => until(history, ({ judged, packs: all }) => judged === all);

it('a register begins with rules nobody adopted', async () => {
  const { versions, judged } = await history();
  expect(versions).toHaveLength(1);
  expect(versions[0]).toMatchObject({ version: 1, adoptedBy: null });
  expect(judged).toBe(30);
});

describe('what is refused, at its field', () => {
  const cases: readonly (readonly [string, object, string, RegExp])[] = [
    ['no reason', { reason: ' ' }, 'reason', /missing/],
    [
      'a storage target no practice defends',
      { changes: [{ path: 'storage.lipo.targetMv', value: 3950 }] },
      'changes.storage.lipo.targetMv',
      /3\.80 V to 3\.85 V/,
    ],
    [
      'a floor under the practice’s',
      { changes: [{ path: 'floors.lipo.damageMv', value: 2800 }] },
      'changes.floors.lipo.damageMv',
      /No practice/,
    ],
    ['a rule nobody knows', { changes: [{ path: 'storage.luck', value: 1 }] }, 'changes.0.path', /not known/],
    [
      'a word for a figure',
      { changes: [{ path: 'idle.everyDays', value: 'often' }] },
      'changes.idle.everyDays',
      /No practice/,
    ],
    ['an unknown field', { mood: 'bold' }, 'mood', /not known/],
    ['no such preset', { preset: 'reckless' }, 'preset', /preset/],
  ];
  it.each(cases)('%s', async (_what, more, field, message) => {
    const { body } = await adopt(custodian, tighter(1, more)).expect(422);
    expect(reasons(body)[field]).toMatch(message);
  });

  it('rules that are in force already', async () => {
    await adopt(custodian, tighter(1, { changes: [] })).expect(422);
  });
});

it('adopting judges the whole register anew, and every record keeps the version it was judged under', async () => {
  const before = (await custodian.get('/api/packs')).body as PackRow[];
  expect(before.filter(({ verdict }) => verdict === 'watch')).toHaveLength(0);
  await adopt(custodian, tighter(1)).expect(201);
  const { versions } = await settled();
  expect(versions[0]).toMatchObject({
    version: 2,
    reason: 'A season of drifting cells',
    adoptedBy: test.people.custodian,
    moved: [{ was: 'fit', became: 'watch', packs: 10 }],
  });
  const after = (await custodian.get('/api/packs')).body as PackRow[];
  expect(after.filter(({ verdict }) => verdict === 'watch')).toHaveLength(10);
  const register = (await custodian.get('/api/register')).body as RegisterAnswer;
  expect(register.rules).toMatchObject({ version: 2, rules: { spread: { watchMv: 30 } } });

  await custodian
    .post('/api/records')
    .send({ packId: packs[0]!.id, records: [readingBody([4190, 4190, 4190, 4190])] })
    .expect(201);
  const details = (await custodian.get(`/api/packs/${packs[0]!.id}`)).body as PackDetails;
  expect(details.records.map(({ rulesVersion }) => rulesVersion)).toEqual([1, 1, 2]);
  // What a record changes is not the rules' doing.
  expect((await settled()).versions[0]!.moved).toEqual([{ was: 'fit', became: 'watch', packs: 10 }]);
  expect(versions[1]!.moved).toEqual([]);
});

it('of two people adopting from the same version one wins, and the other is told', async () => {
  const { versions } = await settled();
  const basedOn = versions[0]!.version;
  const statuses = await Promise.all(
    [21, 22].map(async (days) => {
      const changes = [{ path: 'idle.everyDays', value: days }];
      return (await adopt(custodian, tighter(basedOn, { changes }))).status;
    }),
  );
  expect(statuses.sort()).toEqual([201, 409]);
  await settled();
});

it('others keep writing while the register is judged, and nothing is judged under old rules at the end', async () => {
  const { versions } = await settled();
  const changes = [{ path: 'inspectionDays', value: 45 }];
  const pilot = await test.as('pilot');
  await adopt(custodian, tighter(versions[0]!.version, { changes })).expect(201);
  const writing = packs.map((pack) =>
    pilot.post('/api/records').send({ packId: pack.id, records: [readingBody([3800, 3810, 3800, 3800])] }),
  );
  for (const { status } of await Promise.all(writing)) expect(status).toBe(201);
  const { judged } = await settled();
  expect(judged).toBe(30);
});

it('what a stopped server left unjudged is judged when the next one starts', async () => {
  const { versions } = await settled();
  const em = test.app.database.entities();
  await em.execute('update pack_state set rules_version = 1');
  const second = await openTestApp({ withPeople: false, url: test.url });
  await settled();
  const stale: { version: number }[] = await em.execute(
    'select distinct rules_version as version from pack_state',
  );
  expect(stale).toEqual([{ version: versions[0]!.version }]);
  await second.close();
});

describe('histories, for judging elsewhere', () => {
  it('hand out every pack with its ledger, a page at a time', async () => {
    const seen: string[] = [];
    let after: string | null = null;
    do {
      const { body } = await custodian.get(`/api/histories${after ? `?after=${after}` : ''}`).expect(200);
      const answer = body as HistoriesAnswer;
      expect(answer.total).toBe(30);
      for (const { facts, records } of answer.packs) {
        seen.push(facts.id);
        expect(records.every((record) => record.packId === facts.id)).toBe(true);
        expect(records.length).toBeGreaterThan(1);
      }
      after = answer.next;
    } while (after);
    expect(seen.sort()).toEqual(packs.map(({ id }) => id).sort());
  });

  it('come for named packs too in answers of some thousand records, whole ledger by whole ledger', async () => {
    const { id: typeId } = await addType(custodian);
    const named: string[] = [];
    for (let i = 0; i < 4; i++) named.push((await addPack(custodian, typeId, `LONG-${i}`)).id);
    const em = test.app.database.entities();
    await em.execute(
      `insert into record (pack_id, seq, id, kind, at, recorded_at, by, payload, supersedes, rules_version, prev_hash, hash)
       select r.pack_id, 1 + i, gen_random_uuid(), 'note', r.at, r.at, r.by, '{"text": "long"}', null, 1, 'long', 'long'
         from record r cross join generate_series(1, 3500) i where r.seq = 1 and r.pack_id = any(?::uuid[])`,
      [`{${named.join(',')}}`],
    );
    await em.execute('update pack_state set seq = 3501 where pack_id = any(?::uuid[])', [
      `{${named.join(',')}}`,
    ]);
    const pages: number[] = [];
    const seen: string[] = [];
    let after: string | null = null;
    do {
      const query: Record<string, string> = { ids: named.join(','), ...(after ? { after } : {}) };
      const { body } = await custodian.get('/api/histories').query(query).expect(200);
      const page = body as HistoriesAnswer;
      expect(page.total).toBe(4);
      pages.push(page.packs.reduce((sum, { records }) => sum + records.length, 0));
      seen.push(...page.packs.map(({ facts }) => facts.id));
      after = page.next;
    } while (after);
    expect(pages).toEqual([7002, 7002]);
    expect(seen).toEqual([...named].sort());
  });

  it('need somebody signed in, and a sound place to go on from', async () => {
    await test.anybody().get('/api/histories').expect(401);
    await custodian.get('/api/histories?after=soon').expect(422);
  });
});

it('a smart pack’s own bleed moves it to pending in every list, without a record', async () => {
  const type = await addType(custodian);
  const smart = await addPack(custodian, type.id, 'SM-1', {
    smart: { autoStorage: true, autoStorageAfterHours: 24 },
    receivedAt: NOW - 400 * HOUR_MS,
  });
  await custodian
    .post('/api/records')
    .send({
      packId: smart.id,
      records: [{ ...readingBody([4190, 4190, 4190, 4190]), id: newId(), at: NOW - 300 * HOUR_MS }],
    })
    .expect(201);
  const [row] = (await custodian.get(`/api/packs?ids=${smart.id}`)).body as PackRow[];
  expect(row).toMatchObject({ storage: 'pending', dueAt: null, next: { do: 'measure-rested' } });
});

describe('checklists', () => {
  const lists = async () => (await history()).versions[0]!.rules.checklists;
  const own = { key: 'own-1', asks: 'Velcro strap', failMeans: 'watch', photo: 'always' } as const;

  it('are versioned like the rules, and stay when others change', async () => {
    const before = await settled();
    const basedOn = before.versions[0]!.version;
    const kept = changesOf(before);
    const checklists = { ...(await lists()), 'before-use': [own, ...(await lists())['before-use']] };
    await adopt(custodian, {
      basedOn,
      preset: 'even-keel',
      changes: kept,
      checklists,
      reason: 'Straps slip',
    }).expect(201);
    expect((await lists())['before-use'][0]).toEqual(own);
    const changes = [
      ...kept.filter(({ path }) => path !== 'inspectionDays'),
      { path: 'inspectionDays', value: 50 },
    ];
    await adopt(custodian, { basedOn: basedOn + 1, preset: 'even-keel', changes, reason: 'Sooner' }).expect(
      201,
    );
    expect((await lists())['before-use'][0]).toEqual(own);
    await settled();
  });

  it('are refused at the item', async () => {
    const basedOn = (await settled()).versions[0]!.version;
    const wrong = async (items: readonly object[]) => {
      const checklists = { ...(await lists()), scheduled: items };
      const { body } = await adopt(custodian, {
        basedOn,
        preset: 'even-keel',
        changes: [],
        checklists,
        reason: 'x',
      }).expect(422);
      return reasons(body);
    };
    const { scheduled } = await lists();
    expect(await wrong(scheduled.slice(1))).toEqual({
      'checklists.scheduled': 'The list scheduled must ask for swelling.',
    });
    expect(Object.keys(await wrong([{ ...scheduled[0], failMeans: 'advise' }]))).toEqual([
      'checklists.scheduled.0',
    ]);
    expect(Object.keys(await wrong([{ ...scheduled[0], key: 'No Key' }]))).toEqual([
      'checklists.scheduled.0.key',
    ]);
  });

  it('a failure weighs what the house now says', async () => {
    const type = await addType(custodian);
    const pack = await addPack(custodian, type.id, 'CL-1');
    const wrong = { connector: { answer: 'fail', note: '', photoIds: [] } } as const;
    const records = [
      readingBody([3800, 3800, 3800, 3800]),
      { id: newId(), at: NOW, kind: 'inspection', supersedes: null, payload: inspectionPayload({}, wrong) },
    ];
    await custodian.post('/api/records').send({ packId: pack.id, records }).expect(201);
    const verdict = async () =>
      ((await custodian.get(`/api/packs?ids=${pack.id}`)).body as PackRow[])[0]!.verdict;
    expect(await verdict()).toBe('watch');
    const before = await settled();
    const scheduled = (await lists()).scheduled.map((item) =>
      item.key === 'connector' ? { ...item, failMeans: 'hold' } : item,
    );
    const checklists = { ...(await lists()), scheduled };
    await adopt(custodian, {
      basedOn: before.versions[0]!.version,
      preset: 'even-keel',
      changes: changesOf(before),
      checklists,
      reason: 'A connector burnt',
    }).expect(201);
    await settled();
    expect(await verdict()).toBe('hold');
  });
});

/** What the rules in force change in their preset. */
function changesOf({ versions }: RulesHistoryAnswer) {
  const { rules } = versions[0]!;
  return changedFields(PRESET_RULES[rules.preset], rules).map(({ path }) => ({
    path,
    value: ruleValue(rules, { path }),
  }));
}

it('rules kept with a hole or with rubbish in them judge by the preset there, and the history says so', async () => {
  const em = test.app.database.entities();
  const { versions } = await settled();
  const kept = structuredClone(versions[0]!.rules) as unknown as Record<string, Record<string, unknown>>;
  delete kept.heat!.useHoldC;
  delete kept.checklists!['after-use'];
  kept.spread!.watchMv = 'a lot';
  await em.execute(
    `insert into rule_set (version, rules, adopted_at, adopted_by, reason) values (?, ?::jsonb, now(), null, 'A bad disk')`,
    [versions[0]!.version + 1, JSON.stringify(kept)],
  );
  const flown = recordBody('flight', { ...BLANK_FLIGHT, minutes: 6, hottestC: 70 }, NOW - HOUR_MS);
  await custodian
    .post('/api/records')
    .send({ packId: packs[5]!.id, records: [flown] })
    .expect(201);
  const rows = (await custodian.get('/api/packs')).body as PackRow[];
  expect(rows.find(({ id }) => id === packs[5]!.id)).toMatchObject({ verdict: 'hold', mayFly: 'no' });
  const told = (await history()).versions[0]!;
  expect(told.mended).toEqual(['spread.watchMv']);
  expect(told.rules.heat.useHoldC).toBe(PRESET_RULES['even-keel'].heat.useHoldC);
  expect(told.rules.checklists['after-use'].length).toBeGreaterThan(0);
});
