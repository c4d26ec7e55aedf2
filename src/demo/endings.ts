import { DAY_MS, HOUR_MS, MINUTE_MS } from '../core/measure';
import type { Instant } from '../core/measure';
import type { ChargePayload, LandingVolts } from '../core/record';
import type { Diary } from './diary';

/** What becomes of one pack at the end of its made-up past, and what went wrong on the way. */
export interface Ending {
  readonly receivedDaysAgo: number;
  /** Days before the present in which the season writes nothing; the ending has them to itself. */
  readonly quietDays: number;
  readonly neverRead?: boolean;
  /** Nobody read it after its last charge or storage job. */
  readonly notReadSince?: boolean;
  /** Days before the present from which on all of its cells wear faster. */
  readonly kneeDaysAgo?: number;
  /** An advice to retire that was put off to a day, and when. */
  readonly keptOnWatch?: {
    readonly untilHoursAgo: number;
    readonly reason: string;
  };
  /** The number of a cell that starts to fail some months before the end. */
  readonly dyingCell?: number;
  /** Days a charge on this day is forgotten for, or null when it is flown as planned. */
  readonly storedFull?: (day: Instant, until: Instant) => number | null;
  play(diary: Diary, now: Instant): unknown;
}

const nothing = () => undefined;
const h = (hours: number) => hours * HOUR_MS;
const landedAt = (cellsMv: readonly number[]): LandingVolts => ({
  volts: { of: 'cells', cellsMv },
  condition: 'loaded',
});

/** The ending of the pack with this tag: a story where there is one, else an ordinary pack lying in storage. */
export function endingOf(tag: string, ordinal: number): Ending {
  const usual: Ending = {
    receivedDaysAgo: 420 - (ordinal % 5) * 21,
    quietDays: 2 + ((ordinal * 5) % 11),
    play: nothing,
  };
  return { ...usual, ...STORIES[tag] };
}

/** Charged so many hours ago and not read since: what it holds follows from how the charge ended. */
const chargedUnread = (hoursAgo: number, charge: Partial<ChargePayload>): Partial<Ending> => ({
  quietDays: Math.ceil(hoursAgo / 24) + 2,
  play: (diary, now) =>
    diary.charge('tolle', now - h(hoursAgo), { mode: 'balance', charger: 'Bench charger', ...charge }),
});
const to = (topMv: number) => ({ settings: { chemistry: null, cells: null, topMv, currentA: null } });

/** Charged so many hours ago, read an hour later, and waiting since. */
const charged = (hoursAgo: number, cellsMv: readonly number[]): Partial<Ending> => ({
  quietDays: Math.ceil(hoursAgo / 24) + 2,
  play: (diary, now) => {
    diary.charge('tolle', now - h(hoursAgo), {
      mode: 'balance',
      charger: 'Bench charger',
      endCellsMv: cellsMv,
    });
    diary.reading('tolle', now - h(hoursAgo - 1), cellsMv, 'rested');
  },
});

const STORIES: Readonly<Record<string, Partial<Ending>>> = {
  'HX-01': chargedUnread(15, { endCellsMv: [4200, 4200, 4200, 4190, 4200, 4200], balanced: true }),
  'HX-02': chargedUnread(15, { endCellsMv: [4200, 4190, 4200, 4200, 4200, 4200], balanced: true }),
  'HX-03': chargedUnread(15.5, to(4200)),
  'HX-04': chargedUnread(39, to(4200)),
  // Forgotten after a day of fog.
  'HX-06': charged(61, [4180, 4180, 4180, 4170, 4180, 4180]),
  // Stored full through a summer.
  'HX-05': {
    quietDays: 12,
    storedFull: (day, until) => (day < until - 150 * DAY_MS && day > until - 250 * DAY_MS ? 88 : null),
    play: (diary, now) =>
      diary.note(
        'ineke',
        now - 11 * DAY_MS,
        'Stood full from the end of one survey to the start of the next. Watch its flight times.',
      ),
  },
  // One cell is dying.
  'HX-11': {
    quietDays: 4,
    dyingCell: 4,
    keptOnWatch: { untilHoursAgo: 60, reason: 'One more survey on the short lines, never over the water.' },
    play: (diary, now) => {
      diary.moved('jory', now - h(78), 'van', 'jory');
      diary.charge('tolle', now - h(90), {
        mode: 'balance',
        charger: 'Bench charger',
        endCellsMv: [4200, 4200, 4200, 4190, 4200, 4200],
        balanced: true,
      });
      diary.flight('jory', now - h(72), {
        craft: 'Mapping hexacopter',
        minutes: 9.5,
        usedMah: 9_800,
        landing: landedAt([3560, 3570, 3560, 3380, 3570, 3560]),
        hottestC: 44,
        remarks: 'Early warning on the second line.',
      });
      diary.reading('jory', now - h(70), [3800, 3800, 3800, 3660, 3800, 3800], 'rested');
      diary.moved('jory', now - h(68), 'cabinet-top', null);
      diary.reading(
        'ineke',
        now - h(50),
        [3810, 3800, 3810, 3730, 3810, 3800],
        'rested',
        'Topped up to the others; cell 4 falls back overnight.',
      );
    },
  },
  // The charger gives up on it, three evenings running.
  'IQ-08': {
    quietDays: 8,
    play: (diary, now) => {
      for (const [i, spread] of [70, 60, 80].entries()) {
        const at = now - (7 - i) * DAY_MS;
        const cells = [4340, 4340, 4340 - spread, 4340];
        diary.charge('tolle', at, {
          mode: 'balance',
          charger: 'Bench charger',
          settings: { chemistry: 'lihv', cells: 4, topMv: 4350, currentA: 5.2 },
          endCellsMv: cells,
          movedMah: i === 0 ? 2_900 : 2_600,
          minutes: 240,
          balanced: false,
          ending: 'timed-out',
          temperatureC: 31,
        });
        // Nobody charges a pack that is to be retired, not even to storage.
        if (i < 2) diary.charge('tolle', at + h(14), { mode: 'storage', charger: 'Bench charger' });
        const rested = i < 2 ? [3850, 3850, 3810, 3850] : [4330, 4330, 4260, 4330];
        diary.reading('tolle', at + h(16), rested, 'rested');
      }
    },
  },
  // Came back too hot to hold, with a propeller that had been changed the day before.
  'IQ-10': {
    quietDays: 4,
    play: (diary, now) => {
      diary.charge('ineke', now - h(62), {
        mode: 'balance',
        endCellsMv: [4340, 4340, 4340, 4340],
        balanced: true,
      });
      diary.flight('ossian', now - h(44), {
        craft: 'Inspection quad',
        minutes: 6.2,
        usedMah: 3_900,
        landing: landedAt([3480, 3490, 3480, 3480]),
        hottestC: 64,
        ambientC: 21,
        remarks: 'Steeper propellers since yesterday.',
      });
      diary.reading('ossian', now - h(42), [3730, 3730, 3720, 3730], 'rested');
    },
  },
  'HX-12': {
    quietDays: 24,
    play: (diary, now) => {
      diary.flight('bram', now - 22 * DAY_MS - h(2), {
        craft: 'Mapping hexacopter',
        minutes: 13,
        usedMah: 15_400,
      });
      diary.reading(
        'bram',
        now - 22 * DAY_MS,
        [3480, 3470, 2850, 3480, 3470, 3480],
        'rested',
        'Hard landing short of the sandbank, was left plugged in.',
      );
      diary.moved('ineke', now - 22 * DAY_MS + h(1), 'recycling', null);
    },
  },
  // Over-discharged: a cut-off set for three cells on a four-cell pack.
  'FW-03': {
    quietDays: 3,
    play: (diary, now) => {
      diary.moved('adela', now - h(33), 'van', 'adela');
      diary.flight('adela', now - h(29), { craft: 'Survey wing', minutes: 61, usedMah: 14_300 });
      diary.reading(
        'adela',
        now - h(28),
        [2410, 2390, 2280, 2400],
        'rested',
        'Cut-off was set for three cells.',
      );
      diary.note(
        'adela',
        now - h(27.5),
        'The wing’s cut-off stood at 3 × 3.2 V. Changed it to four cells before the next pack went in.',
      );
      diary.moved('tolle', now - h(26), 'outdoors', null);
    },
  },
  // A slip of the finger, put right.
  'FW-02': {
    quietDays: 7,
    play: (diary, now) => {
      const slip = diary.reading('tolle', now - 6 * DAY_MS, [3680, 3670, 3260, 3680], 'rested');
      diary.corrected(
        'tolle',
        now - 6 * DAY_MS + 4 * MINUTE_MS,
        slip,
        [3680, 3670, 3680, 3680],
        'Cell 3 mistyped, meter read 3.68.',
      );
    },
  },
  // Taken off on the taper, because the crew was leaving.
  'FW-06': chargedUnread(22, { ...to(4200), ending: 'taper', minutes: 96 }),
  'FW-07': chargedUnread(22.5, { endCellsMv: [4190, 4190, 4190, 4180], balanced: true }),
  // It wears faster since the autumn; nobody would have noticed by one flight.
  'FW-08': { kneeDaysAgo: 120 },
  'FW-09': {
    quietDays: 2,
    play: (diary, now) => {
      diary.takenOut('sunniva', now - h(9), 'Survey wing', 14);
      diary.flight('sunniva', now - h(6), {
        craft: 'Survey wing',
        minutes: 44,
        usedMah: 4_900,
        landing: landedAt([3080, 3090, 3080, 3090]),
        hottestC: 31,
      });
      diary.reading('sunniva', now - h(5), [3480, 3490, 3480, 3490], 'rested');
    },
  },
  // Landed low yesterday, nearly flat.
  'IQ-05': {
    quietDays: 3,
    play: (diary, now) => {
      diary.takenOut('ossian', now - h(24), 'Inspection quad', 10);
      diary.flight('ossian', now - h(21), { craft: 'Inspection quad', minutes: 8, usedMah: 4_700 });
      diary.reading('ossian', now - h(20), [3450, 3460, 3440, 3450], 'rested', 'Headwind on the way back.');
    },
  },
  'IQ-02': {
    quietDays: 2,
    play: (diary, now) => {
      diary.takenOut('mirre', now - h(10), 'Inspection quad', 6);
      diary.flight('mirre', now - h(8), { craft: 'Inspection quad', minutes: 5, usedMah: 2_000 });
      diary.reading('mirre', now - h(7), [3710, 3720, 3710, 3720], 'rested');
      diary.returned('mirre', now - h(6.5), 'box-a');
    },
  },
  // They store themselves; one of them waits too long for that.
  'IQ-03': chargedUnread(13, { endCellsMv: [4350, 4350, 4350, 4340], balanced: true }),
  'IQ-04': chargedUnread(13, { endCellsMv: [4350, 4350, 4340, 4350], balanced: true }),
  'IQ-06': { notReadSince: true },
  'IQ-07': {
    quietDays: 2,
    play: (diary, now) => {
      diary.takenOut('odile', now - h(3), 'Inspection quad', 8);
      diary.flight('odile', now - 12 * MINUTE_MS, {
        craft: 'Inspection quad',
        minutes: 11.5,
        usedMah: 3_400,
        landing: landedAt([3560, 3570, 3560, 3570]),
        hottestC: 41,
        ambientC: 9,
      });
    },
  },
  // Came down in the reeds.
  'IQ-09': {
    quietDays: 7,
    play: (diary, now) => {
      diary.reading('fenn', now - 6 * DAY_MS, [3850, 3850, 3840, 3850], 'rested');
      diary.note(
        'fenn',
        now - 6 * DAY_MS + h(1),
        'Came down in the reeds from eight metres. Case scuffed at one corner, no deformation felt. Lay in the sand bin for an hour.',
      );
      diary.moved('ineke', now - 6 * DAY_MS + h(3), 'outdoors', null);
      diary.reading('ineke', now - 5 * DAY_MS, [3850, 3840, 3840, 3850], 'rested');
    },
  },
  'IQ-12': { receivedDaysAgo: 1, quietDays: 0, neverRead: true },
  // Charged in a high-voltage mode it was not made for.
  'TR-08': {
    quietDays: 2,
    play: (diary, now) => {
      diary.charge('fenn', now - h(19), {
        mode: 'fast',
        charger: 'Six-port charger',
        settings: { chemistry: 'lihv', cells: 1, topMv: 4350, currentA: 0.5 },
        movedMah: 430,
        minutes: 58,
        temperatureC: 33,
        remarks: 'Still set for the inspection packs.',
      });
      diary.reading(
        'fenn',
        now - h(18),
        [4340],
        'rested',
        'Charger still stood on the high-voltage setting.',
      );
      diary.moved('fenn', now - h(17.5), 'outdoors', null);
    },
  },
  'TR-01': chargedUnread(26, to(4200)),
  'TR-02': chargedUnread(26, { endCellsMv: [4200] }),
  // Charged fast in the field this morning, for an afternoon that was rained off.
  'TR-03': {
    quietDays: 3,
    play: (diary, now) =>
      diary.charge('bram', now - h(4), {
        mode: 'fast',
        charger: 'Six-port charger',
        settings: { chemistry: 'lipo', cells: 1, topMv: 4200, currentA: 1.1 },
        movedMah: 300,
        minutes: 24,
        felt: 'lukewarm',
      }),
  },
  'TR-04': chargedUnread(26, to(4200)),
  // Two phones without a network: each of the two says that they have it.
  'TR-05': {
    quietDays: 2,
    play: (diary, now) => {
      diary.alsoTakenOut('fenn', now - h(5), 'Trainer', 8);
      diary.alsoTakenOut('mirre', now - h(4.6), 'Trainer', 8);
    },
  },
  'TR-11': {
    quietDays: 2,
    play: (diary, now) => {
      diary.flight('bram', now - h(16), { craft: 'Trainer', minutes: 4.5, usedMah: 540 });
      diary.reading('bram', now - h(15), [3140], 'rested', 'Flew it until it sank.');
    },
  },
  'TR-13': { quietDays: 46 },
  // Retired since, and on their way out or gone.
  'TR-10': { quietDays: 10 },
  'TR-12': { quietDays: 100 },
  'TR-09': { notReadSince: true },
  'TX-02': { notReadSince: true },
  'TX-03': { notReadSince: true },
  'TX-04': { notReadSince: true },
  'TX-05': { notReadSince: true },
  'TX-06': { quietDays: 100 },
  // Left in the cabinet since the end of the last survey.
  'FW-10': { quietDays: 64 },
  'GS-04': { quietDays: 60 },
  // Found soft to the thumb at its inspection.
  'IQ-11': {
    quietDays: 6,
    play: (diary, now) => {
      diary.inspection('ineke', now - 2 * DAY_MS, 'scheduled', {
        thicknessMm: 38.9,
        swelling: 'soft',
        wrong: { swelling: { answer: 'fail', note: 'soft over the whole face', photoIds: [] } },
      });
      diary.moved('ineke', now - 2 * DAY_MS + MINUTE_MS, 'outdoors', null);
    },
  },
  // A contact gone dark.
  'TR-14': {
    quietDays: 5,
    play: (diary, now) =>
      diary.inspection('tolle', now - 3 * DAY_MS, 'scheduled', {
        thicknessMm: 8,
        wrong: { connector: { answer: 'fail', note: 'one contact dark', photoIds: [] } },
      }),
  },
  'GS-03': { quietDays: 38 },
  'GS-02': chargedUnread(30, { endCellsMv: [3590, 3590, 3600, 3590], balanced: true }),
  // On the bank with the crew: a field pack may wait charged longer.
  'FP-01': {
    quietDays: 10,
    play: (diary, now) => {
      const cells = [4150, 4160, 4150, 4150, 4160, 4150, 4150];
      diary.charge('ineke', now - 9 * DAY_MS - h(1), {
        mode: 'balance',
        charger: 'Bench charger',
        endCellsMv: cells,
      });
    },
  },
};
