import type { PackTypeId } from '../measure';
import { aCharger } from '../testing/evenings';
import { EVEN_KEEL } from '../testing/histories';
import { packsOnBench, rotationByFormula, rotationBySimulation } from '.';
import type { DayType, FlownDay } from '.';

const quad: DayType = {
  id: 'quad' as PackTypeId,
  chemistry: 'lipo',
  series: 4,
  capacityMah: 5_000,
  chargeC: 3,
  connector: 'yellow',
};
const day: FlownDay = { flightMin: 15, coolMin: 15, handlingMin: 5, dayMin: 240 };
/** As the house charges where it flies. */
const rules = { ...EVEN_KEEL, charge: { ...EVEN_KEEL.charge, homeC: EVEN_KEEL.charge.fieldC } };
const bench = (channels: number) => ({
  equipment: [aCharger('a', channels, { chargeW: 600, chargeA: 30 })],
  lastSettings: [],
  rules,
});

describe('packs for a day, by planning every charge of it on the bench', () => {
  it.each([
    ['many channels', 6, {}],
    ['as many as keep up', 4, {}],
    ['long flights', 3, { flightMin: 25 }],
    ['short flights', 6, { flightMin: 9 }],
    ['a short day', 4, { dayMin: 90 }],
  ])('%s: within one pack of the formula and of flying the day', (_what, channels, more) => {
    const flown = { ...day, ...more };
    const planned = packsOnBench(flown, quad, bench(channels));
    const facts = { ...flown, chargeMin: planned.chargeMin!, channels };
    expect(planned.flights).toBe(rotationBySimulation(facts, flown.dayMin).flights);
    expect(Math.abs(planned.packs - rotationBySimulation(facts, flown.dayMin).packs)).toBeLessThanOrEqual(1);
    expect(Math.abs(planned.packs - rotationByFormula(facts, flown.dayMin).packs)).toBeLessThanOrEqual(1);
  });

  it('fewer channels never take fewer packs, and a bench that can do nothing takes one a flight', () => {
    const packs = [6, 3, 1].map((channels) => packsOnBench(day, quad, bench(channels)).packs);
    expect([...packs].sort((a, b) => a - b)).toEqual(packs);
    expect(packsOnBench(day, quad, { ...bench(1), equipment: [] })).toEqual({
      packs: 16,
      flights: 16,
      chargeMin: null,
      channels: 0,
    });
  });

  it('one flight takes one pack and no charge', () => {
    expect(packsOnBench({ ...day, dayMin: 10 }, quad, bench(1))).toMatchObject({ packs: 1, flights: 1 });
  });
});
