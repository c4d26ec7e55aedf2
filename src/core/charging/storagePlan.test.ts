import fc from 'fast-check';
import { LITHIUM_CHEMISTRIES } from '../chemistry';
import { aPack, EVEN_KEEL, level } from '../testing/histories';
import { storagePlan } from '.';

const lipo = aPack({ series: 6, capacityMah: 16_000 });
const LOAD = { amps: 5, watts: 20 };

it('a pack in its band, and one without a storage voltage, has no job', () => {
  expect(storagePlan(lipo, level(lipo, 3800), EVEN_KEEL, LOAD)).toBeNull();
  const nickel = aPack({ chemistry: 'nimh', series: 6 });
  expect(storagePlan(nickel, level(nickel, 1400), EVEN_KEEL, LOAD)).toBeNull();
});

it('a small load takes many hours over a big full pack', () => {
  // (100 − 40) % of 16 Ah is 9.6 Ah; at 20 W and 24 V that is about 0.85 A.
  const plan = storagePlan(lipo, level(lipo, 4200), EVEN_KEEL, LOAD)!;
  expect(plan).toMatchObject({ direction: 'discharge', targetMv: 3800, packTargetMv: 22_800 });
  expect(plan.chargeAh).toBeCloseTo(9.6, 5);
  expect(plan.amps).toBeGreaterThan(0.8);
  expect(plan.amps).toBeLessThan(0.87);
  expect(plan.minutes / 60).toBeGreaterThan(11);
});

it('a low pack is brought up at what house and label allow', () => {
  const plan = storagePlan(lipo, level(lipo, 3690), EVEN_KEEL, LOAD)!;
  // (40 − 10) % of 16 Ah at 1C.
  expect(plan).toMatchObject({ direction: 'charge', amps: 16 });
  expect(plan.minutes).toBeCloseTo(18, 5);
});

it('never asks for more than 1C of a discharge, whatever the load could take', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...LITHIUM_CHEMISTRIES),
      fc.double({ min: 0.1, max: 60, noNaN: true }),
      fc.option(fc.double({ min: 5, max: 500, noNaN: true }), { nil: null }),
      (chemistry, amps, watts) => {
        const pack = aPack({ chemistry, capacityMah: 2_000 });
        const full = EVEN_KEEL.topMv[chemistry];
        const plan = storagePlan(pack, level(pack, full), EVEN_KEEL, { amps, watts });
        expect(plan!.amps).toBeLessThanOrEqual(Math.min(2, amps) + 1e-9);
        expect((plan!.amps * plan!.minutes) / 60).toBeCloseTo(plan!.chargeAh, 6);
      },
    ),
  );
});
