import { newSimPack, percentOf, seededRandom, use } from '../cellsim';
import { restMv } from '../chemistry';
import type { DrainLoad } from '../lifecycle';
import { aPack } from '../testing/histories';
import { currentAt, drainPlan } from '.';

const pack3s = aPack({ series: 3, capacityMah: 2200 });
const pack6s = aPack({ series: 6, capacityMah: 16_000 });
const LAMP: DrainLoad = { by: 'lamp', ratedV: 12, ratedW: 21 };

function planned(...asked: Parameters<typeof drainPlan>) {
  const answer = drainPlan(...asked);
  if (answer.outcome !== 'plan') throw new Error(answer.outcome);
  return answer.plan;
}

it('a 12 V lamp on a 6S pack is refused: it burns out and leaves the pack charged', () => {
  expect(drainPlan(pack6s, 3850, LAMP)).toEqual({
    outcome: 'refused',
    why: { code: 'lamp-below-pack', ratedV: 12, packV: 22.2 },
  });
});

it.each([
  ['a lamp without volts', { by: 'lamp', ratedV: 0, ratedW: 21 }, 'not-a-load'],
  ['a resistor of no ohms', { by: 'resistor', ohms: 0, ratedW: 50 }, 'not-a-load'],
  ['a resistor that cannot shed it', { by: 'resistor', ohms: 10, ratedW: 5 }, 'resistor-too-small'],
  ['a load beyond a gentle current', { by: 'resistor', ohms: 3, ratedW: 100 }, 'load-beyond-pack'],
] as const)('refuses %s', (_, load, code) => {
  expect(drainPlan(pack3s, 3850, load)).toMatchObject({ outcome: 'refused', why: { code } });
});

it('the charger’s own mode plans itself', () => {
  expect(drainPlan(pack6s, null, { by: 'charger', charger: 'Bench charger' })).toEqual({
    outcome: 'by-charger',
  });
});

it('a resistor draws what Ohm says, and falls with the pack', () => {
  const { startA, peakW, curve } = planned(pack3s, 3800, { by: 'resistor', ohms: 10, ratedW: 50 });
  expect(startA).toBeCloseTo(1.14, 2);
  expect(peakW).toBeCloseTo(13, 1);
  const amps = curve.map((point) => point.amps);
  expect([...amps].sort((a, b) => b - a)).toEqual(amps);
});

/** The same lamp on a simulated pack, followed minute by minute until the first cell is empty. */
function simulated(mv: number) {
  let sim = newSimPack({ chemistry: 'lipo', series: 3, labelAh: 2.2, mv }, seededRandom(7));
  let hours = 0;
  let wattHours = 0;
  let peakW = 0;
  for (;;) {
    const packV = sim.cells.reduce((sum, cell) => sum + restMv('lipo', percentOf(cell)) / 1000, 0);
    const amps = currentAt(LAMP as never, packV);
    peakW = Math.max(peakW, amps * packV);
    const after = use(sim, amps / 60, amps, 20);
    if (after.usedAh < amps / 60 / 2) return { hours, wattHours, peakW };
    hours += after.minutes / 60;
    wattHours += (after.minutes / 60) * amps * packV;
    sim = after.pack;
  }
}

it.each([4200, 3850, 3710])(
  'a 12 V 21 W lamp on a 3S pack at %d mV goes as the simulated pack does',
  (mv) => {
    const plan = planned(pack3s, mv, LAMP);
    const sim = simulated(mv);
    const within = (value: number, of: number) => expect(Math.abs(value / of - 1)).toBeLessThan(0.1);
    within(plan.peakW, sim.peakW);
    within(plan.wattHours, sim.wattHours);
    within(plan.hours, sim.hours);
  },
);
