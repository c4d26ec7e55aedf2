import { HOUR_MS, MINUTE_MS } from '../measure';
import type { PersonId } from '../measure';
import {
  aPack,
  correction,
  level,
  note,
  reading,
  received,
  PLAIN,
  SOMEBODY,
  START,
  total,
} from '../testing/histories';
import { CLOCK_SLACK_MS, refusalsOf } from '.';
import type { Actor } from '../lifecycle';
import type { PackRecord } from '../record';

const pack = aPack();
const CUSTODIAN: Actor = { id: SOMEBODY, role: 'custodian' };
const OTHER_PILOT: Actor = { id: '0195a000-0000-7000-8000-000000000002' as PersonId, role: 'pilot' };
const NOW = START + 100 * HOUR_MS;

function codes(draft: PackRecord, { records = [received()], actor = CUSTODIAN, of = pack, now = NOW } = {}) {
  return refusalsOf(of, records, draft, actor, now, PLAIN).map(({ code, field }) => `${code} @ ${field}`);
}

it('takes a sound reading', () => {
  expect(codes(reading(1, level(pack, 3800)))).toEqual([]);
});

it.each([
  ['too few cells', [3800, 3800, 3800], 'cell-count @ payload.volts'],
  ['too many cells', [3800, 3800, 3800, 3800, 3800], 'cell-count @ payload.volts'],
  ['a cell no chemistry reaches', [3800, 3800, 5001, 3800], 'cell-impossible @ payload.volts'],
])('refuses %s', (_, cellsMv, expected) => {
  expect(codes(reading(1, cellsMv))).toEqual([expected]);
});

it('refuses the total of a pack that has cell taps, and takes it where there are none or only one cell', () => {
  expect(codes(total(1, 15_200))).toEqual(['cells-wanted @ payload.volts']);
  expect(codes(total(1, 3800), { of: aPack({ series: 1 }) })).toEqual([]);
  expect(codes(total(1, 7500), { of: aPack({ chemistry: 'nimh', series: 6 }) })).toEqual([]);
  expect(codes(total(1, 15_000), { of: aPack({ chemistry: 'nimh', series: 6 }) })).toEqual([
    'cell-impossible @ payload.volts',
  ]);
});

it('refuses the future, but forgives a clock a little fast', () => {
  const draft = reading(100, level(pack, 3800));
  expect(codes(draft, { now: NOW - CLOCK_SLACK_MS })).toEqual([]);
  expect(codes(draft, { now: NOW - CLOCK_SLACK_MS - 1 })).toEqual(['in-the-future @ at']);
});

it('refuses what is dated before the pack was received, and a second receipt', () => {
  expect(codes({ ...note(-1), at: START - HOUR_MS - MINUTE_MS })).toEqual(['before-receipt @ at']);
  expect(codes(received(1))).toEqual(['received-twice @ kind']);
});

describe('corrections', () => {
  const first = reading(1, level(pack, 3800));
  const records = [received(), first];

  it('may replace or withdraw', () => {
    expect(codes(correction(2, first, reading(1, level(pack, 3700))), { records })).toEqual([]);
    expect(codes(correction(2, first, null), { records })).toEqual([]);
  });

  it('must name a record of this pack that is no correction itself', () => {
    const fix = correction(2, first, null);
    expect(codes(correction(2, note(1), null), { records })).toEqual(['corrects-nothing @ supersedes']);
    expect(codes(correction(3, fix, null), { records: [...records, fix] })).toEqual([
      'corrects-nothing @ supersedes',
    ]);
  });

  it('keep the kind, and are held to the same limits', () => {
    expect(codes(correction(2, first, note(1)), { records })).toEqual([
      'corrects-other-kind @ payload.replacement',
    ]);
    expect(codes(correction(2, first, reading(1, [3800])), { records })).toEqual([
      'cell-count @ payload.replacement.payload.volts',
    ]);
  });

  it('of others’ records are for custodian and deputy', () => {
    const withdrawal = correction(2, first, null);
    expect(codes(withdrawal, { records, actor: OTHER_PILOT })).toEqual(['not-yours-to-correct @ supersedes']);
    expect(codes(withdrawal, { records, actor: { ...OTHER_PILOT, role: 'deputy' } })).toEqual([]);
    expect(codes(withdrawal, { records, actor: { id: SOMEBODY, role: 'pilot' } })).toEqual([]);
  });

  it('cannot withdraw the receipt', () => {
    const receipt = received();
    expect(codes(correction(2, receipt, null), { records: [receipt] })).toEqual([
      'receipt-stays @ payload.replacement',
    ]);
  });
});
