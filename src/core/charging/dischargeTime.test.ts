import fc from 'fast-check';
import { restMv } from '../chemistry';
import { dischargeTime } from './dischargeTime';
import type { DischargeJob } from './dischargeTime';

const JOB: DischargeJob = {
  chemistry: 'lipo',
  capacityAh: 5,
  series: 4,
  fromPercent: 90,
  toPercent: 40,
  amps: 5,
  watts: null,
};

it('without a resistance it is charge ÷ amps', () => {
  expect(dischargeTime(JOB)).toMatchObject({ minutes: expect.closeTo(30, 6) as number, decidedBy: 'amps' });
});

it('a load that stops when the display shows the target stops early, by the volts its current takes', () => {
  const shown = dischargeTime({ ...JOB, cellMilliohm: 10 });
  expect(shown.minutes).toBeLessThan(30);
  // What is left rests higher by about amps × resistance.
  const left = 90 - (shown.chargeAh / 5) * 100;
  expect(restMv('lipo', left) - restMv('lipo', 40)).toBeCloseTo(50, -1);
});

it('a storage program that turns the current down takes longer than the load, and takes more', () => {
  const load = dischargeTime({ ...JOB, cellMilliohm: 10 });
  const program = dischargeTime({ ...JOB, cellMilliohm: 10, taperToC: 0.1 });
  expect(program.minutes).toBeGreaterThan(load.minutes);
  expect(program.chargeAh).toBeGreaterThan(load.chargeAh);
  expect(program.chargeAh).toBeLessThanOrEqual(2.5);
});

it('takes no more than there is to take, and never for less time the smaller the current', () => {
  const job = fc.record({
    amps: fc.double({ min: 0.2, max: 20, noNaN: true }),
    cellMilliohm: fc.double({ min: 0.5, max: 20, noNaN: true }),
    watts: fc.option(fc.double({ min: 5, max: 300, noNaN: true })),
    fromPercent: fc.integer({ min: 0, max: 100 }),
  });
  fc.assert(
    fc.property(job, (more) => {
      const all = { ...JOB, ...more };
      const { minutes, chargeAh } = dischargeTime(all);
      expect(chargeAh).toBeLessThanOrEqual((Math.max(0, all.fromPercent - 40) / 100) * 5 + 1e-9);
      expect(dischargeTime({ ...all, amps: all.amps / 2 }).minutes).toBeGreaterThanOrEqual(minutes - 1e-9);
    }),
  );
});
