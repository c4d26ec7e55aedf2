import { guessedLog, logDecimalsOf, LogReader, packedCurve, timeUnitOf, unpackedCurve } from '.';
import type { LogForm, LogRead } from '.';

const read = (columns: readonly string[], lines: readonly string[], more: Partial<LogForm> = {}): LogRead => {
  const matching = guessedLog(columns);
  const unit = timeUnitOf(columns[matching.indexOf('time')] ?? '');
  const reader = new LogReader({ matching, unit, decimals: 'point', ...more }, columns);
  for (const line of lines) reader.take(line.split(';'));
  return reader.done();
};
const points = (said: LogRead) => {
  if ('fault' in said) throw new Error(said.fault);
  return said.points;
};

describe('a log of a charge', () => {
  it.each([
    [
      'seconds, volts and amps with a decimal comma',
      ['Zeit', 'Zelle 1', 'Zelle 2', 'Strom [A]', 'Ladung [mAh]'],
      ['0;3,701;3,702;2,00;0', '60;3,750;3,751;2,00;33'],
      { decimals: 'comma' } as const,
    ],
    [
      'milliseconds, millivolts and milliamps',
      ['time_ms', 'C1', 'C2', 'I [mA]', 'Charge [mAh]'],
      ['0;3701;3702;2000;0', '60000;3750;3751;2000;33'],
      { unit: 'ms' } as const,
    ],
    [
      'a clock and ampere-hours',
      ['Elapsed', 'cell 1 (V)', 'cell 2 (V)', 'Current', 'Capacity Ah'],
      ['0:00:00;3.701;3.702;2;0', '0:01:00;3.750;3.751;2;0.033'],
      {},
    ],
    [
      'days and times, discharge as negative',
      ['Timestamp', 'Cell1', 'Cell2', 'Amps', 'Charge mAh'],
      ['02.03.2026 18:40:05;3.701;3.702;-2;0', '02.03.2026 18:41:05;3.750;3.751;-2;-33'],
      {},
    ],
  ])('%s', (_what, columns, lines, more) => {
    const said = read(columns, lines, more);
    expect(points(said)).toEqual([
      { seconds: 0, mv: [3701, 3702], amps: 2, movedMah: 0, celsius: null },
      { seconds: 60, mv: [3750, 3751], amps: 2, movedMah: 33, celsius: null },
    ]);
    expect(said).toMatchObject({ lines: 2, skipped: 0 });
  });

  it('without a column of charge the current is added up, across no gap longer than two minutes', () => {
    const said = points(read(['t', 'A'], ['0;6', '60;6', '120;6', '4000;6']));
    expect(said.map(({ movedMah }) => Math.round(movedMah))).toEqual([0, 100, 200, 400]);
    expect(said[0]!.mv).toEqual([]);
  });

  it('half lines, rubbish, repeats and times that go back are left out and counted', () => {
    const said = read(
      ['t', 'cell 1', 'cell 2', 'A'],
      [
        '0;3.7;3.7;1',
        '10;3.7;;1',
        'garbage',
        '20;3.71;3.71;1',
        '20;3.71;3.71;1',
        '15;3.9;3.9;1',
        '',
        '30;x;3.7;1',
      ],
    );
    expect(points(said).map(({ seconds }) => seconds)).toEqual([0, 20]);
    expect(said).toMatchObject({ lines: 7, skipped: 5 });
  });

  it('says why a file gives no curve', () => {
    expect(read(['cell 1'], ['3.7'])).toEqual({ fault: 'no-time' });
    expect(read(['t', 'note'], ['1;x'])).toEqual({ fault: 'nothing-measured' });
    expect(read(['t', 'V'], [])).toEqual({ fault: 'no-line' });
    expect(read(['t', 'V'], ['0;3.7', '1000000;3.8'])).toEqual({ fault: 'too-long' });
    expect(read(['t', 'V'], ['0;3.7', '1000000;3.8'], { unit: 'ms' })).toMatchObject({ lines: 2 });
  });

  it('a long log keeps no more than its time asks for, and stays small as bytes', () => {
    const columns = ['ms', 'cell 1', 'cell 2', 'A'];
    const reader = new LogReader({ matching: guessedLog(columns), unit: 'ms', decimals: 'point' }, columns);
    for (let i = 0; i < 300_000; i += 1)
      reader.take([String(i * 40), '3.7', String(3700 + (i % 7)), i % 1000 === 0 ? '0' : '2']);
    const said = reader.done();
    expect(said).toMatchObject({ lines: 300_000, skipped: 0 });
    const kept = points(said);
    expect(kept.length).toBeLessThanOrEqual(8_000);
    // 12,000 seconds at two amps.
    expect(kept.at(-1)!.movedMah / ((2 * 12_000 * 1000) / 3600)).toBeCloseTo(1, 1);
    const bytes = packedCurve(kept);
    expect(bytes.length).toBeLessThan(200_000);
    expect(unpackedCurve(bytes).at(-1)!.seconds).toBe(kept.at(-1)!.seconds);
  });

  it('three decimals behind a comma are no thousands, and the wrong mark gives no figure', () => {
    expect(logDecimalsOf(['0', '3,701', '5,200'])).toBe('comma');
    const columns = ['t', 'cell 1', 'A'];
    const lines = ['0;3,701;5,200', '60;3,750;5,200'];
    expect(points(read(columns, lines, { decimals: 'comma' }))[1]).toMatchObject({ mv: [3750], amps: 5.2 });
    expect(read(columns, lines)).toEqual({ fault: 'no-line' });
    expect(points(read(['t', 'V', 'A'], ['0 s;14.8 V;2.0 A', '60 s;1.5e1 V;-2 A']))).toMatchObject([
      { mv: [14_800], amps: 2 },
      { mv: [15_000], amps: 2 },
    ]);
    expect(read(['t', 'A'], ['0;5200'])).toEqual({ fault: 'no-line' });
  });

  it('a charge of a pack alone is read as its sum', () => {
    expect(points(read(['t', 'Voltage', 'Current'], ['0;14.8;2', '60;15.1;2']))[1]!.mv).toEqual([15_100]);
  });
});
