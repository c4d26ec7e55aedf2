import { DAY_MS } from '../../../core/measure';
import { aRow, REGISTER } from '../../testing/rows';
import { columnsFrom, DEFAULT_COLUMNS, filtered, listedPacks, sorted, sortFrom } from './listing';

const NOW = 10_000;
const rows = [
  aRow('HX-02'),
  aRow('HX-10', { verdict: 'hold', mayFly: 'no', cellsMv: [4340, 4340, 4340, 4340, 4340, 4340] }),
  aRow('HX-01', {
    storage: 'high',
    since: 0,
    dueAt: NOW - 1,
    allowanceHours: 48,
    next: { do: 'store-down', dueAt: NOW - 1 },
  }),
  aRow('HX-03', {
    storage: 'low',
    since: 0,
    dueAt: NOW + 1,
    allowanceHours: 24,
    cellsMv: null,
    readAt: null,
  }),
];
const packs = listedPacks(rows, REGISTER);
const tags = (list: readonly { row: { tag: string } }[]) => list.map(({ row }) => row.tag);

describe('filtering', () => {
  it.each([
    ['', ['HX-02', 'HX-10', 'HX-01', 'HX-03']],
    ['hx01', ['HX-01']],
    ['hx-1', ['HX-10']],
    ['hold', ['HX-10']],
    ['out-of-use', ['HX-10']],
    ['overdue', ['HX-01']],
    ['out-of-band', ['HX-01', 'HX-03']],
    ['high discharge', ['HX-01']],
    ['LIPO 6s cabinet', ['HX-02', 'HX-10', 'HX-01', 'HX-03']],
    ['16 ah', ['HX-02', 'HX-10', 'HX-01', 'HX-03']],
    ['nimh', []],
  ])('%j finds %j', (typed, expected) => {
    expect(tags(filtered(packs, typed, NOW))).toEqual(expected);
  });
});

describe('sorting', () => {
  it('puts numbers in tags in order', () => {
    expect(tags(sorted(packs, sortFrom(null)))).toEqual(['HX-01', 'HX-02', 'HX-03', 'HX-10']);
    expect(tags(sorted(packs, sortFrom('-tag')))).toEqual(['HX-10', 'HX-03', 'HX-02', 'HX-01']);
  });

  it('puts what is unknown last, whichever way', () => {
    expect(tags(sorted(packs, sortFrom('lowest'))).at(-1)).toBe('HX-03');
    expect(tags(sorted(packs, sortFrom('-lowest'))).at(-1)).toBe('HX-03');
    expect(tags(sorted(packs, sortFrom('-lowest')))[0]).toBe('HX-10');
  });

  it('sorts clocks by when they are due, the gravest verdict by name', () => {
    expect(tags(sorted(packs, sortFrom('due'))).slice(0, 2)).toEqual(['HX-01', 'HX-03']);
    expect(tags(sorted(packs, sortFrom('-verdict')))[0]).toBe('HX-10');
  });

  it('puts packs that left after all that wait for somebody, the gravest first', () => {
    const some = (['recycled', 'fit', 'retired', 'retire-advised', 'hold'] as const).map((verdict) =>
      aRow(verdict, { verdict }),
    );
    const gravest = sorted(listedPacks(some, REGISTER), sortFrom('-verdict'));
    expect(tags(gravest).slice(0, 3)).toEqual(['retire-advised', 'hold', 'fit']);
  });

  it('takes a column it does not know for the tag', () => {
    expect(sortFrom('-nonsense')).toEqual({ column: 'tag', descending: false });
  });
});

describe('columns in the address', () => {
  it('are the usual ones when none are named, and always tag and verdict', () => {
    expect(columnsFrom(null)).toEqual(DEFAULT_COLUMNS);
    expect(columnsFrom(['owner', 'spread', 'nonsense', 'owner', 'tag'])).toEqual([
      'tag',
      'verdict',
      'owner',
      'spread',
    ]);
  });
});

it('finds what the calendar asks for, by task and within a week', () => {
  const now = 100 * DAY_MS;
  const task = (days: number) =>
    [{ do: 'inspect', dueAt: now + days * DAY_MS, because: 'inspection-due' }] as const;
  const rows = [
    aRow('A', { tasks: task(-2) }),
    aRow('B', { tasks: task(7) }),
    aRow('C', { tasks: task(7.1) }),
  ];
  const tags = (typed: string) => filtered(listedPacks(rows, REGISTER), typed, now).map(({ row }) => row.tag);
  expect(tags('due:inspect')).toEqual(['A', 'B']);
  expect(tags('due:any')).toEqual(['A', 'B']);
  expect(tags('due:re-read')).toEqual([]);
});
