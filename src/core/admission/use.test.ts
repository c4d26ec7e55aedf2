import type { PersonId, PlaceId } from '../measure';
import { HOUR_MS } from '../measure';
import type { PackRecord } from '../record';
import {
  aPack,
  charge,
  correction,
  decision,
  disposal,
  flight,
  incident,
  level,
  moved,
  PLAIN,
  reading,
  received,
  SOMEBODY,
  START,
} from '../testing/histories';
import { refusalsOf } from '.';
import type { Circumstances } from '.';

const pack = aPack();
const SHELF = 'shelf' as PlaceId;
const APART = 'apart' as PlaceId;
const PILOT = 'pilot' as PersonId;
const circumstances: Circumstances = {
  ...PLAIN,
  places: new Map([
    [SHELF, { setApart: false, recycling: false, full: false }],
    [APART, { setApart: true, recycling: false, full: false }],
  ]),
};
const sound = reading(0, level(pack, 3800));
const held = [received(), sound, incident(10)];

const codes = (draft: PackRecord, records: readonly PackRecord[], hours = 100) =>
  refusalsOf(
    pack,
    records,
    draft,
    { id: SOMEBODY, role: 'custodian' },
    START + hours * HOUR_MS,
    circumstances,
  ).map(({ code, field }) => `${code} @ ${field}`);

it.each([
  ['charged', charge(11), 'out-of-use @ kind'],
  ['discharged', charge(11, { mode: 'discharge' }), 'out-of-use @ kind'],
  ['flown', flight(11), 'out-of-use @ kind'],
  ['signed out', moved(11, PILOT), 'out-of-use @ payload.holderId'],
  ['laid among sound packs', moved(11, null, SHELF), 'not-among-sound @ payload.placeId'],
])('a held pack is not %s', (_, draft, expected) => {
  expect(codes(draft, held)).toEqual([expected]);
});

it('a held pack is set apart, or taken to no place', () => {
  expect(codes(moved(11, null, APART), held)).toEqual([]);
  expect(codes(moved(11, null), held)).toEqual([]);
});

it('what began before the hold is evidence and is taken, however late it arrives', () => {
  expect(codes(flight(9.5, { minutes: 12 }), held)).toEqual([]);
  expect(codes(moved(9, PILOT), held)).toEqual([]);
  // The charge that got hot was stopped a minute after it was reported.
  expect(codes(charge(10.02, { minutes: 50, ending: 'stopped' }), held)).toEqual([]);
  expect(codes(charge(10.02, { minutes: 1 }), held)).toEqual(['out-of-use @ kind']);
});

it('a correction signs no held pack out, and lays it among no sound ones', () => {
  const apart = moved(11, null, APART);
  const records = [...held, apart];
  expect(codes(correction(12, apart, moved(11, PILOT)), records)).toEqual([
    'out-of-use @ payload.replacement.payload.holderId',
  ]);
  expect(codes(correction(12, apart, moved(11, null, SHELF)), records)).toEqual([
    'not-among-sound @ payload.replacement.payload.placeId',
  ]);
  expect(codes(correction(12, apart, moved(11, null)), records)).toEqual([]);
  // A slip in a record of before the hold is put right as ever.
  const early = moved(5, PILOT);
  expect(
    codes(correction(12, early, moved(5, null, SHELF)), [received(), sound, early, incident(10)]),
  ).toEqual([]);
});

it('a retired pack is not used either, and a recycled one takes a note and nothing else', () => {
  const gone = ([hours, payload]: [number, Parameters<typeof disposal>[1]]) => disposal(hours, payload);
  const retired = [received(), sound, decision(5, { to: 'retire', because: [], secondWanted: false })];
  expect(codes(flight(6), retired)).toEqual(['out-of-use @ kind']);
  const consignmentId = 'c' as never;
  const steps: [number, Parameters<typeof disposal>[1]][] = [
    [6, { step: 'marked' }],
    [7, { step: 'unsafe', why: 'no load at hand' }],
    [8, { step: 'insulated', how: 'tape' }],
    [9, { step: 'binned', placeId: APART }],
    [10, { step: 'consigned', consignmentId }],
    [11, { step: 'recycled', consignmentId }],
  ];
  const recycled = [...retired, ...steps.map(gone)];
  expect(codes(reading(12, level(pack, 3800)), recycled)).toEqual(['recycled @ kind']);
  expect(codes(moved(12, null), recycled)).toEqual(['recycled @ kind']);
});
