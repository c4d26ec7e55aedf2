import { HOUR_MS } from '../measure';
import type { PersonId } from '../measure';
import {
  aPack,
  charge,
  flight,
  level,
  moved,
  reading,
  resistance,
  PLAIN,
  SOMEBODY,
  START,
} from '../testing/histories';
import { refusalsOf } from '../admission';
import { fold } from '.';
import type { PackRecord } from '.';

/** Charges, flights and resistance: what they add to a history, and when the ledger refuses them. */

const lipo = aPack();
const at = (hours: number) => START + hours * HOUR_MS;
const somebodyElse = '0195a000-0000-7000-8000-000000000077' as PersonId;

describe('what a history holds of the work done with a pack', () => {
  it('dates a charge and a flight at their end and knows when they began', () => {
    const history = fold(lipo, [charge(10, { minutes: 90 }), flight(20, { minutes: 12 })]);
    expect(history.charges[0]).toMatchObject({ at: at(10), startedAt: at(8.5) });
    expect(history.flights[0]).toMatchObject({ at: at(20), startedAt: at(19.8) });
  });

  it('takes a charge nobody timed to have begun an hour before its end', () => {
    expect(fold(lipo, [charge(10)]).charges[0]).toMatchObject({ startedAt: at(9) });
  });

  it('takes whoever wrote a flight for its pilot unless another is named', () => {
    const { flights } = fold(lipo, [flight(1), flight(2, { pilotId: somebodyElse })]);
    expect(flights.map(({ pilot }) => pilot)).toEqual([SOMEBODY, somebodyElse]);
  });

  it('puts volts noted on landing and before a charge among the readings, in the order they were read', () => {
    const landing = { volts: { of: 'pack', packMv: 14_000 }, condition: 'loaded' } as const;
    const { readings } = fold(lipo, [
      charge(10, { minutes: 180, startCellsMv: level(lipo, 3700) }),
      reading(8, level(lipo, 3710)),
      flight(2, { landing }),
    ]);
    expect(readings.map((one) => [(one.at - START) / HOUR_MS, one.condition])).toEqual([
      [2, 'loaded'],
      [7, 'rested'],
      [8, 'rested'],
    ]);
  });

  it('follows the pack from hand to hand', () => {
    const history = fold(lipo, [moved(1, somebodyElse), moved(5, null)]);
    expect(history.moves.map(({ holderId }) => holderId)).toEqual([somebodyElse, null]);
    expect(history.holderId).toBeNull();
  });
});

describe('what the ledger refuses of it', () => {
  const refused = (record: PackRecord) => {
    const { id, at: when, kind, payload, supersedes } = record;
    const draft = { id, at: when, kind, payload, supersedes } as Parameters<typeof refusalsOf>[2];
    return refusalsOf(lipo, [], draft, { id: SOMEBODY, role: 'pilot' }, at(100), PLAIN).map(
      ({ code, field }) => [code, field],
    );
  };

  it('takes what fits the pack', () => {
    expect(refused(charge(1, { startCellsMv: level(lipo, 3700), endCellsMv: level(lipo, 4200) }))).toEqual(
      [],
    );
    expect(refused(resistance(1, level(lipo, 4)))).toEqual([]);
    expect(refused(flight(1))).toEqual([]);
  });

  it('names the cells that are too few or too many at their own field', () => {
    expect(refused(resistance(1, [4, 4, 4]))).toEqual([['cell-count', 'payload.irMilliohm']]);
    expect(refused(charge(1, { startCellsMv: [3700], endCellsMv: level(lipo, 4200) }))).toEqual([
      ['cell-count', 'payload.startCellsMv'],
    ]);
  });

  it('refuses volts no such cell can show, at the end of a charge as in a reading', () => {
    expect(refused(charge(1, { endCellsMv: [4200, 4200, 5100, 4200] }))).toEqual([
      ['cell-impossible', 'payload.endCellsMv'],
    ]);
  });

  it('takes the pack’s total on landing, where no balance lead is at hand, but not an impossible one', () => {
    const landed = (packMv: number) =>
      flight(1, { landing: { volts: { of: 'pack', packMv }, condition: 'loaded' } });
    expect(refused(landed(14_000))).toEqual([]);
    expect(refused(landed(24_000))).toEqual([['cell-impossible', 'payload.landing.volts']]);
  });

  it('refuses work that has not ended yet', () => {
    expect(refused(charge(101))).toEqual([['in-the-future', 'at']]);
  });
});
