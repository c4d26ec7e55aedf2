import fc from 'fast-check';
import { DAY_MS, HOUR_MS } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import {
  aPack,
  charge,
  EVEN_KEEL,
  flight,
  inspection,
  level,
  reading,
  START,
  total,
} from '../testing/histories';
import {
  belongs,
  byUrgency,
  isPressing,
  lookSteps,
  ROUND_KINDS,
  seasonState,
  stopsLooking,
  unusual,
} from '.';
import type { Candidate, Pressing } from '.';

const lipo = aPack();
const NOW = START + 100 * HOUR_MS;
const pack: Candidate = { verdict: 'fit', storage: 'in-band', usedAt: null, tasks: [] };

describe('what a round gathers', () => {
  it.each<[string, Partial<Candidate>, boolean]>([
    ['in its band', {}, false],
    ['high', { storage: 'high' }, true],
    ['low', { storage: 'low' }, true],
    ['not measured', { storage: 'unmeasured' }, true],
    ['pending', { storage: 'pending' }, false],
    ['used within the evening', { usedAt: NOW - 18 * HOUR_MS }, true],
    ['used before that', { usedAt: NOW - 18 * HOUR_MS - 1 }, false],
    ['out of use and high', { storage: 'high', verdict: 'hold' }, false],
    ['out of use, back today', { usedAt: NOW - HOUR_MS, verdict: 'hold' }, true],
    ['retired after it was used today', { verdict: 'retired', usedAt: NOW - HOUR_MS }, false],
  ])('put-away, a pack %s: %#', (_what, more, taken) => {
    expect(belongs('put-away', { ...pack, ...more }, NOW)).toBe(taken);
  });

  it.each([
    ['season-start', 'inspect-season'],
    ['scheduled', 'inspect'],
    ['receipt', 'complete-baseline'],
    ['idle', 're-read'],
    ['idle', 'cycle'],
  ] as const)('%s takes what is due for %s within a week', (kind, task) => {
    const due = (days: number): Candidate => ({ ...pack, tasks: [{ do: task, dueAt: NOW + days * DAY_MS }] });
    expect(belongs(kind, due(7), NOW)).toBe(true);
    expect(belongs(kind, due(7.01), NOW)).toBe(false);
    expect(ROUND_KINDS.filter((other) => belongs(other, due(0), NOW))).toEqual([kind]);
  });
});

describe('an unusual value', () => {
  const code = (records: readonly PackRecord[], cellsMv: readonly number[], facts = lipo) =>
    unusual(fold(facts, records), EVEN_KEEL, cellsMv, NOW)?.code ?? null;
  const last = reading(0, [3850, 3850, 3840, 3850]);

  it.each<[string, readonly number[], string | null]>([
    ['as last week', [3850, 3840, 3840, 3850], null],
    ['119 mV lower', [3731, 3731, 3721, 3731], null],
    ['120 mV lower', [3730, 3730, 3720, 3730], 'moved'],
    ['one cell 149 mV from its siblings', [3850, 3701, 3850, 3850], 'moved'],
    ['one cell 150 mV from its siblings', [3850, 3700, 3850, 3850], 'apart'],
    ['3.02 after 3.85', [3850, 3020, 3850, 3850], 'apart'],
    ['a cell too few, which is named elsewhere', [3850, 3020, 3850], null],
  ])('%s', (_what, cellsMv, expected) => {
    expect(code([last], cellsMv)).toBe(expected);
  });

  it('has its reason when the pack was charged or flown since, or bleeds itself', () => {
    expect(code([last, flight(50)], level(lipo, 3500))).toBeNull();
    expect(code([last, charge(50)], level(lipo, 4200))).toBeNull();
    const smart = aPack({ smart: { autoStorage: true, autoStorageAfterHours: 12 } });
    expect(code([reading(0, level(smart, 4190))], level(smart, 3900), smart)).toBeNull();
  });

  it('is asked about once: a cell known to be far off is no surprise again', () => {
    expect(code([reading(0, [3850, 3650, 3850, 3850])], [3850, 3640, 3850, 3850])).toBeNull();
  });

  it('names the cell, what it says and what it said', () => {
    expect(unusual(fold(lipo, [last]), EVEN_KEEL, [3850, 3850, 3840, 3710], NOW)).toEqual({
      code: 'moved',
      cell: 4,
      mv: 3710,
      beforeMv: 3850,
      beforeAt: START,
    });
  });

  it('needs no history to see one cell apart, and says nothing of a pack read by its total', () => {
    expect(code([], [3800, 3600, 3800, 3800])).toBe('apart');
    const nickel = aPack({ chemistry: 'nimh', series: 6 });
    expect(code([total(0, 8000)], level(nickel, 900), nickel)).toBeNull();
  });
});

describe('season start', () => {
  const state = (...records: PackRecord[]) => seasonState(fold(lipo, records), START, EVEN_KEEL);
  const looked = inspection(1, 'season-start');
  const read = reading(1.1, [3790, 3790, 3740, 3790]);
  const pass = (hours: number, apartMv: number) =>
    charge(hours, { endCellsMv: [4200, 4200, 4200 - apartMv, 4200], balanced: apartMv <= 20 });

  it('cuts the checklist into its steps, in order', () => {
    const steps = lookSteps(EVEN_KEEL.checklists['season-start']);
    expect(steps.map(({ step }) => step)).toEqual(['look', 'leads', 'balance-port']);
    expect(steps[0]!.items.map(({ key }) => key)).toContain('swelling');
    expect(steps[1]!.items.map(({ key }) => key)).toEqual(['case', 'leads', 'connector']);
  });

  it('looks before it reads, and reads before it charges', () => {
    expect(state()).toEqual({ step: 'look-over' });
    expect(state(read)).toEqual({ step: 'look-over' });
    expect(state(looked)).toEqual({ step: 'look-over' });
    expect(state(looked, read)).toEqual({ step: 'charge', pass: 1, of: 3, spreadMv: 50 });
  });

  it('counts nothing from before the round began', () => {
    expect(state(inspection(-5, 'season-start'), reading(-4, level(lipo, 3800)))).toEqual({
      step: 'look-over',
    });
  });

  it.each(['swelling', 'leads', 'dents', 'smell'])(
    'a failure of %s stops it for good, whatever comes after',
    (key) => {
      const failed = inspection(1, 'season-start', {}, [key]);
      expect(state(failed, read, pass(3, 5))).toEqual({ step: 'stopped', why: 'found' });
      expect(
        stopsLooking(EVEN_KEEL.checklists['season-start'], {
          [key]: { answer: 'fail', note: '', photoIds: [] },
        }),
      ).toBe(true);
    },
  );

  it('a worn connector does not stop it', () => {
    expect(state(inspection(1, 'season-start', {}, ['connector']), read).step).toBe('charge');
  });

  it('a cell a charger may not start on stops it', () => {
    expect(state(looked, reading(1.1, [3790, 2999, 3790, 3790]))).toEqual({
      step: 'stopped',
      why: 'too-low',
    });
    expect(state(looked, reading(1.1, [3790, 3000, 3790, 3790])).step).toBe('charge');
  });

  it('a first charge that closes the cells is the end of it', () => {
    expect(state(looked, read, pass(3, 20))).toEqual({ step: 'done', passes: 1 });
  });

  it('an unbalanced pack goes through three passes, and the third failure ends it', () => {
    expect(state(looked, read, pass(3, 60))).toMatchObject({ step: 'charge', pass: 2, spreadMv: 60 });
    expect(state(looked, read, pass(3, 60), pass(8, 45))).toMatchObject({
      step: 'charge',
      pass: 3,
      spreadMv: 45,
    });
    expect(state(looked, read, pass(3, 60), pass(8, 45), pass(13, 40))).toEqual({
      step: 'stopped',
      why: 'unbalanced',
    });
    expect(state(looked, read, pass(3, 60), pass(8, 45), pass(13, 15))).toEqual({ step: 'done', passes: 3 });
  });

  it('a charger that timed out is a failed pass', () => {
    const timedOut = charge(3, { ending: 'timed-out', endCellsMv: level(lipo, 4200), balanced: false });
    expect(state(looked, read, timedOut)).toMatchObject({ step: 'charge', pass: 2 });
  });
});

describe('urgency', () => {
  const standing = (verdict: Pressing['verdict'], next: Pressing['next'] = null): Pressing => ({
    verdict,
    next,
  });
  const inOrder = [
    standing('retire-advised', { do: 'set-apart', dueAt: null }),
    standing('hold', { do: 'set-apart', dueAt: null }),
    standing('fit', { do: 'store-up-now', dueAt: NOW }),
    standing('fit', { do: 'store-down', dueAt: NOW - HOUR_MS }),
    standing('watch', { do: 'store-up', dueAt: NOW + HOUR_MS }),
    standing('fit', { do: 're-read', dueAt: NOW + 9 * DAY_MS }),
    standing('watch', { do: 'balance', dueAt: null }),
    standing('watch', { do: 'review', dueAt: null }),
    standing('fit'),
  ];

  it('goes by what is out of use, what cannot wait, the clock, and then the rest, from any order', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(inOrder, { minLength: inOrder.length }), (mixed) => {
        expect([...mixed].sort(byUrgency)).toEqual(inOrder);
      }),
    );
  });

  it.each<[string, Pressing, boolean]>([
    ['out of use', standing('hold', { do: 'set-apart', dueAt: null }), true],
    ['a storage job due in days', standing('fit', { do: 'store-down', dueAt: NOW + 4 * DAY_MS }), true],
    ['routine that is due', standing('fit', { do: 'top-up', dueAt: NOW }), true],
    ['routine of next month', standing('fit', { do: 'top-up', dueAt: NOW + 30 * DAY_MS }), false],
    ['nothing', standing('watch'), false],
  ])('%s presses: %#', (_what, one, presses) => {
    expect(isPressing(one, NOW)).toBe(presses);
  });
});
