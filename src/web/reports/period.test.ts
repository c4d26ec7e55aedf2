import { dayOf, startOfDay } from '../app/days';
import { PERIODS, periodOf } from './period';

/** Whole days of this browser's zone, whatever zone the tests run in. */
const at = (year: number, month: number, day: number, hour = 0) =>
  new Date(year, month - 1, day, hour).getTime();
const NOON = at(2026, 3, 15, 12);

it.each([
  ['month', at(2026, 3, 1)],
  ['quarter', at(2026, 1, 1)],
  ['year', at(2025, 4, 1)],
] as const)('a %s begins with a month and ends with today', (name, from) => {
  expect(periodOf(name, NOON)).toEqual({ from, to: at(2026, 3, 16) });
});

it('reaches over the turn of the year, and over days that clocks make shorter or longer', () => {
  expect(periodOf('quarter', at(2026, 1, 31, 23)).from).toBe(at(2025, 11, 1));
  for (const { name } of PERIODS)
    for (const moment of [at(2026, 3, 29, 3), at(2026, 10, 25, 3)]) {
      const { from, to } = periodOf(name, moment);
      expect([new Date(from).getDate(), new Date(from).getHours(), new Date(to).getHours()]).toEqual([
        1, 0, 0,
      ]);
      expect(to).toBeGreaterThan(moment);
    }
});

it('a day goes into a date field and comes back', () => {
  for (const day of ['2024-02-29', '2026-12-31', '2026-03-29']) expect(dayOf(startOfDay(day))).toBe(day);
  expect(dayOf(startOfDay('2026-12-31', 1))).toBe('2027-01-01');
});

it.each(['', '2026', '2026-3-1', '31-12-2026', 'today'])('“%s” is no day', (typed) => {
  expect(startOfDay(typed)).toBeNaN();
});
