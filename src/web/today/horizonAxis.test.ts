import { HOUR_MS } from '../../core/measure';
import { barParts, horizonAxis, midnights } from './horizonAxis';

const NOW = Date.UTC(2026, 2, 28, 19, 0);
const h = (hours: number) => NOW + hours * HOUR_MS;
const axis = horizonAxis(NOW);
const parts = (since: number, due: number) =>
  barParts(axis, h(since), h(due), NOW).map(({ kind, leftPercent, widthPercent }) => [
    kind,
    Math.round(leftPercent),
    Math.round(widthPercent),
  ]);

it('runs from half a day back to three days ahead', () => {
  expect(axis.percent(h(-12))).toBe(0);
  expect(axis.percent(h(72))).toBe(100);
  expect(Math.round(axis.percent(NOW))).toBe(14);
  expect(axis.percent(h(-50))).toBe(0);
  expect(axis.percent(h(500))).toBe(100);
});

it('shows allowance used and left', () => {
  expect(parts(-6, 42)).toEqual([
    ['used', 7, 7],
    ['left', 14, 50],
  ]);
});

it('cuts what began before the axis, and what ends after it', () => {
  expect(parts(-40, 8)).toEqual([
    ['used', 0, 14],
    ['left', 14, 10],
  ]);
  expect(parts(-10, 326).at(-1)).toEqual(['left', 14, 86]);
});

it('shows what is past due', () => {
  expect(parts(-54, -6)).toEqual([
    ['used', 0, 7],
    ['overdue', 7, 7],
  ]);
  expect(parts(-80, -32)).toEqual([['overdue', 0, 14]]);
});

it('marks every midnight of the reader’s zone once, across a clock change too', () => {
  const found = midnights(axis, { now: NOW, zone: 'Europe/Amsterdam' });
  expect(found.map(({ day }) => day)).toEqual(['tomorrow', 'Mon', 'Tue']);
  expect(found.map(({ at }) => new Date(at).toISOString())).toEqual([
    '2026-03-28T23:00:00.000Z',
    '2026-03-29T22:00:00.000Z',
    '2026-03-30T22:00:00.000Z',
  ]);
});
