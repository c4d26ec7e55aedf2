import { HOUR_MS } from '../measure';
import type { PackFacts } from '../pack';
import type { PackRecord } from '../record';
import { aPack, charge, correction, flight, judged, level, reading, START } from '../testing/histories';

/** A record dated back may end a clock that everybody had seen run out: that is told until a meter settles the matter. */

const pack = aPack();
/** When a pack charged at the start must be back, in hours after it. */
const DUE = 48;
const stored = (hours: number) => charge(hours, { mode: 'storage' });
const written = (hours: number, record: PackRecord): PackRecord => ({
  ...record,
  recordedAt: START + hours * HOUR_MS,
});

function finding(records: readonly PackRecord[], of: PackFacts = pack) {
  return judged(of, records, 200).findings.find(({ rule }) => rule === 'written-late');
}

it('the clock of these tests runs out when they say', () => {
  expect(judged(pack, [charge(0)], 1).storage).toMatchObject({ dueAt: START + DUE * HOUR_MS });
});

it.each<[string, readonly PackRecord[]]>([
  ['a storage job', [charge(0), written(DUE + 5, stored(10))]],
  ['a rested reading in the band', [charge(0), written(DUE + 5, reading(20, level(pack, 3_800)))]],
  ['a flight', [charge(0), written(DUE + 5, flight(30))]],
  [
    'what is dated after it had run out, and still long before it was written',
    [charge(0), written(DUE + 40, stored(DUE + 20))],
  ],
  [
    'what is found low, which starts the other clock',
    [charge(0), written(DUE + 5, reading(20, level(pack, 3_600)))],
  ],
  [
    'what a later record, written late as well, says again',
    [charge(0), written(DUE + 5, stored(10)), written(DUE + 40, reading(20, level(pack, 3_800)))],
  ],
])('%s, written when the clock had run out, is told', (_, records) => {
  const found = finding(records);
  expect(found).toMatchObject({
    severity: 'note',
    at: records[1]!.at,
    recordedAt: records[1]!.recordedAt,
    dueAt: START + DUE * HOUR_MS,
    records: [records[0]!.id, records[1]!.id],
  });
});

const slip = written(DUE + 5, stored(10));
it.each<[string, readonly PackRecord[]]>([
  ['was written within twelve hours', [charge(0), written(DUE + 5, stored(DUE - 6))]],
  ['was written before the clock had run out', [charge(0), written(DUE, stored(10))]],
  [
    'ended a clock that nobody knew of before either',
    [written(DUE + 5, charge(0)), written(DUE + 5, stored(10))],
  ],
  ['is settled by a reading written in time', [charge(0), slip, reading(DUE + 10, level(pack, 3_800))]],
  ['changed nothing: the clock runs on', [charge(0), written(DUE + 5, reading(10, level(pack, 4_190)))]],
  ['was withdrawn', [charge(0), slip, correction(DUE + 6, slip, null)]],
])('nothing is told where what ended it %s', (_, records) => {
  expect(finding(records)).toBeUndefined();
});

it('packs that no clock runs for are left alone', () => {
  const records = [charge(0), written(DUE + 5, stored(10))];
  expect(
    finding(records, aPack({ smart: { autoStorage: true, autoStorageAfterHours: 24 } })),
  ).toBeUndefined();
  expect(finding(records, aPack({ chemistry: 'nimh', series: 6 }))).toBeUndefined();
});

it('asks for a reading, and takes no pack out of use', () => {
  const { verdict, steps } = judged(pack, [charge(0), slip], 200);
  expect(verdict).toBe('fit');
  expect(steps).toContainEqual(expect.objectContaining({ do: 'measure-rested' }));
});
