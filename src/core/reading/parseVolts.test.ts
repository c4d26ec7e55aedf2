import fc from 'fast-check';
import { parseVolts } from '.';
import type { TypedVolts } from '.';

const FOUR = { chemistry: 'lipo', series: 4 } as const;
const WANTED = [3840, 3830, 3850, 3840];

function refusal(typed: TypedVolts) {
  if (typed.outcome !== 'refused') throw new Error(`taken as ${typed.outcome}`);
  return typed.why;
}

describe('volts the way hands type them', () => {
  it.each([
    '384 383 385 384',
    '384,383,385,384',
    '384, 383, 385, 384',
    '384/383/385/384',
    '384;383;385;384',
    '3.84 3.83 3.85 3.84',
    '3,84 3,83 3,85 3,84',
    '3,84;3,83;3,85;3,84',
    '3,84, 3,83, 3,85, 3,84',
    '3.84,3.83,3.85,3.84',
    '3.84/3.83/3.85/3.84',
    '3840 3830 3850 3840',
    '  384   383\t385  384 ',
    '3.84V 3.83V 3.85V 3.84V',
    '3.84 v 3.83 v 3.85 v 3.84 v',
    '3840mV 3830mV 3850mV 3840mV',
    '1:3.84 2:3.83 3:3.85 4:3.84',
    '1: 3.84V  2: 3.83V  3: 3.85V  4: 3.84V',
    '1) 3.84 2) 3.83 3) 3.85 4) 3.84',
    'C1 3.84 C2 3.83 C3 3.85 C4 3.84',
    'C1=3.84 C2=3.83 C3=3.85 C4=3.84',
    'Cell 1: 3.840 V, Cell 2: 3.830 V, Cell 3: 3.850 V, Cell 4: 3.840 V',
    '3.84 3.83 3.85 3.84 15.36',
    '3.84 3.83 3.85 3.84 15.36V',
    '15.36 3.84 3.83 3.85 3.84',
    '3.84 3.83 3.85 3.84 TOTAL 15.36V',
    'Total: 15.36 V 1: 3.84 2: 3.83 3: 3.85 4: 3.84',
    '384\n383\n385\n384',
    '384 3.83 3850 3.84',
  ])('%s', (text) => {
    expect(parseVolts(text, FOUR)).toMatchObject({ outcome: 'cells', cellsMv: WANTED });
  });

  it('names what a meter prints besides volts, instead of dropping it in silence', () => {
    expect(parseVolts('1:3.84V 2:3.83V 3:3.85V 4:3.84V TOTAL 15.36V 54% Δ20mV 21°C', FOUR)).toEqual({
      outcome: 'cells',
      cellsMv: WANTED,
      ignored: expect.arrayContaining(['54%', 'Δ20mV', '21°C']) as string[],
    });
  });

  it('reads a single cell', () => {
    expect(parseVolts('419', { chemistry: 'lipo', series: 1 })).toMatchObject({
      outcome: 'cells',
      cellsMv: [4190],
    });
  });

  it('takes a dead cell for what it is', () => {
    expect(parseVolts('384 383 0 384', FOUR)).toMatchObject({
      outcome: 'cells',
      cellsMv: [3840, 3830, 0, 3840],
    });
    expect(parseVolts('384 383 000 384', FOUR)).toMatchObject({
      outcome: 'cells',
      cellsMv: [3840, 3830, 0, 3840],
    });
  });

  it('reads whatever it is given back, in any style', () => {
    const styles: ((mv: number) => string)[] = [
      (mv) => String(mv / 10),
      (mv) => (mv / 1000).toFixed(2),
      (mv) => (mv / 1000).toFixed(3),
      (mv) => `${(mv / 1000).toFixed(2)}V`,
      (mv) => String(mv),
    ];
    const cells = fc.array(
      fc.integer({ min: 250, max: 435 }).map((hundredths) => hundredths * 10),
      { minLength: 2, maxLength: 14 },
    );
    fc.assert(
      fc.property(
        cells,
        fc.constantFrom(...styles),
        fc.constantFrom(' ', '/', ' ; ', '\t'),
        (cellsMv, style, between) => {
          const typed = parseVolts(cellsMv.map(style).join(between), {
            chemistry: 'lipo',
            series: cellsMv.length,
          });
          expect(typed).toMatchObject({ outcome: 'cells', cellsMv });
        },
      ),
    );
  });

  it('never throws and never takes a wrong number of cells, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), fc.integer({ min: 1, max: 12 }), (text, series) => {
        const typed = parseVolts(text, { chemistry: 'lihv', series });
        if (typed.outcome === 'cells') expect(typed.cellsMv).toHaveLength(series);
        if (typed.outcome === 'pack') throw new Error('a pack with cell taps was taken by its total');
      }),
    );
  });
});

describe('what cannot be taken', () => {
  it.each([
    ['', 'empty'],
    ['   ', 'empty'],
  ])('%j is nothing yet', (text, outcome) => {
    expect(parseVolts(text, FOUR).outcome).toBe(outcome);
  });

  it('says how many cells are missing, and keeps those read', () => {
    const typed = parseVolts('384 383 385', FOUR);
    expect(typed).toMatchObject({ outcome: 'refused', cellsMv: [3840, 3830, 3850] });
    expect(refusal(typed)).toEqual({ code: 'too-few', given: 3, wanted: 4 });
  });

  it('says when there are too many', () => {
    expect(refusal(parseVolts('384 383 385 384 383 382', FOUR))).toEqual({
      code: 'too-many',
      given: 6,
      wanted: 4,
    });
    expect(refusal(parseVolts('384 383 385 384 383', FOUR))).toEqual({
      code: 'too-many',
      given: 5,
      wanted: 4,
    });
  });

  it('asks for hundredths', () => {
    expect(refusal(parseVolts('384 38 385 384', FOUR))).toEqual({ code: 'too-coarse', token: '38' });
  });

  it('names the word it does not understand', () => {
    expect(refusal(parseVolts('384 three 385 384', FOUR))).toEqual({ code: 'not-a-number', token: 'three' });
  });

  it('knows a reversed lead or cell', () => {
    expect(refusal(parseVolts('3.84 -3.83 3.85 3.84', FOUR))).toEqual({ code: 'negative', token: '-3.83' });
  });

  it('names the cell that cannot be so high', () => {
    expect(refusal(parseVolts('384 583 385 384', FOUR))).toEqual({
      code: 'impossible',
      cell: 2,
      mv: 5830,
      maxMv: 5000,
    });
    expect(refusal(parseVolts('140 190 140 140 140 140', { chemistry: 'nimh', series: 6 }))).toMatchObject({
      cell: 2,
      maxMv: 1800,
    });
  });

  it.each(['15.36', '15.36 V', '1536', '15360', 'total 15.36V'])(
    'refuses the total alone, %s, and says what it hides',
    (text) => {
      expect(refusal(parseVolts(text, FOUR))).toEqual({
        code: 'pack-total',
        packMv: 15_360,
        averageMv: 3840,
        wanted: 4,
      });
    },
  );

  it('a total that disagrees with its cells is read again', () => {
    expect(refusal(parseVolts('3.84 3.83 3.85 3.84 total 14.10', FOUR))).toEqual({
      code: 'total-disagrees',
      sumMv: 15_360,
      totalMv: 14_100,
    });
  });
});

describe('a pack without cell taps', () => {
  const EIGHT = { chemistry: 'nimh', series: 8 } as const;

  it.each([
    ['9.6', 9600],
    ['9,6', 9600],
    ['960', 9600],
    ['9.6 V', 9600],
    ['1120', 11_200],
    ['10.4V', 10_400],
  ])('is read by its total: %s', (text, packMv) => {
    expect(parseVolts(text, EIGHT)).toMatchObject({ outcome: 'pack', packMv });
  });

  it('may be read cell by cell by whoever opened it', () => {
    expect(parseVolts('120 121 120 119', { chemistry: 'nimh', series: 4 })).toMatchObject({
      outcome: 'cells',
    });
  });

  it('refuses a total no such pack can have', () => {
    expect(parseVolts('38.4', EIGHT).outcome).toBe('refused');
  });
});
