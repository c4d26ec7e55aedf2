import type { AttendanceAnswer } from '../../contract';
import type { Bound, Plan } from '../../core/charging';
import { HOUR_MS } from '../../core/measure';
import { attendedSpans, hoursIn, percentOf } from './timeAxis';
import { NOTHING, plannedAfter } from './usePlan';
import { boundWords, wishWords } from './words';

const span = (personId: string, from: number, to: number) =>
  ({ id: `${personId}${from}`, personId, from: from * HOUR_MS, to: to * HOUR_MS }) as AttendanceAnswer;

describe('spans of attendance', () => {
  it('are one where somebody hands over, with the names in the order of their coming', () => {
    const spans = attendedSpans([span('tolle', 20, 22), span('ineke', 18, 20.5), span('tolle', 40, 44)], 0);
    expect(spans).toEqual([
      { from: 18 * HOUR_MS, to: 22 * HOUR_MS, people: ['ineke', 'tolle'] },
      { from: 40 * HOUR_MS, to: 44 * HOUR_MS, people: ['tolle'] },
    ]);
  });

  it('that are over are left out, one that has begun is not', () => {
    const spans = attendedSpans([span('a', 1, 2), span('b', 2, 4)], 2 * HOUR_MS);
    expect(spans.map(({ people }) => people)).toEqual([['b']]);
  });

  it('are marked hour by hour, and more coarsely where they are long', () => {
    const evening = { from: 17.75 * HOUR_MS, to: 21 * HOUR_MS };
    expect(hoursIn(evening).map((at) => at / HOUR_MS)).toEqual([18, 19, 20, 21]);
    expect(hoursIn({ from: 0, to: 24 * HOUR_MS }).map((at) => at / HOUR_MS)).toEqual([
      0, 4, 8, 12, 16, 20, 24,
    ]);
    expect(percentOf(evening, 18 * HOUR_MS)).toBeCloseTo(7.69, 2);
  });
});

describe('a plan in the making', () => {
  const plan = { jobs: [] } as unknown as Plan;
  const bound = { wish: 'attendedMinutes', has: 100, atLeast: 97 } as Bound;

  it('the plan before stays until there is another, its proof does not', () => {
    const done = plannedAfter(
      plannedAfter(NOTHING, { kind: 'planned', message: { id: 1, plan, share: 1, done: true } }),
      { kind: 'bounded', bound },
    );
    expect(done).toMatchObject({ state: 'done', bound });
    expect(plannedAfter(done, { kind: 'asked' })).toEqual({
      state: 'planning',
      plan,
      share: 0,
      bound: undefined,
    });
    expect(plannedAfter(done, { kind: 'dropped' })).toEqual(NOTHING);
  });

  it('stopped half way, the best so far is kept', () => {
    const half = plannedAfter(NOTHING, {
      kind: 'planned',
      message: { id: 1, plan, share: 0.4, done: false },
    });
    expect(half.state).toBe('planning');
    expect(plannedAfter(half, { kind: 'stopped' })).toMatchObject({ state: 'stopped', plan });
  });
});

it.each<[Bound, string]>([
  [{ wish: 'fullMinutes', has: 500, atLeast: 500 }, 'No plan can be better than this.'],
  [{ wish: 'notReady', has: 2, atLeast: 2 }, 'No plan can serve more.'],
  [{ wish: 'notReady', has: 3, atLeast: 2 }, 'At best 1 pack more could be served.'],
  [{ wish: 'attendedMinutes', has: 103, atLeast: 100 }, 'At most 3 % above the best possible.'],
  [{ wish: 'fullMinutes', has: 60, atLeast: 0 }, ''],
])('%j is told as “%s”', (bound, says) => expect(boundWords(bound)).toBe(says));

it('what there is none of is not told', () => {
  const none = { floorsOut: 0, floorMinutes: 0, missed: 0, notReady: 0, leftOut: 0, fullMinutes: 0 };
  expect(wishWords({ ...none, attendedMinutes: 90, changes: 1 })).toEqual([
    '90 min at the bench',
    '1 setting to change',
  ]);
  expect(
    wishWords({ ...none, missed: 1, notReady: 2, fullMinutes: 180, attendedMinutes: 60, changes: 0 }),
  ).toEqual([
    '1 pack to storage after the hour it is due',
    '2 packs not ready',
    '3 pack-hours full before the flights',
    '60 min at the bench',
    '0 settings to change',
  ]);
});
