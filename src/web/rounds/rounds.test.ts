import { PRESET_RULES } from '../../core/rules';
import type { PackId } from '../../core/measure';
import { DAY_MS } from '../../core/measure';
import { aRow, PLACE_ID, REGISTER } from '../testing/rows';
import { gathered, roundTitle } from './gathering';
import { neighbour, nextOpen, NOTHING_TYPED, putAway, roundDraftAfter, rowOf, usualInto } from './roundDraft';
import type { RoundAction } from './roundDraft';
import {
  baselineMeans,
  BLANK_ROW,
  isTyped,
  rowBodies,
  rowMeans,
  rowRecords,
  seenBodies,
  toldFlight,
} from './rowDraft';

const hexacopter = REGISTER.types[0]!;
const a = 'a' as PackId;
const b = 'b' as PackId;
const c = 'c' as PackId;

describe('the one field of a row', () => {
  it.each([
    ['', 'empty'],
    ['384 383 385 384 383 384', 'volts'],
    ['384 383', 'refused'],
    ['384 383 385 384 383 384 384', 'refused'],
    ['?', 'missing'],
    ['-', 'skip'],
    ['– at the repair bench', 'skip'],
    ['tomorrow', 'refused'],
  ])('“%s” is %s', (text, kind) => {
    expect(rowMeans(text, hexacopter).kind).toBe(kind);
  });

  it('takes what follows the dash as the reason', () => {
    expect(rowMeans(' -- with Jory ', hexacopter)).toEqual({ kind: 'skip', reason: 'with Jory' });
  });

  it('tells a hand that is not finished from one that slipped', () => {
    expect(rowMeans('384 383', hexacopter)).toMatchObject({ typing: true });
    expect(rowMeans('384 983 384 384 384 384', hexacopter)).toMatchObject({ typing: false });
  });
});

describe('a new pack’s baseline', () => {
  const means = (resistances: string, thickness = '', mass = '') =>
    baselineMeans({ ...BLANK_ROW, resistances, thickness, mass }, 2);

  it('cuts resistances into readings, a figure a cell', () => {
    expect(means('2.1 2.2 2.0 2,3 2.1 2.2', '31,5', '310').baseline).toEqual({
      resistances: [
        [2.1, 2.2],
        [2, 2.3],
        [2.1, 2.2],
      ],
      thicknessMm: 31.5,
      massG: 310,
    });
    expect(means('').baseline).toEqual({ resistances: [], thicknessMm: null, massG: null });
  });

  it.each([
    ['2.1 2.2 2.0', '', '', 'resistances'],
    ['1 1 1 1 1 1 1 1', '', '', 'resistances'],
    ['2.1 none', '', '', 'resistances'],
    ['2.1 0', '', '', 'resistances'],
    ['', 'thick', '', 'thickness'],
    ['', '0', '', 'thickness'],
    ['', '', '-3', 'mass'],
  ] as const)('“%s” “%s” “%s” is named at its field', (resistances, thickness, mass, field) => {
    expect(Object.keys(means(resistances, thickness, mass).errors ?? {})).toEqual([field]);
  });
});

describe('a row a hand leaves', () => {
  const { checklists } = PRESET_RULES['even-keel'];
  const fail = { answer: 'fail', note: '', photoIds: [] } as const;
  const seen = (draft: Partial<typeof BLANK_ROW>, kind: 'put-away' | 'free' = 'put-away') =>
    seenBodies({ kind, checklist: true }, { ...BLANK_ROW, ...draft }, checklists, hexacopter, null);

  it('says what was found, nothing of what nobody looked at, and the cells where all are typed', () => {
    const [look, read, ...none] = seen({ marks: { swelling: fail }, text: '384 383 385 384 383 384' });
    expect(look).toMatchObject({
      kind: 'inspection',
      payload: { occasion: 'after-use', items: [{ key: 'swelling', answer: 'fail' }], swelling: 'soft' },
    });
    expect(read).toMatchObject({ kind: 'reading' });
    expect(none).toEqual([]);
    expect(seen({ marks: { leads: fail }, text: '- no time' })).toMatchObject([{ kind: 'inspection' }]);
  });

  it('says nothing where all that was marked is in order, or nothing is looked at', () => {
    expect(seen({ marks: { swelling: { ...fail, answer: 'ok' } }, text: '384' })).toEqual([]);
    expect(seen({ marks: { swelling: fail } }, 'free')).toEqual([]);
  });

  it('counts as typed while anything stands in it that is not as it was', () => {
    expect(isTyped(undefined)).toBe(false);
    expect(isTyped(BLANK_ROW)).toBe(false);
    expect(isTyped({ ...BLANK_ROW, step: 2, text: '  ' })).toBe(false);
    expect(isTyped({ ...BLANK_ROW, text: '38' })).toBe(true);
    expect(isTyped({ ...BLANK_ROW, mass: '310' })).toBe(true);
    expect(isTyped({ ...BLANK_ROW, marks: { swelling: { ...fail, answer: 'ok' } } })).toBe(false);
    expect(isTyped({ ...BLANK_ROW, marks: { swelling: { ...fail, answer: 'ok', note: 'a dent' } } })).toBe(
      true,
    );
  });
});

describe('what a row writes', () => {
  const volts = { of: 'cells', cellsMv: [3800, 3800, 3800, 3800, 3800, 3800] } as const;
  const items = PRESET_RULES['even-keel'].checklists['after-use'];
  const kinds = (...args: Parameters<typeof rowBodies>) => rowBodies(...args).map(({ kind }) => kind);

  it('a look and a reading; a reading only where nothing is looked at', () => {
    const round = { kind: 'put-away', checklist: true } as const;
    expect(kinds(round, BLANK_ROW, items, volts, null, null)).toEqual(['inspection', 'reading']);
    expect(kinds({ ...round, checklist: false }, BLANK_ROW, items, volts, null, null)).toEqual(['reading']);
    expect(kinds({ kind: 'idle', checklist: true }, BLANK_ROW, [], volts, null, null)).toEqual(['reading']);
  });

  it('of a new pack its baseline too, with thickness and mass in the inspection', () => {
    const baseline = { resistances: [[2], [2], [2]], thicknessMm: 30, massG: 300 };
    const bodies = rowBodies({ kind: 'receipt', checklist: true }, BLANK_ROW, items, volts, baseline, null);
    expect(bodies.map(({ kind }) => kind)).toEqual([
      'inspection',
      'reading',
      'resistance',
      'resistance',
      'resistance',
    ]);
    expect(bodies[0]).toMatchObject({ payload: { occasion: 'receipt', thicknessMm: 30, massG: 300 } });
  });

  it('a swollen pack is soft unless said to be hard', () => {
    const marks = { swelling: { answer: 'fail', note: '', photoIds: [] } } as const;
    const swelling = (draft: Partial<typeof BLANK_ROW>) =>
      rowBodies(
        { kind: 'put-away', checklist: true },
        { ...BLANK_ROW, ...draft },
        items,
        null,
        null,
        null,
      )[0];
    expect(swelling({})).toMatchObject({ payload: { swelling: 'none' } });
    expect(swelling({ marks })).toMatchObject({ payload: { swelling: 'soft' } });
    expect(swelling({ marks, swelling: 'hard' })).toMatchObject({ payload: { swelling: 'hard' } });
  });

  it('keeps its records in order, each under an id of its own', () => {
    let made = 0;
    const bodies = rowBodies({ kind: 'put-away', checklist: true }, BLANK_ROW, items, volts, null, null);
    const records = rowRecords(bodies, 1000, () => `id-${made++}`);
    expect(records.map(({ id, at }) => [id, at])).toEqual([
      ['id-0', 999],
      ['id-1', 1000],
    ]);
  });
});

describe('a round’s typing', () => {
  const after = (...actions: RoundAction[]) => actions.reduce(roundDraftAfter, NOTHING_TYPED);

  it('keeps each row’s own, and forgets a row that was handed in', () => {
    const draft = after(
      { type: 'went to', packId: a },
      { type: 'typed', packId: a, part: { text: '384' } },
      { type: 'typed', packId: b, part: { text: '379' } },
      { type: 'handed in', packId: a },
    );
    expect([rowOf(draft, a).text, rowOf(draft, b).text, draft.current]).toEqual(['', '379', a]);
  });

  it('what was refused comes back, but not over what was typed since', () => {
    const row = { ...BLANK_ROW, text: '384' };
    const back: RoundAction = { type: 'given back', packId: a, row };
    expect(rowOf(after({ type: 'handed in', packId: a }, back), a).text).toBe('384');
    const newer: RoundAction = { type: 'typed', packId: a, part: { text: '379' } };
    expect(rowOf(after({ type: 'handed in', packId: a }, newer, back), a).text).toBe('379');
  });

  it('a question about a value is asked anew when the value changes', () => {
    const asked = after({ type: 'typed', packId: a, part: { text: '302', asked: '3.02?' } });
    expect(rowOf(asked, a).asked).toBe('3.02?');
    expect(
      rowOf(roundDraftAfter(asked, { type: 'typed', packId: a, part: { text: '303' } }), a).asked,
    ).toBeNull();
    expect(
      rowOf(roundDraftAfter(asked, { type: 'pressed letter', packId: a, key: 'leads' }), a).asked,
    ).toBeNull();
  });

  it('a scan leaves the row it went over as it was, untouched or with its question', () => {
    const letters: RoundAction[] = [
      { type: 'pressed letter', packId: a, key: 'leads' },
      { type: 'typed', packId: a, part: { text: 'W-10' } },
    ];
    expect(after(...letters, { type: 'scanned over', packId: a, row: null }).rows).toEqual({});
    const row = { ...BLANK_ROW, text: '302', asked: '3.02?' };
    expect(rowOf(after(...letters, { type: 'scanned over', packId: a, row }), a)).toEqual(row);
  });

  it('a letter runs its item through the answers', () => {
    const press: RoundAction = { type: 'pressed letter', packId: a, key: 'leads' };
    const answers = [1, 2, 3].map(
      (times) => rowOf(after(...Array.from({ length: times }, () => press)), a).marks.leads?.answer,
    );
    expect(answers).toEqual(['note', 'fail', 'ok']);
  });
});

describe('which row comes next', () => {
  const rows = (...outcomes: ('done' | null)[]) =>
    [a, b, c].map((packId, i) => ({ packId, outcome: outcomes[i] ?? null }));
  it('the next open one, then from the top, and none at the end', () => {
    expect(nextOpen(rows(), null)).toBe(a);
    expect(nextOpen(rows(null, 'done', null), a)).toBe(c);
    expect(nextOpen(rows(null, 'done', 'done'), c)).toBe(a);
    expect(nextOpen(rows('done', null, 'done'), b)).toBeNull();
    expect(nextOpen(rows('done', 'done', 'done'), null)).toBeNull();
  });
  it('arrows go to any row, and stop at the ends', () => {
    expect(neighbour(rows('done', 'done', 'done'), a, 1)).toBe(b);
    expect([neighbour(rows(), a, -1), neighbour(rows(), c, 1), neighbour([], null, 1)]).toEqual([a, c, null]);
  });
});

describe('gathering', () => {
  const now = 100 * DAY_MS;
  const packs = [
    aRow('HX-10', { storage: 'high' }),
    aRow('HX-02', { storage: 'low', slot: 2 }),
    aRow('HX-01', { storage: 'high', slot: 1 }),
    aRow('HX-03'),
    aRow('HX-04', { storage: 'high', placeId: null, holderId: 'somebody' as never }),
  ];
  const tags = (...args: Parameters<typeof gathered>) => gathered(...args).map(({ tag }) => tag);

  it('takes what the round is for, in the order hands find it', () => {
    expect(tags('put-away', 'anywhere', packs, REGISTER.places, now)).toEqual([
      'HX-04',
      'HX-10',
      'HX-01',
      'HX-02',
    ]);
    expect(tags('free', 'anywhere', packs, REGISTER.places, now)).toEqual([]);
  });

  it('from a box takes everything that lies there', () => {
    expect(tags('idle', PLACE_ID, packs, REGISTER.places, now)).toEqual(['HX-03', 'HX-10', 'HX-01', 'HX-02']);
  });

  it('is called after its day where the round is', () => {
    const late = Date.UTC(2026, 10, 25, 23, 30);
    expect(roundTitle('put-away', late, 'Europe/Amsterdam')).toBe('Put-away after flying, Thu 26 Nov');
    expect(roundTitle('put-away', late, 'UTC')).toBe('Put-away after flying, Wed 25 Nov');
  });
});

describe('where a worked pack is put', () => {
  const at = (placeId: string | null, holderId: string | null, homePlaceId: string | null) =>
    ({ placeId, holderId, homePlaceId }) as never;
  const to = (into: string, pack: never) =>
    putAway(into as never, pack, 'fit').map((body) =>
      body.kind === 'moved' ? body.payload.placeId : body.kind,
    );

  it('a put-away puts into its box, or where each belongs; other rounds leave packs where they are', () => {
    expect(usualInto({ kind: 'put-away', placeId: 'box' as never })).toBe('box');
    expect(usualInto({ kind: 'put-away', placeId: null })).toBe('home');
    expect(usualInto({ kind: 'scheduled', placeId: 'box' as never })).toBe('stays');
  });

  it('out of a hand it goes home, and says nothing where it lies there already or belongs nowhere', () => {
    expect(to('home', at('van', 'pilot', 'cabinet'))).toEqual(['cabinet']);
    expect(to('home', at('cabinet', 'pilot', 'cabinet'))).toEqual(['cabinet']);
    expect(to('home', at('cabinet', null, 'cabinet'))).toEqual([]);
    expect(to('home', at('van', 'pilot', null))).toEqual([]);
    expect(to('box', at('cabinet', null, 'cabinet'))).toEqual(['box']);
    expect(to('stays', at('van', 'pilot', 'cabinet'))).toEqual([]);
  });

  it('a pack out of use by what was just measured is not put among the others', () => {
    expect(putAway('home', at('van', 'pilot', 'cabinet'), 'hold')).toEqual([]);
    expect(putAway('home', at('van', 'pilot', 'cabinet'), 'watch')).toHaveLength(1);
  });

  it('a hand’s choice is kept with what it typed', () => {
    expect(roundDraftAfter(NOTHING_TYPED, { type: 'puts into', into: 'stays' }).into).toBe('stays');
  });
});

describe('a flight told with the row', () => {
  it('is nothing until somebody says something, and names nobody who was not named', () => {
    expect(toldFlight(BLANK_ROW, 30)).toEqual({ body: null, error: null });
    expect(toldFlight({ ...BLANK_ROW, minutes: '12:30' }, 30).body?.payload).toMatchObject({
      pilotId: null,
      flownBy: 'nobody named',
      minutes: 12.5,
    });
    expect(toldFlight({ ...BLANK_ROW, pilotId: 'bram' }, 30).body?.payload).toMatchObject({
      pilotId: 'bram',
      minutes: null,
    });
    expect(toldFlight({ ...BLANK_ROW, minutes: 'long' }, 30)).toMatchObject({
      body: null,
      error: expect.stringContaining('minutes'),
    });
  });

  it('ended before the rest that the reading beside it claims', () => {
    const at = Date.UTC(2026, 2, 2, 19, 0);
    const told = (settling: boolean) => {
      const { body } = toldFlight({ ...BLANK_ROW, minutes: '10', settling }, 30);
      const note = { kind: 'note', payload: { text: 'x' }, supersedes: null } as const;
      return rowRecords([body!, note], at, () => 'id').map((record) => (at - record.at) / 60_000);
    };
    expect(Math.round(told(false)[0]!)).toBe(31);
    expect(Math.round(told(true)[0]!)).toBe(1);
    expect(
      rowRecords([toldFlight({ ...BLANK_ROW, minutes: '10' }, 30).body!], at, () => 'id')[0],
    ).not.toHaveProperty('endedMsAgo');
  });

  it('a pack that has not rested is written down as settling', () => {
    const means = rowMeans('384 383 385 384 384 384', hexacopter);
    const volts = means.kind === 'volts' ? means.volts : null;
    const [reading] = rowBodies(
      { kind: 'free', checklist: false },
      { ...BLANK_ROW, settling: true },
      [],
      volts,
      null,
      null,
    );
    expect(reading?.payload).toMatchObject({ condition: 'settling' });
  });
});
