import fc from 'fast-check';
import { totalOf, totalsByChemistry } from '.';

const pack = (chemistry: 'lipo' | 'nimh', massG: number, apart = false) => ({
  chemistry,
  massG,
  wh: massG / 5,
  apart,
});

it('of nothing is nothing', () => {
  expect(totalOf([])).toEqual({ packs: 0, massG: 0, wh: 0 });
  expect(totalsByChemistry([])).toEqual([]);
});

it('keeps chemistries asunder, and damaged packs by themselves and last', () => {
  const packs = [pack('lipo', 300, true), pack('lipo', 300), pack('nimh', 150), pack('lipo', 200)];
  expect(totalsByChemistry(packs)).toEqual([
    { chemistry: 'lipo', apart: false, packs: 2, massG: 500, wh: 100 },
    { chemistry: 'nimh', apart: false, packs: 1, massG: 150, wh: 30 },
    { chemistry: 'lipo', apart: true, packs: 1, massG: 300, wh: 60 },
  ]);
});

it('its parts come to the whole, whatever lies in the box', () => {
  const some = fc.record({
    chemistry: fc.constantFrom('lipo' as const, 'nimh' as const, 'liion' as const),
    massG: fc.integer({ min: 0, max: 5_000 }),
    wh: fc.integer({ min: 0, max: 500 }),
    apart: fc.boolean(),
  });
  const sound = fc.property(fc.array(some, { maxLength: 40 }), (packs) => {
    const parts = totalsByChemistry(packs);
    const whole = totalOf(packs);
    expect(totalOf(parts)).toMatchObject({ massG: whole.massG, wh: whole.wh });
    expect(parts.reduce((sum, part) => sum + part.packs, 0)).toBe(whole.packs);
    expect(new Set(parts.map(({ chemistry, apart }) => `${chemistry} ${apart}`)).size).toBe(parts.length);
  });
  fc.assert(sound);
});
