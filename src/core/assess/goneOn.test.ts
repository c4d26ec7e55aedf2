import { between, seededRandom } from '../random';
import type { Random } from '../random';
import { measure, outlooksKept } from '../health';
import { HOUR_MS, MINUTE_MS } from '../measure';
import type { PlaceId } from '../measure';
import type { PackFacts } from '../pack';
import { earlierOf, fold, foldOn } from '../record';
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
  incident,
  inspection,
  moved,
  note,
  reading,
  received,
  recovery,
  release,
  resistance,
  SOMEBODY,
  START,
  total,
  watchEnded,
} from '../testing/histories';
import { restedReadings } from './caseFile';
import { timeline } from './timeline';

/**
 * A history that goes on from an earlier one keeps what was worked out from that. Whatever comes, and in whatever order, it says what a history
 * says that was folded from all of the records.
 */

const [WARM, COOL] = ['warm', 'cool'] as PlaceId[] as [PlaceId, PlaceId];
const PACKS: readonly PackFacts[] = [
  aPack(),
  aPack({ chemistry: 'lihv', series: 6, dutyClass: 'hard' }),
  aPack({ chemistry: 'lifepo4', series: 4 }),
  aPack({ chemistry: 'nimh', series: 6 }),
  aPack({
    series: 3,
    smart: { autoStorage: true, autoStorageAfterHours: 72 },
    placeTemperatures: [
      { placeId: WARM, since: 0, celsius: 38 },
      { placeId: COOL, since: 0, celsius: 12 },
    ],
  }),
];
const RULES = Object.values(PRESET_RULES);

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

/** A record of some kind at an hour, as a club's bench and field would make it, slips among them. */
function something(
  random: Random,
  hours: number,
  pack: PackFacts,
  earlier: readonly PackRecord[],
): PackRecord {
  const cells = (low: number, high: number) =>
    Array.from({ length: pack.series }, () => between(random, low, high));
  const pick = <One>(list: readonly One[]): One => list[between(random, 0, list.length - 1)]!;
  const kinds: readonly (() => PackRecord)[] = [
    () => reading(hours, cells(3_640, 3_700)),
    () => reading(hours, cells(3_800, 3_850)),
    () => reading(hours, cells(4_150, 4_200)),
    () => reading(hours, cells(3_300, 4_300), { condition: pick(['rested', 'settling', 'loaded']) }),
    () => total(hours, pack.series * between(random, 3_700, 4_100)),
    () =>
      charge(hours, {
        mode: pick(['balance', 'balance', 'balance', 'fast', 'storage', 'discharge']),
        ending: pick(['complete', 'complete', 'complete', 'taper', 'stopped']),
        movedMah: pick([null, 1_900, 2_400, 2_600, 9_000]),
        minutes: pick([null, 5, 55, 70, 400]),
        startCellsMv: pick([null, null, cells(3_600, 3_900)]),
        endCellsMv: pick([null, cells(4_180, 4_200)]),
      }),
    () => flight(hours, { usedMah: pick([null, 1_900, 2_300, 2_500]), minutes: pick([null, 9]) }),
    () =>
      flight(hours, {
        usedMah: 2_400,
        landing: {
          volts: { of: 'cells', cellsMv: cells(3_600, 3_750) },
          condition: pick(['settling', 'rested']),
        } as never,
      }),
    () =>
      resistance(
        hours,
        cells(40, 60).map((one) => one / 10),
      ),
    () => inspection(hours, pick(['scheduled', 'after-use', 'after-crash', 'season-start'] as const)),
    () => moved(hours, pick([null, SOMEBODY]), pick([null, WARM, COOL])),
    () => note(hours),
    () => incident(hours),
    () => watchEnded(hours),
    () => decision(hours, { to: 'hold' }),
    () => release(hours, pack, earlier),
    () => decision(hours, { to: 'retire', because: [], secondWanted: false }),
    () => recovery(hours, { step: 'looked', feels: 'warm', cellsMv: cells(2_900, 3_000) }),
    () => disposal(hours, { step: 'marked' }),
    () =>
      aRecord(hours, {
        kind: 'taken-out',
        payload: {
          holderId: SOMEBODY,
          fromId: null,
          craftId: null,
          dayId: null,
          dueBackAt: null,
          shortFlight: false,
          counters: null,
          remarks: null,
        },
        supersedes: null,
      }),
    () =>
      aRecord(hours, {
        kind: 'returned',
        payload: {
          placeId: WARM,
          used: true,
          unplugged: true,
          counters: { cycles: 12, faults: null },
          remarks: null,
        },
        supersedes: null,
      }),
    () =>
      aRecord(hours, {
        kind: 'memory',
        payload: {
          did: 'read',
          memory: {
            number: null,
            storage: { isOn: random() < 0.5, afterHours: 48, mv: null },
            topMv: null,
            chargeA: null,
            cycles: between(random, 10, 40),
            overCharges: null,
            overDischarges: null,
            overTemperatures: null,
            firmware: null,
            firmwareDate: null,
          },
          adapterId: null,
          remarks: null,
        },
        supersedes: null,
      }),
  ];
  // What is done every day comes oftenest.
  const usual = random() < 0.7 ? between(random, 0, 8) : between(random, 0, kinds.length - 1);
  const slip = pick(earlier);
  if (random() < 0.06 && slip.kind !== 'received' && slip.kind !== 'correction')
    return correction(hours, slip, random() < 0.4 ? null : kinds[between(random, 0, 8)]!());
  return kinds[usual]!();
}

it.each(Array.from({ length: 40 }, (_, seed) => seed + 1))(
  'says at every step what is said of all records, history %i',
  (seed) => {
    const random = seededRandom(seed);
    const pack = PACKS[seed % PACKS.length]!;
    const rules = RULES[seed % RULES.length]!;
    const records: PackRecord[] = [received()];
    let history = fold(pack, records);
    said(history, rules, records[0]!.recordedAt);
    let hours = 0;
    let goneOn = 0;
    for (let step = 0; step < 70; step += 1) {
      hours += random() * (random() < 0.1 ? 900 : 20);
      const isLate = random() < 0.08;
      const many = random() < 0.15 ? 2 : 1;
      const fresh: PackRecord[] = [];
      for (let i = 0; i < many; i += 1)
        fresh.push(something(random, isLate ? hours * random() : hours + i * 0.01, pack, records));
      // Two that happen at the very same moment, now and then.
      if (many === 2 && random() < 0.5) fresh[1] = { ...fresh[1]!, at: fresh[0]!.at };
      records.push(...fresh);
      const now = Math.max(...records.map(({ at }) => at)) + MINUTE_MS * between(random, 0, 400);
      const on = foldOn(history, pack, fresh);
      if (on) goneOn += 1;
      history = on ?? fold(pack, records);
      // Sometimes nobody asks before the next record comes, and sometimes under other rules.
      if (random() < 0.15) continue;
      const asked = random() < 0.1 ? RULES[(seed + 1) % RULES.length]! : rules;
      expect(said(history, asked, now)).toEqual(said(fold(pack, records), asked, now));
    }
    expect(goneOn).toBeGreaterThan(35);
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
