import { HOUR_MS, MINUTE_MS } from '../measure';
import type { PersonId } from '../measure';
import { aCharger, anEvening } from '../testing/evenings';
import { attendedUntil, gateQuestions, gateRefusals, isHard } from './gate';
import type { AtTheStart, GateAnswers } from './gate';
import type { BenchPack } from './planner/demand';
import { settingChanges } from './setting';
import type { ChargerSetting } from './setting';

const NOW = Date.UTC(2026, 5, 5, 18);
const LIPO: ChargerSetting = { chemistry: 'lipo', mode: 'balance', cells: 4, topMv: 4200, amps: 3.3 };

function aBenchPack(more: Partial<BenchPack> = {}): BenchPack {
  return {
    ...anEvening('store, one span', 1, { packs: 1 }).packs[0]!,
    tag: 'HX-01',
    chemistry: 'lipo',
    series: 4,
    connector: 'yellow',
    cellsMv: [3700, 3690, 3700, 3700],
    freeFrom: NOW - HOUR_MS,
    bar: null,
    fieldPack: false,
    charged: 'charge-first',
    storage: 'low',
    dueAt: null,
    onWatch: false,
    underFloor: false,
    cycle: false,
    ...more,
  };
}

function atStart(more: Partial<AtTheStart> = {}): AtTheStart {
  return {
    do: 'charge',
    setting: LIPO,
    packs: [aBenchPack()],
    output: aCharger('a', 2),
    channel: '1',
    board: null,
    adapters: [],
    last: LIPO,
    now: NOW,
    end: NOW + HOUR_MS,
    attended: [],
    ...more,
  };
}

const ALL: GateAnswers = {
  detectedCells: 4,
  setChemistry: 'lipo',
  confirmed: [],
  looked: true,
  balanceLead: true,
  polarity: true,
  leadsFirst: true,
  surface: true,
  wayOut: true,
  attendantId: 'somebody' as PersonId,
};

const codes = (start: Partial<AtTheStart>, answers: Partial<GateAnswers> = {}) =>
  gateRefusals(atStart(start), { ...ALL, ...answers }).map(({ code }) => code);

it('lets a charge start of which everything is known and answered', () => {
  expect(codes({})).toEqual([]);
});

it.each<[string, Partial<AtTheStart>]>([
  ['out-of-use', { packs: [aBenchPack({ bar: 'out-of-use' })] }],
  ['away', { packs: [aBenchPack({ bar: 'away' })] }],
  ['unknown-cells', { packs: [aBenchPack({ cellsMv: null })] }],
  ['unknown-cells', { packs: [aBenchPack({ bar: 'measure-first' })] }],
  ['not-cooled', { packs: [aBenchPack({ freeFrom: NOW + MINUTE_MS })] }],
  ['below-floor', { packs: [aBenchPack({ cellsMv: [3700, 2999, 3700, 3700] })] }],
  ['channel-out-of-order', { channel: '9' }],
  ['chemistry', { output: aCharger('a', 2, { cells: { nimh: { least: 1, most: 16 } } }) }],
  ['cells', { output: aCharger('a', 2, { cells: { lipo: { least: 2, most: 3 } } }) }],
  ['wrong-cells', { packs: [aBenchPack({ series: 6, cellsMv: [3700, 3700, 3700, 3700, 3700, 3700] })] }],
  ['mixed-chemistry', { packs: [aBenchPack({ chemistry: 'lihv' })] }],
  ['plug', { packs: [aBenchPack({ connector: 'odd' })] }],
  ['mode', { output: aCharger('a', 2, { modes: ['storage'] }) }],
  ['current', { output: aCharger('a', 2, { chargeA: 3 }) }],
  ['top-above-full', { setting: { ...LIPO, topMv: 4210 }, last: { ...LIPO, topMv: 4210 } }],
])('%s stands whatever is answered', (code, start) => {
  expect(codes(start)).toContain(code);
  expect(gateRefusals(atStart(start), ALL).every(isHard)).toBe(true);
});

it('the floor itself, the full voltage itself and a pack cooled to the minute are allowed', () => {
  expect(codes({ packs: [aBenchPack({ cellsMv: [3700, 3000, 3700, 3700], freeFrom: NOW })] })).toEqual([]);
});

it('a discharge asks no charger’s floor, and a load no settings', () => {
  const lower = {
    do: 'lower',
    setting: { ...LIPO, mode: 'storage', topMv: 3800, amps: 3 },
    last: null,
  } as const;
  expect(
    codes(
      { ...lower, packs: [aBenchPack({ cellsMv: [2900, 2900, 2900, 2900] })] },
      { confirmed: ['chemistry', 'mode', 'cells', 'topV', 'amps'] },
    ),
  ).toEqual([]);
  const load = {
    id: 'load' as never,
    name: 'Lamps',
    inUse: true,
    facts: { kind: 'load', amps: 5, watts: 100, connectors: ['yellow'] },
  } as const;
  expect(
    codes({ ...lower, output: load, channel: null }, { detectedCells: null, setChemistry: null }),
  ).toEqual([]);
});

describe('what the channel remembers', () => {
  const high: ChargerSetting = { chemistry: 'lihv', mode: 'balance', cells: 6, topMv: 4350, amps: 5 };

  it.each<[string, ChargerSetting | null, string[]]>([
    ['the same', LIPO, []],
    ['nothing known', null, ['chemistry', 'mode', 'cells', 'topV', 'amps']],
    ['a high-voltage pack', high, ['chemistry', 'cells', 'topV', 'amps']],
    ['a nickel pack', { ...LIPO, chemistry: 'nimh', topMv: null }, ['chemistry', 'topV']],
    ['another current only', { ...LIPO, amps: 2 }, ['amps']],
  ])('%s: each difference is confirmed one by one', (_, last, fields) => {
    expect(settingChanges(last, LIPO).map(({ field }) => field)).toEqual(fields);
    const open = gateRefusals(atStart({ last }), ALL).filter(({ code }) => code === 'unconfirmed');
    expect(open).toHaveLength(fields.length);
    expect(codes({ last }, { confirmed: fields as never })).toEqual([]);
  });

  it('a higher top, another chemistry and more cells are marked as dangerous', () => {
    const marked = settingChanges(high, LIPO).filter(({ dangerous }) => dangerous);
    expect(marked.map(({ field }) => field)).toEqual(['chemistry', 'cells', 'topV']);
    expect(settingChanges({ ...LIPO, topMv: 4100, cells: 3 }, LIPO).some(({ dangerous }) => dangerous)).toBe(
      false,
    );
  });
});

it.each([
  ['fewer: perhaps a dead cell', { detectedCells: 3 }, 'fewer-cells'],
  ['more: another pack', { detectedCells: 5 }, 'more-cells'],
  ['not typed', { detectedCells: null }, 'cells-not-typed'],
  ['another chemistry on the display', { setChemistry: 'lihv' }, 'chemistry-set'],
  ['chemistry not typed', { setChemistry: null }, 'chemistry-not-typed'],
  ['nobody stays', { attendantId: null }, 'nobody-attends'],
] as const)('detected %s', (_, answers, code) => {
  expect(codes({}, answers)).toEqual([code]);
});

it('a plain charge from two cells up without the balance lead is refused hard', () => {
  const fast = { setting: { ...LIPO, mode: 'fast' }, last: { ...LIPO, mode: 'fast' } } as const;
  expect(codes(fast, { balanceLead: false })[0]).toBe('unwatched-cells');
  const single = {
    ...fast,
    setting: { ...fast.setting, cells: 1 },
    last: { ...fast.last, cells: 1 },
    packs: [aBenchPack({ series: 1, cellsMv: [3700] })],
  };
  expect(codes(single, { balanceLead: false, detectedCells: 1 })).toEqual([]);
});

it('asks only what the records do not know', () => {
  expect(gateQuestions(atStart())).not.toContain('looked');
  expect(gateQuestions(atStart({ packs: [aBenchPack({ bar: 'look-first' })] }))).toContain('looked');
  expect(gateQuestions(atStart({ setting: { ...LIPO, cells: 1 } }))).not.toContain('balanceLead');
  for (const question of gateQuestions(atStart()))
    expect(gateRefusals(atStart(), { ...ALL, [question]: false })).toContainEqual({
      code: 'unanswered',
      question,
    });
});

it('attendance is handed over: it lasts to the end of whoever comes next', () => {
  const span = (from: number, to: number) => ({
    id: 'a' as never,
    personId: 'p' as never,
    from: NOW + from * HOUR_MS,
    to: NOW + to * HOUR_MS,
  });
  expect(attendedUntil([span(2, 4), span(-1, 2)], NOW)).toBe(NOW + 4 * HOUR_MS);
  expect(attendedUntil([span(-1, 1), span(1.5, 4)], NOW)).toBe(NOW + HOUR_MS);
  expect(attendedUntil([span(1, 2)], NOW)).toBeNull();
});
