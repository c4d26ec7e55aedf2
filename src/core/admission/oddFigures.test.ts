import { fold } from '../record';
import type { PackRecord, RecordBody } from '../record';
import { aPack, charge, EVEN_KEEL, flight, level, reading, START } from '../testing/histories';
import { HOUR_MS } from '../measure';
import { oddFigures } from '.';

const pack = aPack();
const asked = (before: readonly PackRecord[], typed: PackRecord) =>
  oddFigures(fold(pack, before), before, typed as RecordBody, EVEN_KEEL, START + 10 * HOUR_MS).map(
    ({ code, field }) => `${code} ${field}`,
  );
const full = [charge(0)];
const flat = [reading(0, level(pack, 3400))];

it.each<[string, readonly PackRecord[], PackRecord, readonly string[]]>([
  [
    '15 Ah out of a full 3.3 Ah pack',
    full,
    flight(10, { usedMah: 15_000 }),
    ['out-of-too-little payload.usedMah'],
  ],
  ['2.6 Ah out of it', full, flight(10, { usedMah: 2_600 }), []],
  [
    'charge out of an empty pack',
    flat,
    flight(10, { usedMah: 1_500 }),
    ['out-of-too-little payload.usedMah'],
  ],
  [
    'a discharge of more than was in it',
    flat,
    charge(10, { mode: 'discharge', movedMah: 2_000 }),
    ['out-of-too-little payload.movedMah'],
  ],
  ['a full charge into an empty pack', flat, charge(10, { movedMah: 3_200 }), []],
  [
    'a full charge into a full pack',
    full,
    charge(10, { movedMah: 3_200 }),
    ['into-too-little payload.movedMah'],
  ],
  [
    '15 Ah into a pack nobody knew',
    [],
    charge(10, { movedMah: 15_000 }),
    ['into-too-little payload.movedMah'],
  ],
  ['nothing noted', full, flight(10), []],
])('asks about %s', (_, before, typed, expected) => expect(asked(before, typed)).toEqual(expected));
