import { HOUR_MS, MINUTE_MS } from '../measure';
import { dayWords, dueWords, span, whenWords } from '.';

const NOW = Date.UTC(2026, 10, 25, 21, 40);
const here = { now: NOW, zone: 'UTC' };
const h = (hours: number) => NOW + hours * HOUR_MS;

it.each([
  [0, '0 min'],
  [59 * MINUTE_MS, '59 min'],
  [60 * MINUTE_MS, '1 h'],
  [9.9 * HOUR_MS, '9 h'],
  [72 * HOUR_MS, '72 h'],
  [73 * HOUR_MS, '3 days'],
  [-9 * HOUR_MS, '9 h'],
])('%i ms is %s', (ms, words) => {
  expect(span(ms)).toBe(words);
});

it.each([
  [10, 'due in 10 h (tomorrow 07:40)'],
  [0.4, 'due in 24 min (today 22:04)'],
  [47, 'due in 47 h (Fri 20:40)'],
  [24 * 20, 'due in 20 days (15 Dec 21:40)'],
  [0, 'due now'],
  [-3, 'overdue by 3 h (since today 18:40)'],
  [-30, 'overdue by 30 h (since yesterday 15:40)'],
])('in %f hours: %s', (hours, words) => {
  expect(dueWords(h(hours), here)).toBe(words);
});

it.each([
  [-24 * 6, '19 Nov 21:40'],
  [24 * 6, 'Tue 21:40'],
  [24 * 7, '2 Dec 21:40'],
  [24 * 60, '24 Jan 2027 21:40'],
])('%i hours away is %s', (hours, words) => {
  expect(whenWords(h(hours), here)).toBe(words);
});

it('names the day of the reader’s zone', () => {
  expect(whenWords(h(0), { now: NOW, zone: 'Asia/Tokyo' })).toBe('today 06:40');
  expect(whenWords(h(-8), { now: NOW, zone: 'Asia/Tokyo' })).toBe('yesterday 22:40');
});

it('counts days across a clock change by the calendar', () => {
  const zone = 'Europe/Amsterdam';
  // The night of 28 to 29 March 2026 has 23 hours.
  const evening = Date.UTC(2026, 2, 28, 22, 30); // 23:30 local
  expect(whenWords(evening + 24 * HOUR_MS, { now: evening, zone })).toBe('Mon 00:30');
  expect(dueWords(evening + 24 * HOUR_MS, { now: evening, zone })).toBe('due in 24 h (Mon 00:30)');
  expect(whenWords(evening + 23 * HOUR_MS, { now: evening, zone })).toBe('tomorrow 23:30');
});

it('tells a day alone', () => {
  expect(dayWords(Date.UTC(2025, 0, 3), here)).toBe('3 Jan 2025');
});
