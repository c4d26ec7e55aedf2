import fc from 'fast-check';
import { assess } from '../assess';
import type { PersonId, PlaceId } from '../measure';
import { aPack, aRecord, disposal, EVEN_KEEL, moved, reading, START } from '../testing/histories';
import { BLANK_RETURNED, BLANK_TAKEN_OUT, fold } from '.';
import type { PackRecord, TakenOutPayload } from '.';

const [ADA, BEN, CORA] = ['ada', 'ben', 'cora'] as readonly string[] as readonly [
  PersonId,
  PersonId,
  PersonId,
];
const pack = aPack();
const HOUR = 3_600_000;

const takes = (hours: number, by: PersonId, more: Partial<TakenOutPayload> = {}) =>
  aRecord(hours, { kind: 'taken-out', payload: { ...BLANK_TAKEN_OUT, ...more }, supersedes: null }, { by });
const returns = (hours: number, placeId: PlaceId | null = null) =>
  aRecord(hours, { kind: 'returned', payload: { ...BLANK_RETURNED, placeId }, supersedes: null });
const custody = (...records: readonly PackRecord[]) => fold(pack, records).custody;

it('whoever takes a pack out has it until it comes back, and it lies nowhere meanwhile', () => {
  const home = 'cabinet' as PlaceId;
  const out = fold(pack, [moved(0, null, home), takes(1, ADA, { dueBackAt: START + 9 * HOUR })]);
  expect(out).toMatchObject({
    holderId: ADA,
    placeId: null,
    custody: { since: START + HOUR, dueBackAt: START + 9 * HOUR },
  });
  expect(fold(pack, [takes(1, ADA), returns(5, home)])).toMatchObject({
    holderId: null,
    placeId: home,
    custody: null,
  });
});

it('a hand-over names whom it is from, and contradicts nobody', () => {
  expect(custody(takes(1, ADA), takes(3, BEN, { fromId: ADA }))).toMatchObject({
    holderId: BEN,
    alsoWith: null,
  });
  expect(custody(takes(1, ADA), takes(3, ADA, { holderId: BEN, fromId: ADA }))).toMatchObject({
    holderId: BEN,
    alsoWith: null,
  });
});

it('two who took it and did not know of each other are both told, whichever entry arrives first', () => {
  const [first, second] = [takes(1, ADA), takes(2, BEN)];
  for (const records of [
    [first, second],
    [second, first],
  ]) {
    expect(custody(...records)).toMatchObject({
      holderId: BEN,
      alsoWith: { person: ADA, since: START + HOUR },
    });
    const finding = assess(fold(pack, records), EVEN_KEEL, START + 3 * HOUR).findings.find(
      ({ rule }) => rule === 'two-hands',
    );
    expect(finding).toMatchObject({
      severity: 'note',
      first: ADA,
      second: BEN,
      records: [first.id, second.id],
    });
  }
});

it('either of them answers, or the pack comes back', () => {
  const both = [takes(1, ADA), takes(2, BEN)];
  expect(custody(...both, takes(3, ADA, { fromId: BEN }))).toMatchObject({ holderId: ADA, alsoWith: null });
  expect(custody(...both, takes(3, BEN))).toMatchObject({ holderId: BEN, alsoWith: null });
  expect(custody(...both, returns(3))).toBeNull();
  // A third who knew of neither contradicts whoever had it last.
  expect(custody(...both, takes(3, CORA))).toMatchObject({ holderId: CORA, alsoWith: { person: BEN } });
});

it('a return of a pack nobody took is evidence of where it lies', () => {
  expect(fold(pack, [returns(2, 'box' as PlaceId)])).toMatchObject({ placeId: 'box', custody: null });
});

it('a pack only said to be in somebody’s hands is in their custody, and moving it with them changes nothing', () => {
  const out = custody(moved(1, ADA), moved(2, ADA, 'van' as PlaceId));
  expect(out).toMatchObject({ holderId: ADA, since: START + HOUR, recordId: null });
  expect(custody(moved(1, ADA), moved(2, null))).toBeNull();
  expect(custody(takes(1, ADA), disposal(4, { step: 'binned', placeId: 'bin' as PlaceId }))).toBeNull();
});

it('custody and holder never disagree, in whatever order entries arrive', () => {
  const entry = fc.oneof(
    fc
      .record({
        hour: fc.integer({ min: 1, max: 60 }),
        by: fc.constantFrom(ADA, BEN, CORA),
        from: fc.option(fc.constantFrom(ADA, BEN)),
      })
      .map(({ hour, by, from }) => takes(hour, by, { fromId: from })),
    fc.integer({ min: 1, max: 60 }).map((hour) => returns(hour)),
    fc
      .record({ hour: fc.integer({ min: 1, max: 60 }), to: fc.option(fc.constantFrom(ADA, BEN)) })
      .map(({ hour, to }) => moved(hour, to)),
    fc.integer({ min: 1, max: 60 }).map((hour) => reading(hour, [3_800, 3_800, 3_800, 3_800])),
  );
  fc.assert(
    fc.property(fc.array(entry, { maxLength: 12 }), fc.integer(), (records, turn) => {
      const shuffled = [...records].sort((a, b) => ((a.seq * turn) % 7) - ((b.seq * turn) % 7));
      const [one, other] = [fold(pack, records), fold(pack, shuffled)];
      expect(one.custody?.holderId ?? null).toBe(one.holderId);
      expect(other.custody).toEqual(one.custody);
      expect(one.custody?.alsoWith?.person).not.toBe(one.holderId ?? 'nobody');
    }),
  );
});
