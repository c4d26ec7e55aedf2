import { aCharger } from '../../../core/testing/evenings';
import { flightTyped, NO_FLIGHT } from '../../domain/entry/typedFlight';
import { REGISTER } from '../../testing/rows';
import {
  chargeTyped,
  NO_CHARGE,
  NO_RESISTANCE,
  OTHER_CHARGER,
  resistanceTyped,
  measuresTyped,
  NO_MEASURES,
} from './entryDrafts';

const type = { ...REGISTER.types[0]!, series: 4 };

describe('a charge as typed', () => {
  it('empty is a finished balance charge of which nothing else was noted', () => {
    const { payload, errors } = chargeTyped(NO_CHARGE, type);
    expect(errors).toBeNull();
    expect(payload).toMatchObject({
      mode: 'balance',
      ending: 'complete',
      movedMah: null,
      balanced: null,
      startCellsMv: null,
      settings: { chemistry: null, topMv: null },
    });
  });

  it('takes figures the way hands write them', () => {
    const draft = {
      ...NO_CHARGE,
      start: '373 374 373 372',
      end: '4,20/4,20/4,19/4,20',
      moved: '2,4 Ah',
      minutes: '1.5 h',
      celsius: '86 F',
      balanced: 'yes' as const,
      setTop: '4,2',
      setAmps: '3.3',
      setCells: '4',
    };
    expect(chargeTyped(draft, type).payload).toMatchObject({
      startCellsMv: [3730, 3740, 3730, 3720],
      endCellsMv: [4200, 4200, 4190, 4200],
      movedMah: 2400,
      minutes: 90,
      temperatureC: 30,
      balanced: true,
      settings: { topMv: 4200, currentA: 3.3, cells: 4 },
    });
  });

  it('names a channel of the register, in words and by what it is; another charger in words alone', () => {
    const bench = aCharger('bench', 2);
    const equipment = [
      { ...bench, version: 1 },
      { ...aCharger('van', 1, {}), inUse: false, version: 1 },
    ];
    const station = `${bench.id} 2`;
    expect(
      chargeTyped({ ...NO_CHARGE, station, charger: 'left over' }, type, equipment).payload,
    ).toMatchObject({
      charger: 'Charger bench 2',
      bench: { equipmentId: bench.id, channel: '2', jobId: null, shareMah: null },
    });
    const other = chargeTyped(
      { ...NO_CHARGE, station: OTHER_CHARGER, charger: 'a friend’s' },
      type,
      equipment,
    );
    expect(other.payload).toMatchObject({ charger: 'a friend’s' });
    expect(other.payload).not.toHaveProperty('bench');
  });

  it('names everything it cannot understand, each at its field', () => {
    const draft = {
      ...NO_CHARGE,
      start: '373 374',
      moved: 'plenty',
      minutes: '1:75',
      celsius: 'warm',
      ended: 'soon',
    };
    const { payload, errors } = chargeTyped(draft, type);
    expect(payload).toBeNull();
    expect(Object.keys(errors!).sort()).toEqual(['celsius', 'ended', 'minutes', 'moved', 'start']);
    expect(errors!.start).toContain('2 of 4 cells typed');
  });

  it('carries the moment it ended when that was not now', () => {
    expect(chargeTyped({ ...NO_CHARGE, ended: '2026-03-02T08:00' }, type).at).toBe(
      new Date('2026-03-02T08:00').getTime(),
    );
    expect(chargeTyped(NO_CHARGE, type).at).toBeNull();
  });
});

describe('a flight as typed', () => {
  it('takes the pack’s volts on landing, since nobody has a balance lead in the air', () => {
    expect(
      flightTyped({ ...NO_FLIGHT, landing: '14.2', minutes: '12:30' }, type, [], 0).payload,
    ).toMatchObject({
      landing: { volts: { of: 'pack', packMv: 14_200 }, condition: 'loaded' },
      minutes: 12.5,
      pilotId: null,
    });
    expect(
      flightTyped({ ...NO_FLIGHT, landing: '355 356 355 354' }, type, [], 0).payload?.landing?.volts,
    ).toEqual({
      of: 'cells',
      cellsMv: [3550, 3560, 3550, 3540],
    });
  });
});

describe('resistance as typed', () => {
  it('wants every cell and a temperature', () => {
    expect(resistanceTyped({ ...NO_RESISTANCE, ir: '4.2 4.1 4.4', celsius: '' }, type).errors).toMatchObject({
      ir: expect.stringContaining('all 4 cells') as string,
      celsius: expect.stringContaining('temperature') as string,
    });
    expect(
      resistanceTyped({ ...NO_RESISTANCE, ir: '4,2 4.1 4.4 4', celsius: '21' }, type).payload,
    ).toMatchObject({
      irMilliohm: [4.2, 4.1, 4.4, 4],
      temperatureC: 21,
    });
  });
});

describe('what is measured along with an inspection', () => {
  it('may be nothing', () => {
    expect(measuresTyped(NO_MEASURES, type).payload).toEqual({
      volts: null,
      irMilliohm: null,
      temperatureC: null,
      thicknessMm: null,
      massG: null,
    });
  });
  it('may be all of it', () => {
    const draft = {
      cells: '384 383 385 384',
      ir: '4.2 4.1 4,4 4',
      celsius: '70 F',
      thickness: '31,5',
      mass: '310',
    };
    expect(measuresTyped(draft, type).payload).toMatchObject({
      volts: { of: 'cells' },
      irMilliohm: [4.2, 4.1, 4.4, 4],
      temperatureC: 21.1,
      thicknessMm: 31.5,
      massG: 310,
    });
  });
  it.each([
    ['cells', { cells: '384 383' }],
    ['ir', { ir: '4.2 4.1', celsius: '20' }],
    ['celsius', { ir: '4.2 4.1 4.4 4' }],
    ['thickness', { thickness: '-3' }],
    ['mass', { mass: 'light' }],
  ])('names a wrong %s', (field, part) => {
    expect(Object.keys(measuresTyped({ ...NO_MEASURES, ...part }, type).errors ?? {})).toEqual([field]);
  });
});
