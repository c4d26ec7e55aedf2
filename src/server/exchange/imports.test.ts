import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { ImportAnswer, ImportedAnswer, PackDetails, PackRow, TakenBackAnswer } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import { BLANK_FLIGHT } from '../../core/record';
import { verifyLedger } from '../ledger';
import {
  addPack,
  addType,
  importBody,
  inspectionPayload,
  NOW,
  openTestApp,
  packBody,
  readingBody,
  recordBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let deputy: TestAgent;
let typeId: string;

beforeAll(async () => {
  test = await openTestApp();
  deputy = await test.as('deputy');
  typeId = (await addType(deputy)).id;
});
afterAll(() => test.close());

async function begun(more: object = {}): Promise<ImportAnswer> {
  return (await deputy.post('/api/imports').send(importBody(more)).expect(201)).body as ImportAnswer;
}

async function sent<Answer>(path: string, body: object, status = 201): Promise<Answer> {
  return (await deputy.post(`/api/imports/${path}`).send(body).expect(status)).body as Answer;
}

const packLine = (tag: string, more: object = {}) => ({
  ...packBody(typeId, tag, { receivedAt: NOW, before: { cycles: 86, flights: 140 } }),
  note: null,
  ...more,
});
const rows = async () => (await deputy.get('/api/packs').expect(200)).body as PackRow[];
const pack = async (id: string) => (await deputy.get(`/api/packs/${id}`).expect(200)).body as PackDetails;
const history = (id: string, packId: string, records: object[]) =>
  sent<ImportedAnswer>(`${id}/records`, { packId, records });

describe('packs from a list', () => {
  it('come in with what they had behind them, and no seller is named to them', async () => {
    const { id } = await begun();
    const line = packLine('IM-1', { note: { recordId: newId(), text: 'Left cell repaired.' } });
    expect(await sent(`${id}/packs`, { packs: [line] })).toEqual({ taken: 1, refused: [] });
    const records = [
      recordBody('inspection', inspectionPayload({ occasion: 'receipt' })),
      readingBody([4100, 4100, 4020, 4100]),
    ];
    // A new pack so far out of balance would go back to the seller.
    await deputy
      .post('/api/records')
      .send({ packId: line.id, records: records.map((one) => ({ ...one, at: NOW })) })
      .expect(201);
    const row = (await rows()).find(({ tag }) => tag === 'IM-1');
    expect(row?.next?.do).not.toBe('send-back');
    const { records: ledger } = await pack(line.id);
    expect(ledger.map(({ kind }) => kind)).toEqual(['received', 'note', 'inspection', 'reading']);
    expect(ledger[0]!.payload).toMatchObject({ before: { cycles: 86, flights: 140 } });
  });

  it('the same batch sent again brings nothing twice, and a taken tag is told without losing the others', async () => {
    const { id } = await begun();
    const [one, two] = [packLine('IM-2'), packLine('IM-3')];
    await sent(`${id}/packs`, { packs: [one] });
    const answer = await sent<ImportedAnswer>(`${id}/packs`, {
      packs: [one, packLine('im 2'), two, packLine('IM-4', { typeId: newId() })],
    });
    expect(answer.taken).toBe(2);
    expect(answer.refused).toEqual([
      { index: 1, why: 'IM-2 has this tag already.' },
      { index: 3, why: 'This pack type is not in the register.' },
    ]);
    expect((await rows()).filter(({ tag }) => /^im.?[23]/i.test(tag))).toHaveLength(2);
    const ended = await sent<ImportAnswer>(`${id}/end`, { refused: 2 });
    expect(ended).toMatchObject({ packs: 2, records: 2, refused: 2, endedAt: NOW, takenBackAt: null });
  });
});

describe('a history', () => {
  const old = NOW - 200 * DAY_MS;
  const flight = (at: number, more: object = {}) =>
    recordBody('flight', { ...BLANK_FLIGHT, minutes: 12, flownBy: 'Old Jan', ...more }, at);

  it('of a pack that was in use before goes back behind its receipt; of a new one it does not', async () => {
    const { id } = await begun();
    const used = packLine('IM-5');
    await sent(`${id}/packs`, { packs: [used] });
    const fresh = await addPack(deputy, typeId, 'IM-6');
    const { id: books } = await begun({ kind: 'history' });
    expect(await history(books, used.id, [flight(old)])).toEqual({ taken: 1, refused: [] });
    const answer = await history(books, fresh.id, [flight(old), flight(NOW - HOUR_MS)]);
    expect(answer.taken).toBe(1);
    expect(answer.refused).toEqual([
      { index: 0, why: expect.stringContaining('before the pack was received') },
    ]);
  });

  it('a line that cannot be taken is told, the others are in, and the batch again brings nothing twice', async () => {
    const one = await addPack(deputy, typeId, 'IM-7');
    const { id } = await begun({ kind: 'history' });
    const records = [
      flight(NOW - 2 * HOUR_MS),
      readingBody([3800, 3800]),
      readingBody([3800, 3800, 3800, 3790]),
    ];
    const answer = await history(id, one.id, records);
    expect(answer).toEqual({ taken: 2, refused: [{ index: 1, why: expect.stringContaining('4 cells') }] });
    expect(await history(id, one.id, records)).toEqual(answer);
    expect((await pack(one.id)).records).toHaveLength(3);
  });

  it('a flight of a pack that was held then is evidence, not refused', async () => {
    const one = await addPack(deputy, typeId, 'IM-8');
    const hold = { basedOnSeq: 1, reason: 'Smells.', what: { to: 'hold' } };
    await deputy
      .post('/api/records')
      .send({ packId: one.id, records: [recordBody('decision', hold, NOW - 3 * HOUR_MS)] })
      .expect(201);
    await deputy
      .post('/api/records')
      .send({ packId: one.id, records: [flight(NOW - HOUR_MS)] })
      .expect(422);
    const { id } = await begun({ kind: 'history' });
    expect(await history(id, one.id, [flight(NOW - HOUR_MS)])).toEqual({ taken: 1, refused: [] });
    expect((await rows()).find(({ tag }) => tag === 'IM-8')?.verdict).toBe('hold');
  });

  it('brings in what was measured and done, and nothing that is decided, moved or put right through its own gate', async () => {
    const one = await addPack(deputy, typeId, 'IM-9');
    const { id } = await begun({ kind: 'history' });
    const release = { basedOnSeq: 1, reason: 'x', what: { to: 'hold' } };
    for (const record of [
      recordBody('moved', { placeId: null, holderId: test.people.pilot }),
      recordBody('decision', release),
      recordBody('received', { source: null, placeId: null }),
      { ...recordBody('correction', { reason: 'x', replacement: null }), supersedes: one.records[0]!.id },
    ])
      await sent(`${id}/records`, { packId: one.id, records: [record] }, 422);
    expect((await pack(one.id)).records).toHaveLength(1);
  });

  it('is not begun by a pilot, nor added to by one', async () => {
    const pilot = await test.as('pilot');
    await pilot.post('/api/imports').send(importBody()).expect(403);
    await pilot.get('/api/imports').expect(403);
  });
});

describe('taken back', () => {
  it('packs leave every list and their tags are free; a pack somebody wrote of since stays, and is named', async () => {
    const { id, fileName } = await begun();
    const [gone, stays] = [packLine('TB-1', { note: { recordId: newId(), text: 'Old.' } }), packLine('TB-2')];
    await sent(`${id}/packs`, { packs: [gone, stays] });
    await deputy
      .post('/api/records')
      .send({ packId: stays.id, records: [readingBody([3800, 3800, 3800, 3800], { at: NOW })] })
      .expect(201);
    const answer = await sent<TakenBackAnswer>(`${id}/take-back`, { reason: 'The wrong list.' });
    expect(answer).toEqual({ records: 2, packs: 1, kept: ['TB-2'] });
    const tags = (await rows()).map(({ tag }) => tag);
    expect(tags).toContain('TB-2');
    expect(tags.join()).not.toContain('TB-1');
    await deputy.get('/api/packs/by-tag/TB-1').expect(404);
    const { records } = await pack(gone.id);
    expect(records.filter(({ kind }) => kind === 'correction')).toMatchObject([
      { payload: { reason: `Import of ${fileName} taken back: The wrong list.`, replacement: null } },
      { payload: { replacement: null } },
    ]);
    const histories = (await deputy.get('/api/histories').expect(200)).body as {
      packs: { facts: { id: string } }[];
    };
    expect(histories.packs.map(({ facts }) => facts.id)).not.toContain(gone.id);
    // The list put right comes in under the same tags.
    const { id: again } = await begun();
    expect(await sent(`${again}/packs`, { packs: [packLine('TB-1')] })).toEqual({ taken: 1, refused: [] });
    expect((await rows()).filter(({ tag }) => tag === 'TB-1')).toHaveLength(1);
  });

  it('a history goes, what was written by hand stays, and nothing is added to it after that', async () => {
    const one = await addPack(deputy, typeId, 'TB-3');
    await deputy
      .post('/api/records')
      .send({ packId: one.id, records: [recordBody('note', { text: 'by hand' })] })
      .expect(201);
    const { id } = await begun({ kind: 'history' });
    const records = Array.from({ length: 40 }, (_, i) =>
      recordBody('flight', { ...BLANK_FLIGHT, minutes: 12, flownBy: 'Old Jan' }, NOW - HOUR_MS * (i + 1)),
    );
    await history(id, one.id, records);
    // An inspection that failed holds the pack; the hold goes with the line that should not have been there.
    const failed = inspectionPayload({}, { swelling: { answer: 'fail', note: '', photoIds: [] } });
    await history(id, one.id, [recordBody('inspection', failed, NOW - HOUR_MS)]);
    expect((await rows()).find(({ tag }) => tag === 'TB-3')?.verdict).toBe('hold');
    expect(await sent(`${id}/take-back`, { reason: 'Another club’s.' })).toEqual({
      records: 41,
      packs: 0,
      kept: [],
    });
    expect((await rows()).find(({ tag }) => tag === 'TB-3')?.verdict).not.toBe('hold');
    await sent(`${id}/records`, { packId: one.id, records }, 409);
    await sent(`${id}/take-back`, { reason: 'Once more.' }, 409);
    const [latest] = (await deputy.get('/api/imports').expect(200)).body as ImportAnswer[];
    expect(latest).toMatchObject({ id, takenBackBy: test.people.deputy, takenBackAt: NOW });
  });

  it('leaves every chain whole', async () => {
    expect((await verifyLedger(test.app.database.entities())).broken).toEqual([]);
  });
});
