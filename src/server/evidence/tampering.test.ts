import { v7 as newId } from 'uuid';
import request from 'supertest';
import sharp from 'sharp';
import type TestAgent from 'supertest/lib/agent';
import type { CheckpointAnswer, EvidenceFinding, RegisterAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import type { PackId } from '../../core/measure';
import { chain, packLedgers, rebuildPack, recordsOf } from '../ledger';
import type { Entities } from '../platform/database';
import { openSigner } from '../platform/signing';
import { rulesHistory } from '../rules/service';
import { layMadeUpRegister } from '../testing/madeUpRegister';
import { addPack, emptyDatabase, NOW, openTestApp, SIGNING_KEY } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';
import { verifyRegister } from '.';
import { makeCheckpoint } from './checkpoints';

/**
 * What somebody does to the register who has the database itself, its triggers switched off and every chain they know of worked out anew. Each is done in
 * a transaction that is looked at and then never happened.
 */

let test: TestApp;
let custodian: TestAgent;
/** The checkpoint that left the machine. */
let kept: string;
/** A pack with a long ledger. */
let packId: PackId;

beforeAll(async () => {
  const url = await emptyDatabase();
  await layMadeUpRegister(url);
  test = await openTestApp({ url, withPeople: false });
  custodian = request.agent(test.app.express);
  const em = test.app.database.entities();
  const [person]: { id: string }[] = await em.execute(
    `select id from person where role = 'custodian' limit 1`,
  );
  await custodian.post('/api/session/demo').send({ personId: person!.id }).expect(201);
  const register = (await custodian.get('/api/register').expect(200)).body as RegisterAnswer;
  const type = register.types[0]!;
  const place = register.places[0]!;
  const { id: typeId, version, ...label } = type;
  await custodian
    .put(`/api/pack-types/${typeId}`)
    .send({ ...label, price: 51, version })
    .expect(200);
  await custodian.post('/api/instruments').send({ name: 'Second meter', errorMv: 4 }).expect(201);
  await custodian
    .post('/api/rules')
    .send({
      basedOn: 1,
      preset: 'even-keel',
      changes: [{ path: 'spread.watchMv', value: 25 }],
      reason: 'closer',
    })
    .expect(201);
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#a33' } })
    .jpeg()
    .toBuffer();
  await custodian.put(`/api/photos/${newId()}`).set('content-type', 'image/jpeg').send(picture).expect(204);
  await custodian
    .post('/api/keys')
    .send({ id: newId(), name: 'A script', role: 'reader', endsAt: NOW + DAY_MS })
    .expect(201);
  for (const tag of ['TAMPER-1', 'TAMPER-2'])
    await addPack(custodian, typeId, tag, { homePlaceId: place.id });
  const [long]: { id: PackId }[] = await em.execute(
    'select pack_id as id from pack_state order by seq desc limit 1',
  );
  packId = long!.id;
  const [consignment]: { id: string }[] = await em.execute(
    'select id from consignment where closed_at is not null',
  );
  await custodian
    .post(`/api/consignments/${consignment!.id}/corrections`)
    .send({ id: newId(), text: 'One line was a slip.' })
    .expect(201);
  await settled();
  await packLedgers(em);
  const { body } = await custodian.post('/api/evidence/checkpoints').send({}).expect(201);
  kept = (body as CheckpointAnswer).text;
});
afterAll(() => test.close());

/** Until every pack is judged under the rules that were adopted. */
const settled = () =>
  until(
    () => rulesHistory(test.app.database.entities()),
    ({ judged, packs }) => judged === packs,
  );

const UNDONE = new Error('never happened');

/** What a look at the register finds after this was done to it. */
async function found(
  edit: (tx: Entities) => Promise<unknown>,
  checkpoint: string | null = null,
): Promise<readonly EvidenceFinding[]> {
  let findings: readonly EvidenceFinding[] = [];
  const undone = test.app.database.entities().transactional(async (tx) => {
    await tx.execute('set local session_replication_role = replica');
    await edit(tx);
    const key = openSigner(SIGNING_KEY).publicKey;
    ({ findings } = await verifyRegister(tx, { checkpoint, key }, NOW));
    throw UNDONE;
  });
  await expect(undone).rejects.toBe(UNDONE);
  return findings;
}

const sql =
  (...statements: string[]) =>
  async (tx: Entities) => {
    for (const statement of statements) {
      // Anything that touches nothing would prove nothing.
      const rows: unknown[] = await tx.execute(`${statement} returning 1`);
      expect(rows.length).toBeGreaterThan(0);
    }
  };

/** A ledger changed by hand and sealed anew from its first record to its last, the pack's state with it. */
const resealed = (change: string) => async (tx: Entities) => {
  await sql(change.replaceAll('$pack', `'${packId}'`))(tx);
  const records = (await recordsOf(tx, packId)).map(({ record }, i) => ({ ...record, seq: i + 1 }));
  for (const { record, prevHash, hash } of chain(records, null))
    await tx.execute('update record set seq = ?, prev_hash = ?, hash = ? where pack_id = ? and id = ?', [
      ...[record.seq, prevHash, hash, packId, record.id],
    ]);
  await rebuildPack(tx, packId, true);
};

it('finds nothing in a register that nobody has touched', async () => {
  expect(await found(() => Promise.resolve(), kept)).toEqual([]);
});

/** Everything that a pack is. */
const gone = (tag: string) => [
  ...['pack_tag', 'record', 'pack_state'].map(
    (table) => `delete from ${table} where pack_id = (select id from pack where tag = '${tag}')`,
  ),
  `delete from pack where tag = '${tag}'`,
];

const swapped = (a: string, b: string) => {
  const called = (tag: string, was: string) =>
    `update pack set tag = '${tag}', tag_key = coalesce((select key from pack_tag where tag = '${tag}'), '${tag}') where tag = '${was}'`;
  return [
    `update pack_tag t set pack_id = (select o.pack_id from pack_tag o where o.tag in ('${a}', '${b}') and o.tag <> t.tag) where tag in ('${a}', '${b}')`,
    ...[called('between', a), called(a, b), called(b, 'between')],
  ];
};

const LOG = /log does not say/;
const NEVER = /never may be/;
const middle = `seq = (select seq / 2 from pack_state where pack_id = $pack)`;
const last = `seq = (select seq from pack_state where pack_id = $pack)`;

describe('by itself the register shows', () => {
  it.each<[string, string[], RegExp]>([
    [
      'a record’s words changed',
      [`update record set payload = payload || '{"note": "x"}' where pack_id = $pack and ${middle}`],
      /seal/,
    ],
    ['a tail cut off', [`delete from record where pack_id = $pack and ${last}`], /end/],
    ['a record taken out', [`delete from record where pack_id = $pack and ${middle}`], /missing|follow/],
    ['a whole ledger gone', [`delete from record where pack_id = $pack`], /end|gone/],
    [
      'a verdict changed',
      [`update pack_state set verdict = 'watch' where pack_id = $pack and verdict <> 'watch'`],
      /lists say/,
    ],
    ['a finding struck out', [`update pack_state set findings = '[]' where findings <> '[]'`], /lists say/],
    [
      'a clock set back',
      [`update pack_state set due_at = due_at + interval '9 days' where due_at is not null`],
      /lists say/,
    ],
    [
      'what time alone would say struck out',
      [`update pack_state set lapses = '[]' where lapses <> '[]'`],
      /lists say/,
    ],
    [
      'what is read of a ledger made that of another',
      [
        `update packed_ledger set records = (select records from packed_ledger where pack_id <> $pack limit 1) where pack_id = $pack`,
      ],
      /packed/,
    ],
    [
      'what is read of a ledger made unreadable',
      [`update packed_ledger set records = '\\x00' where pack_id = $pack`],
      /packed/,
    ],
    ['a pack called otherwise', [`update pack set tag = 'OTHER', tag_key = 'OTHER' where id = $pack`], /tag/],
    [
      'a tag that leads to another pack',
      [`update pack_tag set pack_id = (select id from pack where id <> $pack limit 1) where pack_id = $pack`],
      /tag/,
    ],
    ['an incident called less', [`update incident set kind = 'near-miss' where kind = 'crash'`], /entries/],
    [
      'an incident that names one pack fewer',
      [`delete from incident_pack where incident_id = (select id from incident limit 1)`],
      /packs/,
    ],
    [
      'an entry of an incident gone',
      [`delete from incident_entry where seq = 1 and incident_id = (select id from incident limit 1)`],
      /entries/,
    ],
    [
      'an incident gone with its entries',
      [
        `delete from incident_entry where incident_id in (select incident_id from incident_pack)`,
        `delete from incident where id in (select incident_id from incident_pack)`,
        `delete from incident_pack`,
      ],
      /not been reported/,
    ],
    ['a capacity the log told of', [`update pack_type set price = 99 where price = 51`], /log last says/],
    [
      'rules the log told of',
      [`update rule_set set rules = jsonb_set(rules, '{spread,watchMv}', '60') where version = 2`],
      /log last says|rules/,
    ],
    ['an entry of the log changed', [`update register_log set name = 'x' where seq = 2`], /seal/],
    [
      'a checkpoint changed',
      [`update checkpoint set statement = replace(statement, 'leaves', 'leafs')`],
      /signed/,
    ],
    [
      'a checkpoint’s own list changed',
      [`update checkpoint_leaf set digest = 'x' where name = 'log'`],
      /not what was signed/,
    ],
    ['a checkpoint out of the middle', [`delete from checkpoint where number = 1`], /follow/],
  ])('%s', async (_, statements, why) => {
    const findings = await found(sql(...statements.map((one) => one.replaceAll('$pack', `'${packId}'`))));
    expect(findings.map((one) => one.why).join('; ')).toMatch(why);
  });
});

describe('against its checkpoints it shows, and since when', () => {
  it.each<[string, string, RegExp]>([
    [
      'a reading changed',
      `update record set payload = jsonb_set(payload, '{note}', '"x"') where pack_id = $pack and ${middle}`,
      /is another/,
    ],
    [
      'a time changed',
      `update record set at = at - interval '2 hours' where pack_id = $pack and ${middle}`,
      /is another/,
    ],
    [
      'another’s name on a record',
      `update record set by = (select id from person where id <> by limit 1) where pack_id = $pack and ${middle}`,
      /is another/,
    ],
    [
      'other rules on a record',
      `update record set rules_version = 7 where pack_id = $pack and ${middle}`,
      /is another/,
    ],
    [
      'when a record was written',
      `update record set recorded_at = recorded_at - interval '30 hours' where pack_id = $pack and ${middle}`,
      /is another/,
    ],
    [
      'a record taken out and the rest moved up',
      `delete from record where pack_id = $pack and ${middle}`,
      /is gone|is another/,
    ],
    [
      'the tail cut off, and the pack judged anew',
      `delete from record where pack_id = $pack and ${last}`,
      /is gone/,
    ],
  ])('a ledger sealed anew from its first record to its last: %s', async (_, change, why) => {
    const findings = await found(resealed(change));
    expect(findings).toEqual([
      {
        what: expect.stringMatching(/^The ledger of/) as string,
        why: expect.stringMatching(why) as string,
        heldAt: NOW,
      },
    ]);
  });

  /** Edits that do not touch each other, looked at together. */
  const LOTS: readonly (readonly [string, string[], string, RegExp][])[] = [
    [
      ['a pack gone with everything of it', gone('TAMPER-1'), 'The ledger of ', /gone/],
      [
        'a pack’s owner',
        [`update pack set owner = 'Somebody' where tag = 'TAMPER-2'`],
        'The pack TAMPER-2',
        LOG,
      ],
      [
        'a person called otherwise',
        [`update person set name = 'Somebody Else' where role = 'pilot'`],
        'The person Somebody Else',
        LOG,
      ],
      [
        'a deputy made custodian',
        [`update person set role = 'custodian', name = 'Promoted' where role = 'deputy'`],
        'The person Promoted',
        LOG,
      ],
      ['a person gone', [`delete from person where role = 'reader'`], 'The person ', /gone/],
      [
        'words of an incident',
        [`update incident_entry set payload = payload || '{"harm": "none"}' where seq > 1`],
        'The entry of an incident ',
        NEVER,
      ],
      [
        'a closed consignment’s weight',
        [
          `update consignment set manifest = jsonb_set(manifest, '{0,massG}', '1') where closed_at is not null`,
        ],
        'The closed consignment ',
        NEVER,
      ],
      [
        'a correction of it gone',
        [`delete from consignment_correction`],
        'The correction of a consignment ',
        /gone/,
      ],
      [
        'the reason of the rules',
        [`update rule_set set reason = 'no reason' where version = 1`],
        'The version of the house rules 1',
        NEVER,
      ],
      [
        'who adopted the rules',
        [
          `update rule_set set adopted_by = (select id from person order by id desc limit 1) where version = 2`,
        ],
        'The version of the house rules 2',
        NEVER,
      ],
      ['a photo painted over', [`update photo set jpeg = jpeg || '\\x00'::bytea`], 'The photo ', NEVER],
      [
        'how warm a place was',
        [`update place_temperature set celsius = celsius - 6`],
        'The temperature of a place ',
        LOG,
      ],
      [
        'a place that fire cannot leave',
        [`update place set fire_resistant = not fire_resistant`],
        'The place ',
        LOG,
      ],
      [
        'a capacity',
        [`update pack_type set capacity_mah = capacity_mah + 500 where price is distinct from 51`],
        'The pack type ',
        LOG,
      ],
      [
        'what a charger can do',
        [`update equipment set facts = facts || '{"watts": 1}'`],
        'The bench equipment ',
        LOG,
      ],
      [
        'what a craft was changed in',
        [`update craft_change set new_baseline = not new_baseline`],
        'The change of a craft ',
        NEVER,
      ],
      [
        'a meter’s error',
        [`update instrument set error_mv = 1 where name <> 'Second meter'`],
        'The meter ',
        LOG,
      ],
      ['what a key may do', [`update api_key set role = 'custodian'`], 'The key for a script A script', LOG],
      [
        'a recycler that takes damaged packs',
        [`update recycler set takes_damaged = not takes_damaged`],
        'The recycler ',
        LOG,
      ],
    ],
    [
      ['two packs’ labels swapped', swapped('TAMPER-1', 'TAMPER-2'), 'The pack TAMPER-1', LOG],
      [
        'who received a consignment',
        [`update consignment set received_by = 'Nobody' where closed_at is not null`],
        'The closed consignment ',
        NEVER,
      ],
      ['a photo gone', ['delete from photo'], 'The photo ', /gone/],
      ['the log emptied', ['delete from register_log'], 'The register’s log', /gone/],
    ],
    [
      [
        'a consignment opened again',
        ['update consignment set closed_at = null where closed_at is not null'],
        'The closed consignment ',
        /gone/,
      ],
      [
        'the log’s tail cut off',
        ['delete from register_log where seq = (select max(seq) from register_log)'],
        'The register’s log',
        /gone/,
      ],
    ],
  ];
  describe.each(LOTS.map((lot, i) => [i + 1, lot] as const))(
    'lot %i of edits that do not touch each other',
    (_, lot) => {
      const all = sql(...lot.flatMap(([, statements]) => statements));
      const expected = (findings: readonly EvidenceFinding[], what: string, why: RegExp) =>
        findings.filter((one) => one.what.startsWith(what) && why.test(one.why)).map(({ heldAt }) => heldAt);

      it('each is found, with the last moment at which it was right', async () => {
        const findings = await found(all);
        for (const [name, , what, why] of lot)
          expect([name, expected(findings, what, why)[0]]).toEqual([name, NOW]);
      });

      it('each is found although a checkpoint was made after it', async () => {
        const findings = await found(async (tx) => {
          await all(tx);
          expect(await makeCheckpoint(tx, openSigner(SIGNING_KEY), NOW + DAY_MS)).toMatchObject({
            at: NOW + DAY_MS,
          });
        });
        for (const [name, , what, why] of lot)
          expect([name, expected(findings, what, why)[0]]).toEqual([name, NOW]);
      });
    },
  );

  it('a checkpoint that was struck out of the middle of a list, for what it knew', async () => {
    const findings = await found(async (tx) => {
      await resealed(`update record set at = at - interval '2 hours' where pack_id = $pack and ${middle}`)(
        tx,
      );
      await makeCheckpoint(tx, openSigner(SIGNING_KEY), NOW + DAY_MS);
      await tx.execute(
        `delete from checkpoint_leaf where name = ? and number < (select max(number) from checkpoint)`,
        [`ledger/${packId}`],
      );
    });
    expect(findings.map(({ why }) => why)).toContain('what was written down with it is not what was signed');
  });
});

describe('against a checkpoint that was kept elsewhere it shows', () => {
  it.each<[string, string[]]>([
    ['every checkpoint gone', ['delete from checkpoint_leaf', 'delete from checkpoint']],
    [
      'the newest gone with its list',
      [
        'delete from checkpoint_leaf where number = (select max(number) from checkpoint)',
        'delete from checkpoint where number = (select max(number) from checkpoint)',
      ],
    ],
  ])('%s', async (_, statements) => {
    expect(await found(sql(...statements))).toEqual([]);
    expect(await found(sql(...statements), kept)).toContainEqual(
      expect.objectContaining({ why: 'the register does not have it any more', heldAt: NOW }),
    );
  });

  it('a text of another register, a changed one, and one signed by somebody else', async () => {
    const nothing = () => Promise.resolve();
    const other = kept.replace(/^root (.)/m, (_, first) => `root ${first === '0' ? '1' : '0'}`);
    expect((await found(nothing, other)).map(({ why }) => why)).toEqual([
      'its signature does not belong to what it says',
    ]);
    expect(
      (await found(sql(`update setting set value = '"another"' where key = 'register'`), kept)).map(
        ({ why }) => why,
      ),
    ).toEqual(['it is of another register']);
    expect((await found(nothing, 'root of all')).map(({ why }) => why)).toEqual([
      'this is not the text of a checkpoint',
    ]);
  });
});
