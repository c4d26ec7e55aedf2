import fc from 'fast-check';
import type { Mode, Problem } from '../problem';
import { pressesOf } from './overlap';

const CAP = 300;

/** A pool on which jobs of these draws are known. */
function poolWith(watts: readonly number[]): Problem {
  const modes = watts.map(
    (one) => ({ draws: [{ pool: 0, perMinute: Float64Array.of(one) }] }) as unknown as Mode,
  );
  return { pools: [{ unit: 'W', cap: CAP }], tasks: [{ modes }] } as unknown as Problem;
}

it('what fits into a pool side by side still fits after every press', () => {
  const draws = fc.array(fc.integer({ min: 1, max: CAP }), { minLength: 1, maxLength: 6 });
  fc.assert(
    fc.property(draws, draws, (known, others) => {
      let sum = 0;
      const beside = [...known, ...others].filter((watts) =>
        sum + watts <= CAP ? ((sum += watts), true) : false,
      );
      for (const press of pressesOf(poolWith(known), 0)) {
        const pressed = press(Float64Array.from(beside)).reduce((all, one) => all + one, 0);
        expect(pressed).toBeLessThanOrEqual(1 + 1e-9);
      }
    }),
  );
});

it('a press sees that jobs of 200 and 114 W have no room beside each other in 300 W', () => {
  const sums = pressesOf(poolWith([200, 114]), 0).map((press) => {
    const [wide, narrow] = press(Float64Array.of(200, 114));
    return wide! + narrow!;
  });
  expect(Math.max(...sums)).toBeGreaterThan(1.3);
});
