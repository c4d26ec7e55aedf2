import fc from 'fast-check';
import { LITHIUM_CHEMISTRIES, socPercent } from '../chemistry';
import { certainSocSpreadPercent, spread } from '.';

const cells = fc.array(fc.integer({ min: 0, max: 4500 }), { minLength: 1, maxLength: 14 });

describe('the spread of a pack', () => {
  it.each([
    [[4200, 4180], { mv: 20, lowestCell: 2 }],
    [[3700, 3400], { mv: 300, lowestCell: 2 }],
    [[3660, 3660, 3660, 3310, 3660, 3660], { mv: 350, lowestCell: 4 }],
    [[3800], { mv: 0, lowestCell: 1 }],
    [[3800, 3800, 3800], { mv: 0, lowestCell: 1 }],
  ])('%j is %j', (cellsMv, expected) => {
    expect(spread(cellsMv)).toMatchObject(expected);
  });

  it('does not depend on the order of the cells, and is never negative', () => {
    fc.assert(
      fc.property(cells, (cellsMv) => {
        const { mv, lowestMv, highestMv, lowestCell } = spread(cellsMv);
        expect(spread([...cellsMv].reverse()).mv).toBe(mv);
        expect(mv).toBeGreaterThanOrEqual(0);
        expect(cellsMv[lowestCell - 1]).toBe(lowestMv);
        expect(highestMv - lowestMv).toBe(mv);
      }),
    );
  });
});

describe('the spread in charge that is certain', () => {
  const pair = fc.record({
    lowestMv: fc.integer({ min: 2500, max: 4300 }),
    more: fc.integer({ min: 0, max: 300 }),
  });

  it('is the whole difference for a perfect meter', () => {
    const ends = { lowestMv: 3730, highestMv: 3750 };
    expect(certainSocSpreadPercent('lipo', ends, 0)).toBe(
      socPercent('lipo', 3750) - socPercent('lipo', 3730),
    );
  });

  it('shrinks as the meter gets worse and never goes below nothing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LITHIUM_CHEMISTRIES),
        pair,
        fc.integer({ min: 0, max: 40 }),
        (chemistry, { lowestMv, more }, error) => {
          const ends = { lowestMv, highestMv: lowestMv + more };
          const certain = certainSocSpreadPercent(chemistry, ends, error);
          expect(certain).toBeGreaterThanOrEqual(0);
          expect(certainSocSpreadPercent(chemistry, ends, error + 5)).toBeLessThanOrEqual(certain);
        },
      ),
    );
  });

  it('is nothing when the error alone can explain it', () => {
    expect(certainSocSpreadPercent('lifepo4', { lowestMv: 3260, highestMv: 3280 }, 10)).toBe(0);
  });
});
