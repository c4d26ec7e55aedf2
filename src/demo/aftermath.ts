import { answersTo } from '../core/admission';
import { assess } from '../core/assess';
import { seededId } from '../core/cellsim';
import type { Random } from '../core/cellsim';
import type { Cause, EntryBody, IncidentKind } from '../core/incident';
import { INCIDENT_FACTS } from '../core/incident';
import { answeredItems, DEFAULT_CHECKLISTS } from '../core/inspection';
import type { DisposalPayload } from '../core/lifecycle';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../core/measure';
import type {
  ConsignmentId,
  EntryId,
  IncidentId,
  Instant,
  PackId,
  RecordId,
  RecyclerId,
  TaskId,
} from '../core/measure';
import { BLANK_MEMORY, fold } from '../core/record';
import type { MemoryWork, OwnMemory, RecordBody, RecordDraft } from '../core/record';
import { addEntries } from '../server/incidents';
import { allFacts, append, placeTemperatures, recordsOf, rulesInForce } from '../server/ledger';
import type { Entities } from '../server/platform/database';
import { packIdByTag } from '../server/packs';
import { changePacks, closeConsignment, startConsignment } from '../server/recycling';
import type { PersonKey } from './cast';
import { actorOf } from './diary';
import type { Directory } from './diary';

/**
 * What followed when it went wrong, and what became of packs that were over: incidents, decisions, the way to the recycler.
 * It goes through the same services as the real thing, after the packs' own stories.
 * @returns how many records it added
 */
export async function layDownAftermath(
  em: Entities,
  directory: Directory,
  random: Random,
  now: Instant,
): Promise<number> {
  const story = new Aftermath(em, directory, random);
  await incidents(story, now);
  await crashLookedAt(story, now);
  await heldAndReleased(story, now);
  await memories(story, now);
  await wayOut(story, now);
  return story.records;
}

class Aftermath {
  records = 0;

  constructor(
    readonly em: Entities,
    readonly directory: Directory,
    private readonly random: Random,
  ) {}

  id<Id extends string>(at: Instant): Id {
    return seededId(this.random, at) as Id;
  }

  async pack(tag: string): Promise<PackId> {
    const id = await packIdByTag(this.em, tag);
    if (!id) throw new Error(`The story names no pack ${tag}.`);
    return id;
  }

  /** One record of one pack, written where and when it happened. */
  async write(tag: string, by: PersonKey, at: Instant, body: RecordBody): Promise<RecordId> {
    const id = this.id<RecordId>(at);
    const draft = { ...body, id, at } as RecordDraft;
    const actor = actorOf(by, this.directory);
    await append(this.em, await this.pack(tag), [draft], () => ({ actor, recordedAt: at + MINUTE_MS }));
    this.records += 1;
    return id;
  }

  disposal(tag: string, by: PersonKey, at: Instant, payload: DisposalPayload): Promise<RecordId> {
    return this.write(tag, by, at, { kind: 'disposal', payload, supersedes: null });
  }

  async seq(tag: string): Promise<number> {
    return (await recordsOf(this.em, await this.pack(tag))).length;
  }

  async retire(tag: string, by: PersonKey, at: Instant, because: readonly string[], reason: string) {
    const payload = {
      basedOnSeq: await this.seq(tag),
      reason,
      what: { to: 'retire', because, secondWanted: false },
    } as const;
    await this.write(tag, by, at, { kind: 'decision', payload, supersedes: null });
  }

  /** A release answers whatever held the pack at that moment. */
  async release(tag: string, by: PersonKey, at: Instant, watchUntil: Instant, reason: string) {
    const id = await this.pack(tag);
    const [facts] = await allFacts(this.em, [id]);
    const records = (await recordsOf(this.em, id)).map(({ record }) => record);
    const pack = { ...facts!, placeTemperatures: await placeTemperatures(this.em) };
    const { findings } = assess(fold(pack, records), (await rulesInForce(this.em)).rules, at);
    const what = { to: 'release', answers: answersTo(findings), watch: { until: watchUntil } } as const;
    const payload = { basedOnSeq: records.length, reason, what };
    await this.write(tag, by, at, { kind: 'decision', payload, supersedes: null });
  }

  async incident(by: PersonKey, at: Instant, told: Told): Promise<void> {
    const id = this.id<IncidentId>(at);
    const packIds = await Promise.all(told.tags.map((tag) => this.pack(tag)));
    const report: EntryBody = {
      kind: 'reported',
      payload: {
        kind: told.kind,
        place: told.place,
        what: told.what,
        packIds,
        personIds: [],
        craft: told.craft ?? null,
        charger: told.charger ?? null,
        harm: told.harm ?? null,
        photoIds: [],
        holds: INCIDENT_FACTS[told.kind].holds !== 'no',
      },
    };
    await this.add(id, by, at, report, packIds);
    this.records += packIds.length;
    for (const { hours, by: who, ...body } of told.then ?? [])
      await this.add(id, who, at + hours * HOUR_MS, body);
  }

  private async add(
    id: IncidentId,
    by: PersonKey,
    at: Instant,
    body: EntryBody,
    packIds: readonly PackId[] = [],
  ) {
    const entry = { ...body, id: this.id<EntryId>(at), at };
    const packRecords = packIds.map((packId) => ({ packId, recordId: this.id<RecordId>(at) }));
    const actor = actorOf(by, this.directory);
    await addEntries(this.em, { id, entries: [entry], packRecords }, actor, at + MINUTE_MS);
  }
}

interface Told {
  readonly kind: IncidentKind;
  readonly tags: readonly string[];
  readonly place: string | null;
  readonly what: string | null;
  readonly craft?: string;
  readonly charger?: string;
  readonly harm?: string;
  readonly then?: readonly ({ readonly hours: number; readonly by: PersonKey } & EntryBody)[];
}

const cause = (hours: number, by: PersonKey, why: Cause, text: string) =>
  ({ hours, by, kind: 'cause', payload: { cause: why, text } }) as const;

async function incidents(story: Aftermath, now: Instant): Promise<void> {
  const task = (hours: number, by: PersonKey, text: string, owner: PersonKey, dueAt: Instant) =>
    ({
      hours,
      by,
      kind: 'task',
      payload: { id: story.id<TaskId>(now), text, ownerId: story.directory.person(owner), dueAt },
    }) as const;
  await story.incident('bram', now - 22 * DAY_MS, {
    kind: 'crash',
    tags: ['HX-12'],
    place: 'The long sandbank',
    what: 'Came down hard short of the sandbank and was left plugged in over lunch.',
    craft: 'Mapping hexacopter',
    harm: 'One arm cracked, nobody near.',
    then: [
      cause(5, 'ineke', 'mechanical', 'A motor mount had worked loose.'),
      {
        hours: 6,
        by: 'ineke',
        kind: 'lesson',
        payload: { text: 'Mounts are checked before every survey week.' },
      },
      { hours: 60, by: 'ineke', kind: 'closed', payload: { note: 'Arm replaced, pack retired.' } },
    ],
  });
  await story.incident('fenn', now - 6 * DAY_MS + 15 * MINUTE_MS, {
    kind: 'crash',
    tags: ['IQ-09'],
    place: 'The reeds east of the lock',
    what: 'Lost its heading on the way back and came down in the reeds from eight metres.',
    craft: 'Inspection quad',
    then: [task(30, 'ineke', 'Calibrate the compass and fly the box pattern', 'tolle', now + 2 * DAY_MS)],
  });
  await story.incident('ossian', now - 43 * HOUR_MS, {
    kind: 'overheated',
    tags: ['IQ-10'],
    place: 'The pier',
    what: 'Too hot to hold after six minutes.',
    craft: 'Inspection quad',
    then: [
      cause(20, 'tolle', 'heat-or-load', 'Steeper propellers than the motors stand.'),
      task(20, 'tolle', 'Put the old propellers back on both inspection quads', 'ossian', now - 5 * HOUR_MS),
    ],
  });
  await story.incident('adela', now - 27.4 * HOUR_MS, {
    kind: 'over-discharged',
    tags: ['FW-03'],
    place: 'North mudflat',
    what: 'Read 2.28 V on cell 3 after landing.',
    craft: 'Survey wing',
    then: [
      cause(2, 'ineke', 'cut-off-other-count', 'The cut-off stood at three cells, the pack has four.'),
      task(3, 'ineke', 'Check the cut-off on every wing', 'adela', now + 1 * DAY_MS),
    ],
  });
  await story.incident('fenn', now - 17.8 * HOUR_MS, {
    kind: 'overcharged',
    tags: ['TR-08'],
    place: 'Workshop',
    what: 'The charger still stood on the high-voltage setting.',
    charger: 'Six-port charger',
  });
  await story.incident('bram', now - 22 * MINUTE_MS, {
    kind: 'crash',
    tags: ['TR-07'],
    place: 'Behind the boat shed',
    what: 'Trainer into the quay wall.',
    craft: 'Trainer',
  });
}

const look = (occasion: 'after-crash' | 'scheduled', thicknessMm: number, remarks: string): RecordBody => ({
  kind: 'inspection',
  payload: {
    occasion,
    items: answeredItems(DEFAULT_CHECKLISTS[occasion], {}),
    swelling: 'none',
    thicknessMm,
    massG: null,
    remarks,
  },
  supersedes: null,
});

/** The crash in the reeds: watched, looked over, read. It waits for the custodian's word. */
function crashLookedAt(story: Aftermath, now: Instant) {
  const at = now - 5 * DAY_MS - HOUR_MS;
  return story.write('IQ-09', 'ineke', at, look('after-crash', 36.1, 'Scuffed at one corner, nothing bent.'));
}

/** Held on a suspicion some weeks ago, looked over and let go on. */
async function heldAndReleased(story: Aftermath, now: Instant): Promise<void> {
  const at = now - 33 * DAY_MS;
  const hold = { basedOnSeq: await story.seq('GS-03'), reason: 'Smelt sweet when the box was opened.' };
  await story.write('GS-03', 'tolle', at, {
    kind: 'decision',
    payload: { ...hold, what: { to: 'hold' } },
    supersedes: null,
  });
  await story.write(
    'GS-03',
    'ineke',
    at + DAY_MS,
    look('scheduled', 88.1, 'It was the glue of the new foam.'),
  );
  await story.write('GS-03', 'ineke', at + DAY_MS + MINUTE_MS, {
    kind: 'reading',
    payload: {
      volts: { of: 'cells', cellsMv: [3280, 3280, 3280, 3280] },
      condition: 'rested',
      instrument: 'Bench meter',
      meterErrorMv: 3,
      temperatureC: null,
      remarks: null,
    },
    supersedes: null,
  });
  const reason = 'The smell came from the new foam; the pack is sound.';
  await story.release('GS-03', 'ineke', at + DAY_MS + HOUR_MS, at + 20 * DAY_MS, reason);
}

/** Two smart packs whose memories were looked at: one with its own storage off, one that was set and not read back. */
async function memories(story: Aftermath, now: Instant): Promise<void> {
  const memory = (did: MemoryWork, said: Partial<OwnMemory>): RecordBody => ({
    kind: 'memory',
    payload: { did, memory: { ...BLANK_MEMORY, ...said }, adapterId: null, remarks: null },
    supersedes: null,
  });
  const none = { overCharges: 0, overDischarges: 0, overTemperatures: 0 };
  await story.write(
    'IQ-06',
    'ineke',
    now - 9 * DAY_MS,
    memory('read', {
      ...none,
      number: 'N-IQ-06',
      storage: { isOn: false, afterHours: null, mv: null },
      topMv: 4350,
      chargeA: 4,
      cycles: 22,
      firmware: '1.02',
      firmwareDate: '2025-03-10',
    }),
  );
  await story.write(
    'IQ-02',
    'ineke',
    now - 3 * DAY_MS,
    memory('written', { storage: { isOn: true, afterHours: 48, mv: 3850 } }),
  );
}

/** Packs that are over, at every distance from the recycler. */
async function wayOut(story: Aftermath, now: Instant): Promise<void> {
  const emptied = async (tag: string, cells: number, from: Instant, load: DisposalPayload) => {
    await story.disposal(tag, 'ineke', from, { step: 'marked' });
    await story.disposal(tag, 'ineke', from + HOUR_MS, load);
    const cellsMv = Array.from({ length: cells }, (_, i) => 30 + 10 * (i % 3));
    await story.disposal(tag, 'ineke', from + 8 * HOUR_MS, { step: 'verified', cellsMv });
    return cellsMv;
  };
  const binned = async (tag: string, cells: number, from: Instant, load: DisposalPayload) => {
    const cellsMv = await emptied(tag, cells, from, load);
    const placeId = story.directory.place('recycling');
    await story.disposal(tag, 'ineke', from + 34 * HOUR_MS, {
      step: 'verified',
      cellsMv: cellsMv.map((mv) => mv + 30),
    });
    const how = 'leads cut one at a time, ends taped';
    await story.disposal(tag, 'ineke', from + 34.2 * HOUR_MS, { step: 'insulated', how });
    await story.disposal(tag, 'ineke', from + 34.3 * HOUR_MS, { step: 'binned', placeId });
  };
  const drained = (load: Extract<DisposalPayload, { step: 'discharging' }>['load']): DisposalPayload => ({
    step: 'discharging',
    load,
    where: 'outdoors',
    attendant: 'Ineke Varrow',
  });
  const small = drained({ by: 'resistor', ohms: 22, ratedW: 5 });

  // Gone already, with a receipt.
  const longAgo = now - 96 * DAY_MS;
  await story.retire('TX-06', 'ineke', longAgo, [], 'Leaks down overnight; not worth its place.');
  await binned('TX-06', 6, longAgo + HOUR_MS, drained({ by: 'lamp', ratedV: 12, ratedW: 5 }));
  await story.retire('TR-12', 'ineke', longAgo, ['capacity'], 'Flies two minutes, then sinks.');
  await binned('TR-12', 1, longAgo + HOUR_MS, small);
  await consigned(story, ['TX-06', 'TR-12'], longAgo + 9 * DAY_MS);

  // In the box, waiting for the next trip to the yard.
  await story.retire(
    'HX-12',
    'ineke',
    now - 20 * DAY_MS,
    ['over-discharged', 'incident'],
    'Came down hard, was left plugged in, and cell 3 went under 2.9 V.',
  );
  await binned('HX-12', 6, now - 19 * DAY_MS, drained({ by: 'lamp', ratedV: 24, ratedW: 70 }));
  await story.retire('TR-10', 'tolle', now - 8 * DAY_MS, ['run-time'], 'Out of breath after three minutes.');
  await binned('TR-10', 1, now - 8 * DAY_MS + HOUR_MS, small);

  // Read as empty this morning; tomorrow it is read again.
  await story.retire('TR-13', 'ineke', now - 2 * DAY_MS, ['idle'], 'Nobody flies it any more.');
  await emptied('TR-13', 1, now - 14 * HOUR_MS, small);
}

async function consigned(story: Aftermath, tags: readonly string[], at: Instant): Promise<void> {
  const { em, directory } = story;
  const actor = actorOf('ineke', directory);
  const id = story.id<ConsignmentId>(at);
  const [recycler]: { id: RecyclerId }[] = await em.execute(
    `select id from recycler where takes_damaged limit 1`,
  );
  await startConsignment(em, { id, recyclerId: recycler!.id }, actor, at);
  const steps = async () => {
    const taken = [];
    // One after the other: ids are drawn in this order, so that the same start gives the same register.
    for (const tag of tags) taken.push({ packId: await story.pack(tag), recordId: story.id<RecordId>(at) });
    return taken;
  };
  await changePacks(em, id, { add: await steps(), remove: [], reason: null }, actor, at);
  await closeConsignment(
    em,
    id,
    {
      at: at + 2 * HOUR_MS,
      handedBy: 'Ineke Varrow',
      receivedBy: 'the yard’s foreman',
      receiptNumber: 'EM-2291',
      receiptPhotoId: null,
      rulesChecked: true,
      packs: await steps(),
    },
    actor,
    at + 2 * HOUR_MS,
  );
  story.records += 2 * tags.length;
}
