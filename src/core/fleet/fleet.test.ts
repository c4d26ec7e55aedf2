import fc from 'fast-check';
import { furtherFlights, refills, rotationByFormula, rotationBySimulation } from '.';

describe('how many packs keep a craft flying', () => {
  it.each([
    [
      'three in the field at 2C',
      { flightMin: 18, coolMin: 5, chargeMin: 25, channels: 2, handlingMin: 3 },
      240,
      3,
    ],
    [
      'charged at home pace on two channels',
      { flightMin: 12, coolMin: 20, chargeMin: 60, channels: 6, handlingMin: 5 },
      240,
      9,
    ],
    ['one flight', { flightMin: 30, coolMin: 20, chargeMin: 60, channels: 1, handlingMin: 5 }, 40, 1],
    [
      'no bench worth speaking of',
      { flightMin: 10, coolMin: 10, chargeMin: 300, channels: 1, handlingMin: 5 },
      120,
      12,
    ],
  ])('%s', (_what, facts, dayMin, packs) => {
    expect(rotationBySimulation(facts, dayMin).packs).toBe(packs);
    expect(Math.abs(rotationByFormula(facts, dayMin).packs - packs)).toBeLessThanOrEqual(1);
  });

  const minutes = (most: number) => fc.integer({ min: 1, max: most });
  const facts = fc.record({
    flightMin: fc.integer({ min: 4, max: 40 }),
    coolMin: minutes(45),
    chargeMin: fc.integer({ min: 10, max: 120 }),
    channels: fc.integer({ min: 1, max: 8 }),
    handlingMin: minutes(15),
  });

  it('formula and flown day agree within one pack wherever the channels keep up', () => {
    fc.assert(
      fc.property(facts, fc.integer({ min: 30, max: 600 }), (one, dayMin) => {
        fc.pre(one.chargeMin / one.channels <= one.flightMin);
        const formula = rotationByFormula(one, dayMin);
        expect(Math.abs(formula.packs - rotationBySimulation(one, dayMin).packs)).toBeLessThanOrEqual(1);
      }),
      { numRuns: 2_000 },
    );
  });

  it('where they do not, it is off by no more than one pack a channel', () => {
    fc.assert(
      fc.property(facts, fc.integer({ min: 30, max: 600 }), (one, dayMin) => {
        fc.pre(one.chargeMin / one.channels > one.flightMin);
        const formula = rotationByFormula(one, dayMin);
        const off = formula.packs - rotationBySimulation(one, dayMin).packs;
        expect(Math.abs(off)).toBeLessThanOrEqual(one.channels);
      }),
      { numRuns: 2_000 },
    );
  });

  it('another channel, a shorter charge or a longer flight never asks for more packs than before', () => {
    fc.assert(
      fc.property(facts, fc.integer({ min: 60, max: 600 }), (one, dayMin) => {
        const { packs } = rotationBySimulation(one, dayMin);
        expect(
          rotationBySimulation({ ...one, channels: one.channels + 1 }, dayMin).packs,
        ).toBeLessThanOrEqual(packs);
        expect(
          rotationBySimulation({ ...one, chargeMin: one.chargeMin / 2 }, dayMin).packs,
        ).toBeLessThanOrEqual(packs);
      }),
    );
  });
});

describe('a field pack', () => {
  it.each([
    [{ wattHours: 1000, usableShare: 0.8 }, 60, 11],
    [{ wattHours: 1000, usableShare: 0.8 }, 681, 0],
    [{ wattHours: 1000, usableShare: 0.8 }, 680, 1],
    [{ wattHours: 500, usableShare: 1 }, 42.5, 10],
  ])('%j fills packs of %d Wh', (field, refillWh, wanted) => expect(refills(field, refillWh)).toBe(wanted));

  it('is worth its price from some number of flights on', () => {
    expect(furtherFlights(450, 10, 100)).toEqual({ byFieldPack: 45, byFlightPack: 100, breakEven: 5 });
    expect(furtherFlights(450, 0, 100)).toBeNull();
  });
});
