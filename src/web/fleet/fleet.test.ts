import type { PackTypeId } from '../../core/measure';
import { joinedOrders } from '../../core/fleet';
import type { Range } from '../../core/fleet';
import type { FleetMessage, TypeNow } from '../workers/fleet.worker';
import { csvOf, purchaseCsv, purchaseLines, rangeWords } from './purchaseTable';
import { fleetAfter } from './useFleet';
import type { FleetForecast } from './useFleet';

const [QUAD, WING] = ['quad', 'wing'] as unknown as readonly [PackTypeId, PackTypeId];
const range = (low: number, middle: number, high: number): Range => ({ low, middle, high });
const now = (typeId: PackTypeId, inService: number): TypeNow => ({
  typeId,
  inService,
  over: 1,
  cyclesAYear: 17.25,
  fullShare: 0.1,
  learntFrom: 3,
});
const done: Extract<FleetMessage, { kind: 'done' }> = {
  id: 1,
  kind: 'done',
  types: [now(QUAD, 4), now(WING, 9)],
  purchase: {
    types: [
      {
        id: QUAD,
        quarters: [range(0, 1, 1), range(0, 0, 2)],
        upTo: [range(0, 1, 1), range(0, 1, 3)],
        gone: range(0, 1, 3),
      },
      {
        id: WING,
        quarters: [range(1, 2, 2), range(0, 1, 2)],
        upTo: [range(1, 2, 2), range(1, 3, 4)],
        gone: range(1, 3, 4),
      },
    ],
    packs: [range(1, 3, 3), range(1, 4, 7)],
    money: [range(100, 300, 300), range(100, 400, 700)],
  },
  lost: 0,
  packYears: 20,
  milliseconds: 5,
};
const lines = purchaseLines(done, (typeId) => ({
  name: typeId === QUAD ? '=Quad, "fast"' : 'Wing',
  wanted: 5,
  price: typeId === QUAD ? null : 142.5,
  flyingDays: typeId === QUAD ? 3 : null,
}));

describe('what to buy, as a table', () => {
  it('the type of which most is bought stands first, with the register’s figures beside the forecast’s', () => {
    expect(lines.map(({ name }) => name)).toEqual(['Wing', '=Quad, "fast"']);
    expect(lines[0]).toMatchObject({ inService: 9, over: 1, wanted: 5, price: 142.5, total: range(1, 3, 4) });
  });

  it('a range whose ends are the same is one figure', () => {
    expect(rangeWords(range(0, 1, 2))).toBe('0–2');
    expect(rangeWords(range(2, 2, 2))).toBe('2');
  });

  it('as a file: three columns a range, nothing for what nobody knows, no name that a spreadsheet would work out', () => {
    const [head, wing, quad, end] = purchaseCsv(lines, ['Jun 2026', 'Sep 2026']).split('\r\n');
    expect(head!.split(',')).toHaveLength(7 + 3 * 3);
    expect(wing).toBe('Wing,9,1,5,142.5,,17.3,1,2,2,0,1,2,1,3,4');
    expect(quad).toBe(`"'=Quad, ""fast""",4,1,5,,3,17.3,0,1,1,0,0,2,0,1,3`);
    expect(end).toBe('');
  });

  it('an empty table is its head alone', () => {
    expect(csvOf(['a', 'b'], [])).toBe('a,b\r\n');
    expect(csvOf(['a'], [['line\nbreak'], ['@sum']])).toBe('a\r\n"line\nbreak"\r\n\'@sum\r\n');
  });

  it('orders cover what is likely until the next one', () => {
    expect(joinedOrders(done.purchase, 1)).toEqual([
      {
        quarter: 0,
        lines: [
          { id: QUAD, packs: 1 },
          { id: WING, packs: 2 },
        ],
      },
      { quarter: 1, lines: [{ id: WING, packs: 1 }] },
    ]);
    expect(joinedOrders(done.purchase, 2)).toEqual([
      {
        quarter: 0,
        lines: [
          { id: QUAD, packs: 1 },
          { id: WING, packs: 3 },
        ],
      },
    ]);
  });
});

describe('a forecast that is worked out', () => {
  const after = (...events: readonly Parameters<typeof fleetAfter>[1][]) =>
    events.reduce<FleetForecast>(fleetAfter, { state: 'none', progress: null, last: null });

  it('says how far it is, stage by stage, and ends with its answer', () => {
    const reading = after({ kind: 'asked' }, { id: 1, kind: 'reading', done: 20, of: 60 });
    expect(reading).toMatchObject({ state: 'running', progress: { stage: 'reading', done: 20, of: 60 } });
    expect(fleetAfter(reading, done)).toEqual({ state: 'done', progress: null, last: done });
  });

  it('what was worked out last stays while the next is asked, is cancelled or fails', () => {
    for (const end of [{ kind: 'asked' }, { kind: 'cancelled' }, { id: 2, kind: 'failed' }] as const)
      expect(
        after(done, { kind: 'asked' }, { id: 2, kind: 'drawing', done: 50, of: 2_000 }, end),
      ).toMatchObject({
        last: done,
        progress: null,
      });
    expect(after({ kind: 'asked' }, { kind: 'cancelled' })).toMatchObject({ state: 'cancelled', last: null });
  });
});
