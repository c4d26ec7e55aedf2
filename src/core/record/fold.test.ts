import fc from 'fast-check';
import { HOUR_MS } from '../measure';
import type { PlaceId } from '../measure';
import {
  aPack,
  aRecord,
  correction,
  judged,
  level,
  note,
  reading,
  received,
  SOMEBODY,
  START,
} from '../testing/histories';
import { effectiveRecords, fold } from '.';
import type { PackRecord } from '.';

const pack = aPack();
const SHELF = '0195a000-0000-7000-8000-0000000000b1' as PlaceId;

/** Everything that matters of a judgement, without the ids of the records that carried it. */
function gist(records: readonly PackRecord[]) {
  const { verdict, mayFly, storage, steps, latest, findings } = judged(pack, records, 200);
  return {
    verdict,
    mayFly,
    steps,
    state: storage.state,
    since: 'since' in storage ? storage.since : null,
    cells: latest?.cellsMv,
    rules: findings.map(({ rule, severity }) => [rule, severity]),
  };
}

const readings = fc.array(
  fc.record({
    hours: fc.integer({ min: 0, max: 150 }),
    cellsMv: fc.array(fc.integer({ min: 2900, max: 4250 }), { minLength: 4, maxLength: 4 }),
    condition: fc.constantFrom('rested' as const, 'settling' as const, 'loaded' as const),
  }),
  { minLength: 1, maxLength: 12 },
);

describe('folding records', () => {
  it('knows where the pack is and who has it', () => {
    const moved = aRecord(1, {
      kind: 'moved',
      payload: { placeId: SHELF, holderId: SOMEBODY },
      supersedes: null,
    });
    expect(fold(pack, [received(), moved])).toMatchObject({
      placeId: SHELF,
      holderId: SOMEBODY,
      receivedAt: START - HOUR_MS,
    });
  });

  it('does not depend on the order in which records arrive', () => {
    fc.assert(
      fc.property(readings, fc.infiniteStream(fc.integer({ min: 0, max: 1000 })), (list, shuffle) => {
        const records = [
          received(),
          ...list.map(({ hours, cellsMv, condition }) => reading(hours, cellsMv, { condition })),
        ];
        const order = records.map((record) => ({ record, key: shuffle.next().value as number }));
        const shuffled = order.sort((a, b) => a.key - b.key).map(({ record }) => record);
        expect(gist(shuffled)).toEqual(gist(records));
      }),
    );
  });

  it('a correction equals never having made the mistake', () => {
    fc.assert(
      fc.property(
        readings,
        fc.nat(),
        fc.array(fc.integer({ min: 0, max: 4900 }), { minLength: 4, maxLength: 4 }),
        (list, which, slip) => {
          const right = list.map(({ hours, cellsMv, condition }) => reading(hours, cellsMv, { condition }));
          const at = which % right.length;
          const original = right[at]!;
          const wrong = reading(list[at]!.hours, slip, { condition: list[at]!.condition });
          const mistaken = right.map((record, i): PackRecord =>
            i === at ? { ...wrong, id: original.id } : record,
          );
          expect(gist([received(), ...mistaken, correction(160, original, original)])).toEqual(
            gist([received(), ...right]),
          );
        },
      ),
    );
  });

  it('a withdrawn record counts as never written', () => {
    const slip = reading(5, level(pack, 2900));
    const sound = reading(4, level(pack, 3800));
    expect(gist([sound, slip, correction(6, slip, null)])).toEqual(gist([sound]));
  });

  it('the correction made last holds, and can bring a withdrawn record back', () => {
    const first = reading(5, level(pack, 2900));
    const records = [first, correction(6, first, null), correction(7, first, reading(5, level(pack, 3810)))];
    expect(effectiveRecords(records)).toMatchObject([
      { kind: 'reading', at: first.at, payload: { volts: { cellsMv: level(pack, 3810) } } },
    ]);
  });

  it('a corrected record points at what was said and at what put it right', () => {
    const slip = reading(5, level(pack, 2900));
    const fix = correction(6, slip, reading(5, level(pack, 3400)));
    const { findings } = judged(pack, [slip, fix], 6);
    expect(findings[0]?.records).toEqual([slip.id, fix.id]);
  });

  it('notes change nothing of the judgement', () => {
    const sound = reading(4, level(pack, 3800));
    expect(gist([sound, note(5)])).toEqual(gist([sound]));
  });
});
