import type { PackDetails } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { PersonId } from '../../core/measure';
import { PRESET_RULES } from '../../core/rules';
import { aPack, level, reading, received, SOMEBODY, START } from '../../core/testing/histories';
import type { Outgoing } from './outbox';
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
