import type { PackDetails } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { EntryBody } from '../../core/incident';
import type { EntryId, IncidentId, PackId, PersonId, RecordId } from '../../core/measure';
import { PRESET_RULES } from '../../core/rules';
import { aPack, level, reading, received, SOMEBODY, START } from '../../core/testing/histories';
import type { Outgoing } from '../app/outbox';
import { factsOf } from './packFacts';
import { REGISTER, TYPE_ID } from '../testing/rows';
import { packView, provisional, withWaiting } from './packView';

const RULES = PRESET_RULES['even-keel'];
const NOW = START + 100 * HOUR_MS;
const facts = aPack();
const stored = [received(), reading(1, level(facts, 4200))];
const pack: PackDetails = {
  id: facts.id,
  version: 1,
  tag: 'HX-01',
  formerTags: [],
  typeId: TYPE_ID,
  owner: null,
  homePlaceId: null,
  inServiceAt: null,
  fieldPack: true,
  smart: null,
  deliveryId: null,
  records: stored,
  siblings: {},
};

function outgoing(mv: number, more: Partial<Outgoing> = {}): Outgoing {
  const { id, at, kind, payload, supersedes } = reading(50, level(facts, mv));
  return {
    id,
    packId: pack.id,
    by: SOMEBODY,
    drafts: [{ id, at, kind, payload, supersedes } as Outgoing['drafts'][number]],
    round: null,
    state: 'waiting',
    problem: null,
    ...more,
  };
}

it('takes a pack’s own facts and its type’s', () => {
  expect(factsOf(pack, REGISTER.types[0]!, REGISTER)).toMatchObject({
    id: pack.id,
    fieldPack: true,
    chemistry: 'lipo',
    series: 6,
    capacityMah: 16_000,
  });
});

it('judges with what waits on this device, as if it had arrived', () => {
  const records = withWaiting(pack, [outgoing(3800)], NOW);
  expect(records.map(({ seq }) => seq)).toEqual([stored[0]!.seq, stored[1]!.seq, 3]);
  expect(packView(facts, stored, RULES, NOW).assessment.storage.state).toBe('high');
  expect(packView(facts, records, RULES, NOW).assessment.storage.state).toBe('in-band');
});

it('leaves out what was refused, what belongs to another pack, and what has arrived meanwhile', () => {
  const arrived = outgoing(3800);
  const known = { ...pack, records: [...stored, provisional(pack, arrived.drafts[0]!, SOMEBODY, 3, NOW)] };
  const others = [
    outgoing(2900, { state: 'refused' }),
    outgoing(2900, { packId: 'another' as typeof pack.id }),
    arrived,
  ];
  expect(withWaiting(known, others, NOW)).toEqual(known.records);
});

it('a record being typed counts as written by whoever types it', () => {
  const typist = 'typist' as PersonId;
  expect(provisional(pack, outgoing(3800).drafts[0]!, typist, 9, NOW)).toMatchObject({
    by: typist,
    seq: 9,
    recordedAt: NOW,
  });
});

describe('an incident that waits on this device', () => {
  const another = 'another' as typeof pack.id;
  const incidentId = 'incident' as IncidentId;
  const post = (entry: EntryBody, packIds: readonly PackId[]): Outgoing => ({
    ...outgoing(3800),
    packId: null,
    drafts: [],
    incident: {
      id: incidentId,
      kind: 'crash',
      at: START + 99 * HOUR_MS,
      entries: [{ ...entry, id: 'entry' as EntryId, at: NOW }],
      packRecords: packIds.map((packId) => ({ packId, recordId: `record-${packId}` as RecordId })),
    },
  });
  const reported = (packIds: readonly PackId[], holds = true): EntryBody => ({
    kind: 'reported',
    payload: {
      kind: 'crash',
      place: null,
      what: null,
      packIds,
      personIds: [],
      craft: null,
      charger: null,
      harm: null,
      photoIds: [],
      holds,
    },
  });
  const judged = (item: Outgoing) => packView(facts, withWaiting(pack, [item], NOW), RULES, NOW).assessment;

  it('holds the packs it names at once, and no other', () => {
    expect(judged(post(reported([pack.id]), [pack.id]))).toMatchObject({ verdict: 'hold', mayFly: 'no' });
    expect(judged(post(reported([another]), [another])).verdict).not.toBe('hold');
    expect(judged(post(reported([pack.id], false), [pack.id])).verdict).not.toBe('hold');
  });

  it('holds a pack named later, from when it happened on', () => {
    const named: EntryBody = { kind: 'named', payload: { packIds: [pack.id], holds: true } };
    expect(judged(post(named, [pack.id]))).toMatchObject({ verdict: 'hold', outSince: START + 99 * HOUR_MS });
  });

  it('says nothing of a pack by what is merely told', () => {
    const told: EntryBody = { kind: 'told', payload: { text: 'It spun.', photoIds: [] } };
    expect(withWaiting(pack, [post(told, [])], NOW)).toEqual(stored);
  });
});
