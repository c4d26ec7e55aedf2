import { restMv } from '../chemistry';
import { between, seededRandom } from '../random';
import { measure, outlooksKept } from '../health';
import { HOUR_MS, MINUTE_MS } from '../measure';
import type { PlaceId } from '../measure';
import { BLANK_MEMORY, BLANK_RETURNED, BLANK_TAKEN_OUT, earlierOf, fold, foldOn } from '../record';
import type { PackHistory, PackRecord } from '../record';
import { PRESET_RULES } from '../rules';
import type { HouseRules } from '../rules';
import {
  aPack,
  aRecord,
  charge,
  correction,
  decision,
  disposal,
  EVEN_KEEL,
  flight,
  moved,
  note,
  reading,
  received,
  recovery,
  SOMEBODY,
  START,
  total,
} from '../testing/histories';
import { randomHistory } from '../testing/randomHistories';
import { restedReadings } from './caseFile';
import { timeline } from './timeline';

/**
 * A history that goes on from an earlier one keeps what was worked out from that. Whatever comes, and in whatever order, it says what a history
 * says that was folded from all of the records.
 */

const WARM = 'warm' as PlaceId;
const COOL = 'cool' as PlaceId;
const TEMPERATURES = [
  { placeId: WARM, since: 0, celsius: 38 },
  { placeId: COOL, since: 0, celsius: 12 },
];
const OTHER_RULES = PRESET_RULES['long-service'];

/** Everything that is said of a history, from now on and for good. */
function said(history: PackHistory, rules: HouseRules, now: number) {
  const { rested, undecided } = restedReadings(history, rules);
  const { evidence, odd, oddRecords, capacity, capacityMah, carried } = measure(history, rested, rules, now);
  const { past, open, contents, before } = carried;
  return {
    history,
    rested,
    undecided,
    measured: { evidence, odd, oddRecords, capacity, capacityMah, past, open, contents },
    beginnings: before.map((one) => ({ records: one.records, contents: one.contents() })),
    outlooks: outlooksKept(history, { capacity, oddRecords }, rules).map(({ measure: of, wear, cell }) => ({
      of,
      wear,
      cell,
    })),
    timeline: timeline(history, rules, now),
  };
}

/** What a history knows to go on from and a random one has none of: volts before a charge and after a flight, warm places, hands, memories, an end. */
const ALSO: NonNullable<Parameters<typeof randomHistory>[1]>['also'] = (hours, pack, random) => {
  const pick = <One>(list: readonly One[]): One => list[Math.floor(random() * list.length)]!;
  const cells = (mv: number) => Array.from({ length: pack.series }, () => mv + Math.floor(random() * 60));
  const levels = [3_640, 3_800, 4_140];
  const filled = () =>
    charge(hours, {
      movedMah: pick([null, 1_900, 2_400, 9_000]),
      minutes: pick([5, 70, 400]),
      startCellsMv: pick([null, cells(pick(levels))]),
    });
  const flown = () =>
    flight(hours, {
      usedMah: pick([1_900, 2_400]),
      landing: {
        volts: { of: 'cells', cellsMv: cells(3_600) },
        condition: pick(['settling', 'loaded'] as const),
      },
    });
  return {
    low: () => reading(hours, cells(3_640)),
    full: () => reading(hours, cells(4_140)),
    filled,
    'filled again': filled,
    flown,
    'flown again': flown,
    place: () => moved(hours, pick([null, SOMEBODY]), pick([null, WARM, COOL])),
    retire: () => decision(hours, { to: 'retire', because: [], secondWanted: false }),
    mark: () => disposal(hours, { step: 'marked' }),
    recovery: () => recovery(hours, { step: 'looked', feels: 'warm', cellsMv: cells(2_900) }),
    take: () =>
      aRecord(hours, {
        kind: 'taken-out',
        payload: { ...BLANK_TAKEN_OUT, holderId: SOMEBODY },
        supersedes: null,
      }),
    bring: () =>
      aRecord(hours, {
        kind: 'returned',
        payload: { ...BLANK_RETURNED, placeId: WARM, counters: { cycles: 12, faults: null } },
        supersedes: null,
      }),
    memory: () =>
      aRecord(hours, {
        kind: 'memory',
        payload: {
          did: 'read',
          memory: { ...BLANK_MEMORY, storage: { isOn: random() < 0.5, afterHours: 48, mv: null } },
          adapterId: null,
          remarks: null,
        },
        supersedes: null,
      }),
  };
};

it.each(Array.from({ length: 40 }, (_, seed) => seed + 1))(
  'says at every step what is said of all records, history %i',
  (seed) => {
    const random = seededRandom(seed);
    const made = randomHistory(seed, { steps: 70, also: ALSO });
    const pack = { ...made.pack, placeTemperatures: seed % 2 ? TEMPERATURES : [] };
    const [receipt, ...coming] = made.records;
    const records: PackRecord[] = [receipt!];
    let history = fold(pack, records);
    said(history, made.rules, receipt!.at);
    let goneOn = 0;
    while (coming.length > 0) {
      // Some come a few places late, and some two at once, now and then of the very same moment.
      const isLate = random() < 0.08 && coming.length > 6;
      const fresh = coming.splice(isLate ? between(random, 1, 5) : 0, random() < 0.15 ? 2 : 1);
      if (fresh.length === 2 && random() < 0.5) fresh[1] = { ...fresh[1]!, at: fresh[0]!.at };
      records.push(...fresh);
      const now = Math.max(...records.map(({ at }) => at)) + MINUTE_MS * between(random, 0, 400);
      const on = foldOn(history, pack, fresh);
      if (on) goneOn += 1;
      history = on ?? fold(pack, records);
      // Sometimes nobody asks before the next record comes, and sometimes under other rules.
      if (random() < 0.15) continue;
      const asked = random() < 0.1 ? OTHER_RULES : made.rules;
      expect(said(history, asked, now)).toEqual(said(fold(pack, records), asked, now));
    }
    expect(goneOn).toBeGreaterThan(25);
  },
);

it('gives the volts before a charge their own place in time, though they are told after a flight that ended later', () => {
  const pack = aPack();
  const records = [received(), reading(1, [4_190, 4_190, 4_190, 4_190]), flight(5, { usedMah: 1_500 })];
  const history = fold(pack, records);
  const now = START + 9 * HOUR_MS;
  said(history, EVEN_KEEL, now);
  const fresh = charge(6, {
    minutes: 180,
    startCellsMv: [3_700, 3_700, 3_700, 3_700],
    ending: 'stopped',
    movedMah: 400,
  });
  const on = foldOn(history, pack, [fresh])!;
  expect(said(on, EVEN_KEEL, now)).toEqual(said(fold(pack, [...records, fresh]), EVEN_KEEL, now));
});

it('lets go of all but the last step', () => {
  const pack = aPack();
  let history = fold(pack, [received()]);
  const first = history;
  for (let i = 1; i <= 3; i += 1)
    history = foldOn(history, pack, [reading(i, [3_800, 3_800, 3_800, 3_800])])!;
  const before = earlierOf(history)!;
  expect(before.readings).toHaveLength(2);
  expect(earlierOf(before)).toBeNull();
  expect(earlierOf(first)).toBeNull();
});

it('is folded anew where a record is a correction, or did not happen after the last one', () => {
  const pack = aPack();
  const slip = reading(5, [3_800, 3_800, 3_800, 3_800]);
  const history = fold(pack, [received(), slip]);
  expect(foldOn(history, pack, [correction(6, slip, null)])).toBeNull();
  expect(foldOn(history, pack, [note(4)])).toBeNull();
  expect(foldOn(history, pack, [note(5)])).toBeNull();
  expect(foldOn(history, pack, [note(6)])).not.toBeNull();
});

it.each([1, 2, 3, 4])(
  'goes on where every use measures the capacity, of one cell and then of another, pack %i',
  (seed) => {
    const random = seededRandom(seed);
    const pack = aPack();
    // Each cell holds so much of the label, and two of them fade in turn; the last use empties the pack to so much.
    const share = Array.from({ length: pack.series }, () => 0.97 + random() * 0.02);
    const records: PackRecord[] = [received()];
    const coming: PackRecord[] = [];
    for (let day = 1; day <= 26; day += 1) {
      share[day < 14 ? 0 : 2]! -= 0.009;
      const hours = day * 30;
      const used = Math.round(pack.capacityMah * (0.55 + random() * 0.15));
      const cells = share.map((held) =>
        Math.round(restMv(pack.chemistry as 'lipo', 100 - (100 * used) / (pack.capacityMah * held))),
      );
      const isFirst = day < 5;
      coming.push(
        // At first only what went in was counted; now and then a charge is odd, or a pack is read by its total.
        charge(hours, {
          balanced: true,
          minutes: 70,
          movedMah: isFirst ? used : random() < 0.12 ? 4 * used : null,
        }),
        flight(hours + 3, { usedMah: isFirst ? null : used }),
        random() < 0.15
          ? total(
              hours + 6,
              cells.reduce((sum, mv) => sum + mv, 0),
            )
          : reading(hours + 6, cells),
      );
    }
    let history = fold(pack, records);
    said(history, EVEN_KEEL, START);
    let goneOn = 0;
    let measured = 0;
    for (const fresh of coming) {
      records.push(fresh);
      const on = foldOn(history, pack, [fresh]);
      if (on) goneOn += 1;
      history = on ?? fold(pack, records);
      const told = said(history, EVEN_KEEL, fresh.at);
      expect(told).toEqual(said(fold(pack, records), EVEN_KEEL, fresh.at));
      measured = told.measured.capacity.length;
    }
    expect(goneOn).toBe(coming.length);
    expect(measured).toBeGreaterThan(12);
  },
);
