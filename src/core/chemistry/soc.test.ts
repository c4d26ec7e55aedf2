import fc from 'fast-check';
import { LITHIUM_CHEMISTRIES, REST_MV, restMv, soc, socPercent } from '.';

const chemistry = fc.constantFrom(...LITHIUM_CHEMISTRIES);

describe('state of charge from rested volts', () => {
  it.each([
    ['lipo', 4200, 100],
    ['lipo', 3840, 50],
    ['lipo', 3800, 40],
    ['lipo', 3690, 10],
    ['lipo', 3270, 0],
    ['lihv', 4200, 90],
    ['lihv', 3850, 45],
    ['liion', 3680, 50],
    ['liion', 3160, 5],
    ['lifepo4', 3300, 70],
    ['lifepo4', 3260, 50],
  ] as const)('%s at %i mV holds %i %%', (kind, mv, percent) => {
    expect(socPercent(kind, mv)).toBe(percent);
  });

  it('is clamped outside the curve', () => {
    expect(socPercent('lipo', 4350)).toBe(100);
    expect(socPercent('lipo', 2000)).toBe(0);
  });

  it('never falls as volts rise', () => {
    fc.assert(
      fc.property(
        chemistry,
        fc.integer({ min: 0, max: 5000 }),
        fc.integer({ min: 0, max: 500 }),
        (kind, mv, more) => {
          expect(socPercent(kind, mv + more)).toBeGreaterThanOrEqual(socPercent(kind, mv));
        },
      ),
    );
  });

  it('is undone by asking for the volts of that charge', () => {
    fc.assert(
      fc.property(chemistry, fc.double({ min: 0, max: 100, noNaN: true }), (kind, percent) => {
        expect(socPercent(kind, restMv(kind, percent))).toBeCloseTo(percent, 6);
      }),
    );
  });

  it('has one point every five percent from 0 to 100, rising', () => {
    for (const kind of LITHIUM_CHEMISTRIES) {
      const curve = REST_MV[kind];
      expect(curve).toHaveLength(21);
      expect(curve.every((mv, i) => i === 0 || mv > curve[i - 1]!)).toBe(true);
    }
  });
});

describe('its uncertainty', () => {
  it('is the meter’s error over the curve’s slope', () => {
    // Between 3.73 V (20 %) and 3.75 V (25 %): 5 mV are 1.25 %.
    expect(soc('lipo', 3740, 5)).toEqual({ percent: 22.5, lowPercent: 21.25, highPercent: 23.75 });
  });

  it('is tens of percent on the LiFePO4 plateau', () => {
    const { lowPercent, highPercent } = soc('lifepo4', 3260, 10);
    expect(highPercent - lowPercent).toBeGreaterThan(18);
  });

  it('always holds the estimate, and grows with the meter’s error', () => {
    fc.assert(
      fc.property(
        chemistry,
        fc.integer({ min: 2000, max: 4400 }),
        fc.integer({ min: 0, max: 50 }),
        (kind, mv, error) => {
          const narrow = soc(kind, mv, error);
          const wide = soc(kind, mv, error + 5);
          expect(narrow.lowPercent).toBeLessThanOrEqual(narrow.percent);
          expect(narrow.highPercent).toBeGreaterThanOrEqual(narrow.percent);
          expect(wide.lowPercent).toBeLessThanOrEqual(narrow.lowPercent);
          expect(wide.highPercent).toBeGreaterThanOrEqual(narrow.highPercent);
        },
      ),
    );
  });
});
