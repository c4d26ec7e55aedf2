import type { ComplianceLine } from '../workers/compliance.worker';
import type { PackId } from '../../core/measure';
import { aRow, PLACE_ID, REGISTER } from '../testing/rows';
import { grouped, hoursCsv, monthStarts, monthsWithin, narrowed } from './grouping';

const NOW = Date.UTC(2026, 2, 12, 9);
const STARTS = monthStarts(NOW, 3);
const line = (more: Partial<ComplianceLine>): ComplianceLine => ({
  packId: 'id-A' as PackId,
  period: 0,
  placeId: null,
  holderId: null,
  inBand: 0,
  allowed: 0,
  overdue: 0,
  unknown: 0,
  ...more,
});
const names = (by: Parameters<typeof grouped>[1], lines: readonly ComplianceLine[]) =>
  grouped(lines, by, STARTS, [aRow('A')], REGISTER).map(({ name }) => name);

it('months begin on their first day, and the last ends now', () => {
  expect(STARTS).toEqual([Date.UTC(2026, 0, 1), Date.UTC(2026, 1, 1), Date.UTC(2026, 2, 1), NOW]);
});

it('months stand in order, everything else with the worst first', () => {
  const lines = [line({ period: 2, inBand: 5 }), line({ period: 0, inBand: 5 })];
  expect(names('month', lines)).toEqual(['Jan 2026', 'Mar 2026']);
  const places = [line({ inBand: 9, overdue: 1, placeId: PLACE_ID }), line({ inBand: 1, unknown: 9 })];
  expect(names('place', places)).toEqual(['no fixed place', 'Fire cabinet']);
});

it('adds up what belongs together, by type and by person too', () => {
  const lines = [line({ inBand: 5 }), line({ inBand: 7, period: 1 })];
  expect(grouped(lines, 'type', STARTS, [aRow('A')], REGISTER)).toEqual([
    { name: 'Mapping hexacopter', hours: { inBand: 12, allowed: 0, overdue: 0, unknown: 0 } },
  ]);
  expect(names('person', lines)).toEqual(['in storage']);
});

it('a period of one’s own begins and ends where it says, with the months between', () => {
  const [from, to] = [Date.UTC(2025, 10, 20), Date.UTC(2026, 0, 10)];
  expect(monthsWithin(from, to)).toEqual([from, Date.UTC(2025, 11, 1), Date.UTC(2026, 0, 1), to]);
  expect(monthsWithin(from, from + 1)).toEqual([from, from + 1]);
});

it('is narrowed to a type, a place, a person', () => {
  const rows = [aRow('A')];
  const lines = [line({ placeId: PLACE_ID }), line({ packId: 'id-B' as PackId })];
  const of = (more: object) => narrowed(lines, { type: '', place: '', person: '', ...more }, rows);
  expect(of({})).toHaveLength(2);
  expect(of({ type: rows[0]!.typeId })).toEqual([lines[0]]);
  expect(of({ place: PLACE_ID })).toEqual([lines[0]]);
  expect(of({ person: 'nobody' })).toEqual([]);
});

it('as CSV runs nothing in a spreadsheet', () => {
  const hours = { inBand: 1.25, allowed: 0, overdue: 2, unknown: 0 };
  const [, row] = hoursCsv('place', [{ name: '=1+1 "box"', hours }]).split('\r\n');
  expect(row).toBe(`"'=1+1 ""box""",1.3,0,2,0`);
});
