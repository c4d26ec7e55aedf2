import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { ConsignmentDetails, EndOfLifeAnswer, PackDetails, PackRow } from '../../contract';
import type { DisposalPayload } from '../../core/lifecycle';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import {
  addPack,
  addType,
  inspectionPayload,
  NOW,
  openTestApp,
  readingBody,
  recordBody,
  reasons,
  recyclerBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let deputy: TestAgent;
let typeId: string;
let bin: string;
let apartBin: string;
let made = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  deputy = await test.as('deputy');
  typeId = (await addType(custodian, { name: '=HYPERLINK("http://x")' })).id;
  const place = async (more: object) => {
    const body = { name: `Box ${newId()}`, kind: 'recycling', fireResistant: true, ...more };
    return ((await custodian.post('/api/places').send(body).expect(201)).body as { id: string }).id;
  };
  bin = await place({ capacity: 3 });
  apartBin = await place({ setApart: true });
});
afterAll(() => test.close());

const START = NOW - 20 * DAY_MS;
const write = (packId: string, ...records: object[]) =>
  custodian.post('/api/records').send({ packId, records });
const row = async (id: string) => ((await custodian.get(`/api/packs?ids=${id}`)).body as PackRow[])[0]!;

async function retired({ swollen = false } = {}): Promise<PackDetails> {
  const pack = await addPack(custodian, typeId, `EL-${++made}`, { receivedAt: START - DAY_MS });
  const looked = inspectionPayload(swollen ? { swelling: 'soft' } : {});
  await write(
    pack.id,
    readingBody([3800, 3800, 3800, 3800], { at: START }),
    recordBody('inspection', looked, START),
  ).expect(201);
  const { seq } = await row(pack.id);
  const what = { to: 'retire', because: [], secondWanted: false };
  const payload = { basedOnSeq: seq, reason: 'worn out', what };
  await write(pack.id, recordBody('decision', payload, START + HOUR_MS)).expect(201);
  return pack;
}

const step = (packId: string, payload: DisposalPayload, hours: number) =>
  write(packId, recordBody('disposal', payload, START + hours * HOUR_MS));
const RESISTOR = { by: 'resistor', ohms: 22, ratedW: 50 } as const;
const drain = (packId: string, hours = 3) =>
  step(packId, { step: 'discharging', load: RESISTOR, where: 'outdoors', attendant: 'Ineke' }, hours);

async function emptied(packId: string): Promise<void> {
  await step(packId, { step: 'marked' }, 2).expect(201);
  await drain(packId).expect(201);
  await step(packId, { step: 'verified', cellsMv: [50, 60, 40, 50] }, 10).expect(201);
  await step(packId, { step: 'verified', cellsMv: [70, 80, 60, 70] }, 35).expect(201);
}
async function binned({ swollen = false } = {}): Promise<PackDetails> {
  const pack = await retired({ swollen });
  if (swollen) {
    await step(pack.id, { step: 'marked' }, 2).expect(201);
    await step(pack.id, { step: 'unsafe', why: 'swollen' }, 3).expect(201);
  } else await emptied(pack.id);
  await step(pack.id, { step: 'insulated', how: 'taped' }, 36).expect(201);
  await step(pack.id, { step: 'binned', placeId: (swollen ? apartBin : bin) as never }, 37).expect(201);
  return pack;
}

async function consignment(more: object = {}): Promise<string> {
  const { body } = await custodian.post('/api/recyclers').send(recyclerBody(more)).expect(201);
  const id = newId();
  await custodian
    .post('/api/consignments')
    .send({ id, recyclerId: (body as { id: string }).id })
    .expect(201);
  return id;
}
const put = (id: string, packs: readonly PackDetails[], agent = custodian) =>
  agent.post(`/api/consignments/${id}/packs`).send({
    add: packs.map(({ id: packId }) => ({ packId, recordId: newId() })),
    remove: [],
    reason: null,
  });
const handOver = (id: string, packs: readonly PackDetails[], more: object = {}) =>
  custodian.post(`/api/consignments/${id}/hand-over`).send({
    at: NOW,
    handedBy: 'Ineke Varrow',
    receivedBy: null,
    receiptNumber: 'R-1',
    receiptPhotoId: null,
    rulesChecked: true,
    packs: packs.map(({ id: packId }) => ({ packId, recordId: newId() })),
    ...more,
  });

describe('the way out', () => {
  it('takes its steps in order, each with its check', async () => {
    const { id } = await retired();
    await drain(id).expect(422);
    await step(id, { step: 'marked' }, 2).expect(201);
    const lamp = { by: 'lamp', ratedV: 12, ratedW: 21 } as const;
    const wrong = { step: 'discharging', load: lamp, where: 'outdoors', attendant: 'Ineke' } as const;
    const { body } = await step(id, wrong, 3).expect(422);
    expect(reasons(body)['records.0.payload.load']).toMatch(/lamp rated 12 V burns out on a pack of 14.8 V/);
    await drain(id).expect(201);
    const { body: full } = await step(id, { step: 'verified', cellsMv: [50, 130, 40, 50] }, 9).expect(422);
    expect(reasons(full)['records.0.payload.cellsMv']).toMatch(/Cell 2 still reads 0.13 V/);
    await step(id, { step: 'verified', cellsMv: [50, 60, 40, 50] }, 10).expect(201);
    await step(id, { step: 'verified', cellsMv: [50, 60, 40, 50] }, 20).expect(422);
    await step(id, { step: 'insulated', how: 'taped' }, 20).expect(422);
    await step(id, { step: 'reinstated', reason: 'too late' }, 20).expect(422);
    // It came back overnight, and is discharged on.
    await step(id, { step: 'verified', cellsMv: [50, 400, 40, 50] }, 35).expect(201);
    expect(await row(id)).toMatchObject({ life: 'discharging', next: { do: 'verify-empty' } });
  });

  it('a harmed pack is never discharged, and lies apart', async () => {
    const { id } = await retired({ swollen: true });
    await step(id, { step: 'marked' }, 2).expect(201);
    const { body } = await drain(id).expect(422);
    expect(reasons(body)['records.0.payload.step']).toMatch(/must not be discharged/);
    await step(id, { step: 'unsafe', why: 'swollen' }, 3).expect(201);
    await step(id, { step: 'insulated', how: 'taped' }, 4).expect(201);
    await step(id, { step: 'binned', placeId: bin as never }, 5).expect(422);
    await step(id, { step: 'binned', placeId: apartBin as never }, 5).expect(201);
  });

  it('a container at its limit takes no more', async () => {
    const packs = [await binned(), await binned(), await binned()];
    const { id } = await retired();
    await emptied(id);
    await step(id, { step: 'insulated', how: 'taped' }, 36).expect(201);
    const { body } = await step(id, { step: 'binned', placeId: bin as never }, 37).expect(422);
    expect(Object.values(reasons(body))).toEqual([
      'This container is at its limit. Consign what lies in it first, or choose another.',
    ]);
    const { containers } = (await custodian.get('/api/end-of-life')).body as EndOfLifeAnswer;
    expect(containers.find(({ placeId }) => placeId === bin)).toMatchObject({ packs: 3, massG: 930 });
    const done = await consignment();
    await put(done, packs).expect(201);
    await handOver(done, packs).expect(201);
    await step(id, { step: 'binned', placeId: bin as never }, 37).expect(201);
    const last = await consignment();
    await put(last, [{ id } as PackDetails]).expect(201);
    await handOver(last, [{ id } as PackDetails]).expect(201);
  });

  it('nobody consigns or recycles a pack past its consignment', async () => {
    const pack = await binned();
    const id = await consignment();
    await step(pack.id, { step: 'consigned', consignmentId: id as never }, 40).expect(422);
    await put(id, [pack]).expect(201);
    const { body } = await step(pack.id, { step: 'recycled', consignmentId: id as never }, 41).expect(422);
    expect(Object.values(reasons(body))[0]).toMatch(/Put the pack on a consignment/);
    await handOver(id, [pack]).expect(201);
  });
});

describe('a consignment', () => {
  it('turns its packs recycled when it is handed over, and stays as it was signed', async () => {
    const packs = [await binned(), await binned({ swollen: true })];
    const id = await consignment();
    await put(id, packs).expect(201);
    await handOver(id, packs, { rulesChecked: false }).expect(422);
    await handOver(id, packs, { receiptNumber: '' }).expect(422);
    await handOver(id, packs).expect(201);
    await handOver(id, packs).expect(201);
    for (const pack of packs)
      expect(await row(pack.id)).toMatchObject({ verdict: 'recycled', placeId: null });
    await put(id, [await binned()]).expect(409);
    await custodian
      .post(`/api/consignments/${id}/corrections`)
      .send({ id: newId(), text: 'The scales showed 0.6 kg.' })
      .expect(201);
    const { body } = await custodian.get(`/api/consignments/${id}`).expect(200);
    const details = body as ConsignmentDetails;
    expect(details.lines.map(({ tag, apart }) => [tag, apart])).toEqual(
      packs.map(({ tag }, i) => [tag, i === 1]),
    );
    expect(details.corrections.map(({ text }) => text)).toEqual(['The scales showed 0.6 kg.']);
    const em = () => test.app.database.entities();
    await expect(
      em().execute(`update consignment set receipt_number = 'x' where id = ?`, [id]),
    ).rejects.toThrow(/closed consignment/);
    // A pack that is gone takes a note and nothing else.
    await write(packs[0]!.id, readingBody([3800, 3800, 3800, 3800])).expect(422);
    await write(packs[0]!.id, recordBody('note', { text: 'asked about' }, NOW)).expect(201);
  });

  it('is not signed over a list that changed meanwhile', async () => {
    const packs = [await binned(), await binned()];
    const id = await consignment();
    await put(id, packs.slice(0, 1)).expect(201);
    await put(id, packs.slice(1), deputy).expect(201);
    const { body } = await handOver(id, packs.slice(0, 1)).expect(409);
    expect((body as { detail: string }).detail).toMatch(/list changed/);
    await custodian
      .post(`/api/consignments/${id}/packs`)
      .send({ add: [], remove: [{ packId: packs[1]!.id, recordId: newId() }], reason: null })
      .expect(422);
    await custodian
      .post(`/api/consignments/${id}/packs`)
      .send({ add: [], remove: [{ packId: packs[1]!.id, recordId: newId() }], reason: 'the box is full' })
      .expect(201);
    expect(await row(packs[1]!.id)).toMatchObject({ life: 'binned' });
    await handOver(id, packs.slice(0, 1)).expect(201);
    const again = await consignment();
    await put(again, packs.slice(1)).expect(201);
    await handOver(again, packs.slice(1)).expect(201);
  });

  it('holds a pack only once, when two people put it on two lists at the same moment', async () => {
    const pack = await binned();
    const ids = [await consignment(), await consignment()];
    const answers = await Promise.all([put(ids[0]!, [pack]), put(ids[1]!, [pack], deputy)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 422]);
    const won = ids[answers.findIndex(({ status }) => status === 201)]!;
    await handOver(won, [pack]).expect(201);
  });

  it.each([
    ['chemistry', { chemistries: ['nimh'] }, false, /takes no LiPo: EL-/],
    ['harm', { takesDamaged: false }, true, /takes no damaged packs: EL-/],
    ['mass', { limitKg: 0.3 }, false, /takes 0\.3 kg at one visit; this would be 0\.3/],
  ])('takes nothing its recycler does not: %s', async (_, more, swollen, words) => {
    const pack = await binned({ swollen });
    const { body } = await put(await consignment(more), [pack]).expect(422);
    expect(Object.values(reasons(body))[0]).toMatch(words);
    expect(await row(pack.id)).toMatchObject({ life: 'binned' });
    const id = await consignment();
    await put(id, [pack]).expect(201);
    await handOver(id, [pack]).expect(201);
  });
});

describe('its papers', () => {
  let id: string;
  let packs: PackDetails[];
  beforeAll(async () => {
    packs = [await binned(), await binned({ swollen: true })];
    id = await consignment({ name: `Yard ${newId()}` });
    await put(id, packs).expect(201);
    await handOver(id, packs).expect(201);
  });

  const text = (pdf: Buffer): string => {
    const file = join(mkdtempSync(join(tmpdir(), 'malle-')), 'a.pdf');
    writeFileSync(file, pdf);
    return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  };
  const fetched = async (path: string) =>
    (await custodian.get(path).responseType('blob').expect(200)).body as Buffer;

  it('print with damaged packs apart and totals by chemistry', async () => {
    const printed = text(await fetched(`/api/consignments/${id}/manifest.pdf?zone=Europe/Amsterdam`));
    expect(printed).toMatch(/Manifest of batteries for recycling/);
    expect(printed).toMatch(/DAMAGED, not discharged, packed apart/);
    for (const { tag } of packs) expect(printed).toContain(tag);
    expect(printed).toMatch(/LiPo\s+damaged\s+1\s+0\.31\s+48\.8/);
    expect(printed).toContain('Receipt R-1');
  });

  it('open in a spreadsheet as columns, with either decimal mark, and run no formula', async () => {
    const point = (await fetched(`/api/consignments/${id}/manifest.csv`)).toString('utf8');
    expect(point.split('\r\n')[0]).toBe(
      '\uFEFFTag,Type,Chemistry,Cells in series,Mass (kg),Energy (Wh),State',
    );
    expect(point).toContain(`${packs[0]!.tag},"'=HYPERLINK(""http://x"")",LiPo,4,0.31,48.8,discharged`);
    const comma = (await fetched(`/api/consignments/${id}/manifest.csv?decimals=comma`)).toString('utf8');
    expect(comma).toContain(';4;0,31;48,8;');
  });

  it('say the same in JSON, and tell a pack’s life on one page', async () => {
    const { body } = await custodian.get(`/api/consignments/${id}/manifest.json`).expect(200);
    expect(body).toMatchObject({ format: 'malle.manifest', version: 1, receiptNumber: 'R-1' });
    const life = text(await fetched(`/api/packs/${packs[0]!.id}/certificate.pdf`));
    for (const line of ['Received', 'Retired', 'red band', 'Read on its way to empty: 0.05', 'Handed over'])
      expect(life).toContain(line);
    expect(life).toMatch(/page 1 of 1/);
  });
});

describe('a sound pack at storage charge', () => {
  const covered = { step: 'insulated-charged', how: 'each lead taped by itself' } as const;
  /** Whether sound packs may leave charged, by the house. */
  async function adopt(value: 'drained' | 'drained or at storage charge'): Promise<void> {
    const { versions } = (await custodian.get('/api/rules')).body as { versions: { version: number }[] };
    await custodian
      .post('/api/rules')
      .send({
        basedOn: versions[0]!.version,
        preset: 'even-keel',
        changes: [
          { path: 'endOfLife.handOver', value },
          // Long enough for the reading of twenty days ago to tell what it holds.
          { path: 'idle.everyDays', value: 60 },
        ],
        reason: 'The recycler says so.',
      })
      .expect(201);
  }

  it('leaves without a last discharge only where the rules say so, and only to a recycler that takes it so', async () => {
    const pack = await retired();
    await step(pack.id, { step: 'marked' }, 2).expect(201);
    const early = await step(pack.id, covered, 3).expect(422);
    expect(Object.values(reasons(early.body))).toEqual([expect.stringContaining('discharged packs only')]);
    await adopt('drained or at storage charge');
    await step(pack.id, covered, 3).expect(201);
    await step(pack.id, { step: 'binned', placeId: bin as never }, 4).expect(201);
    const { board } = (await custodian.get('/api/end-of-life')).body as EndOfLifeAnswer;
    expect(board.find(({ id }) => id === pack.id)).toMatchObject({
      life: 'binned',
      charged: true,
      apart: false,
    });

    const strict = await consignment();
    const refused = await put(strict, [pack]).expect(422);
    expect(Object.values(reasons(refused.body))).toEqual([
      expect.stringMatching(/takes discharged packs only: EL-/),
    ]);
    const open = await consignment({ takesCharged: true });
    await put(open, [pack]).expect(201);
    await handOver(open, [pack]).expect(201);
    const { text } = await custodian.get(`/api/consignments/${open}/manifest.csv`).expect(200);
    expect(text).toContain('at storage charge');
  });

  it('that is full, swollen or unread is discharged, or packed apart', async () => {
    const swollen = await retired({ swollen: true });
    await step(swollen.id, { step: 'marked' }, 2).expect(201);
    const harmed = await step(swollen.id, covered, 3).expect(422);
    expect(Object.values(reasons(harmed.body))).toEqual([expect.stringContaining('must not be discharged')]);
    const full = await retired();
    await step(full.id, { step: 'marked' }, 2).expect(201);
    await write(full.id, readingBody([4200, 4200, 4200, 4200], { at: START + 3 * HOUR_MS })).expect(201);
    const high = await step(full.id, covered, 4).expect(422);
    expect(Object.values(reasons(high.body))).toEqual([expect.stringContaining('in its storage band')]);
    await adopt('drained');
  });
});
