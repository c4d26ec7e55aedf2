import type { VoltsRefusal } from '../reading';
import type { RecordRefusal } from '../admission';
import { recordRefusalSentence, voltsRefusalSentence } from '.';

/** Every way typed volts can be refused, and what is said: what is wrong, then what to do. */
const VOLTS: readonly (readonly [VoltsRefusal, RegExp])[] = [
  [{ code: 'not-a-number', token: '38x' }, /“38x” is not a voltage\. Type volts like 384, 3\.84 or 3,84/],
  [{ code: 'too-coarse', token: '38' }, /“38” is too coarse\. Type hundredths: 380/],
  [{ code: 'negative', token: '-3.84' }, /wrong way round, or a cell is reversed.*do not charge it/],
  [{ code: 'impossible', cell: 2, mv: 5830, maxMv: 5000 }, /Cell 2 at 5\.83 V cannot be.*Check the figure/],
  [{ code: 'too-few', given: 3, wanted: 4 }, /3 of 4 cells typed\. Every cell counts/],
  [{ code: 'too-many', given: 5, wanted: 4 }, /5 values for a 4-cell pack\. Is this the right tag/],
  [
    { code: 'pack-total', packMv: 15_360, averageMv: 3840, wanted: 4 },
    /15\.36 V for the pack is 3\.84 V a cell on average.*Type all 4 cells/,
  ],
  [
    { code: 'total-disagrees', sumMv: 15_360, totalMv: 14_100 },
    /add up to 15\.36 V but the pack is given as 14\.10 V\. Read it again/,
  ],
];

it.each(VOLTS)('%j', (why, words) => {
  expect(voltsRefusalSentence(why)).toMatch(words);
});

const RECORDS: readonly (readonly [RecordRefusal, RegExp])[] = [
  [
    { code: 'cell-count', field: 'f', given: 1, wanted: 4 },
    /has 4 cells, but 1 voltage came\. Check the tag/,
  ],
  [{ code: 'cell-impossible', field: 'f', cell: 3, mv: 9000, maxMv: 5000 }, /Cell 3 at 9\.00 V cannot be/],
  [{ code: 'cells-wanted', field: 'f', wanted: 6 }, /hides the weak cell\. Give all 6 cells/],
  [{ code: 'in-the-future', field: 'f', at: 1, now: 0 }, /has not come yet\. Give the moment it happened/],
  [{ code: 'before-receipt', field: 'f', receivedAt: 0 }, /before the pack was received\. Correct the date/],
  [{ code: 'received-twice', field: 'f' }, /received already/],
  [{ code: 'corrects-nothing', field: 'f' }, /no such record on this pack/],
  [
    { code: 'corrects-other-kind', field: 'f', kind: 'reading' },
    /A reading can only be replaced by a reading/,
  ],
  [{ code: 'receipt-stays', field: 'f' }, /put right but not withdrawn/],
  [{ code: 'not-yours-to-correct', field: 'f' }, /somebody else’s record\. Ask them/],
];

it.each(RECORDS)('%j', (why, words) => {
  expect(recordRefusalSentence(why)).toMatch(words);
});
