import fc from 'fast-check';
import { contactAfter, gathered, offerOf, patternOf, pick } from '.';
import type { Contact, Gathering, Pattern, Picked } from '.';

const pattern = (text: string) => {
  const made = patternOf(text);
  if ('fault' in made) throw new Error(made.fault.code);
  return made;
};

describe('a pattern', () => {
  const cases: readonly [string, string, Picked | null][] = [
    ['B {cells}', 'B 3.84 3.83 3.85 3.84', { cellsMv: [3840, 3830, 3850, 3840] }],
    ['B {cells}', 'B 3,84 3,83 3,85', { cellsMv: [3840, 3830, 3850] }],
    ['B {cells}', 'B 3.841,3.832,3.850', { cellsMv: [3841, 3832, 3850] }],
    ['{cells:mV}', ' 3841;3832 ; 3850', { cellsMv: [3841, 3832, 3850] }],
    ['{cells:mV}', '3841,3832', { cellsMv: [3841, 3832] }],
    ['{cells}', '3,84', { cellsMv: [3840] }],
    ['U={pack} V', 'U=15,36   V', { packMv: 15_360 }],
    [
      '${channel};{phase};{seconds:hms};{pack};{amps:mA};{charge}',
      '$2;CHG;01:02:03;16.43;2500;1204',
      { channel: '2', phase: 'CHG', seconds: 3723, packMv: 16_430, amps: 2.5, movedMah: 1204 },
    ],
    ['C{no}: {cell} V', 'C3: 3.851 V', { cell: { no: 3, mv: 3851 } }],
    ['{skip}T={celsius}{skip}', 'x=1 T=31.5 C ok', { celsius: 31.5 }],
    ['ri {milliohm}', 'ri 4.1/4.3/4.0', { milliohm: [4.1, 4.3, 4] }],
    ['B {cells}', 'B', null],
    ['B {cells}', 'B 3.8x', null],
    ['B {cells}', 'Welcome to the meter', null],
  ];
  it.each(cases)('%s reads "%s"', (text, line, said) => expect(pick(pattern(text), line)).toEqual(said));

  it.each([
    ['', 'empty'],
    ['B 1', 'nothing-picked'],
    ['{volts}', 'unknown-slot'],
    ['{amps:V}', 'unknown-unit'],
    ['{amps} {amps}', 'twice'],
    ['{amps', 'no-closing'],
    ['{amps}{charge}', 'slots-touch'],
    ['{skip}{skip}{amps}', 'slots-touch'],
  ])('"%s" is refused: %s', (text, code) => expect(patternOf(text)).toMatchObject({ fault: { code } }));

  it('never throws, whatever is written as a pattern and whatever is printed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), fc.string({ maxLength: 200 }), (text, line) => {
        const made = patternOf(text);
        if (!('fault' in made)) pick(made, line);
      }),
    );
  });

  it('takes no longer for a line that nearly fits', () => {
    const made: Pattern = pattern('{skip} {cells} {skip} {cells:mV}'.replace(' {cells:mV}', ' end'));
    const line = '3.8 '.repeat(99);
    const before = process.cpuUsage().user;
    pick(made, line);
    // Far above what it takes and far below what a pattern that runs away would.
    expect(process.cpuUsage().user - before).toBeLessThan(2_000_000);
  });
});

describe('a contact', () => {
  const four = [3840, 3830, 3850, 3840];
  const first = contactAfter(null, four, 0);
  it.each<[string, readonly number[], number, number]>([
    ['the same pack a second later', [3841, 3830, 3850, 3839], 1000, 1],
    ['the same figures after a silence', four, 5000, 2],
    ['another number of cells', four.slice(1), 500, 2],
    ['a cell that jumped', [3840, 3830, 3850, 3740], 500, 2],
  ])('%s', (_what, cellsMv, at, no) => expect(contactAfter(first, cellsMv, at).no).toBe(no));

  it('follows a pack that drifts, and counts on', () => {
    let last: Contact = first;
    for (let i = 1; i <= 50; i += 1) last = contactAfter(last, [3840 - i, 3830, 3850, 3840], i * 1000);
    expect(last.no).toBe(1);
    expect(contactAfter(last, four.slice(2), 60_000).no).toBe(2);
  });
});

describe('cells that come one a line', () => {
  const readings = (lines: readonly [number, number][]) => {
    let state: Gathering = { cells: [] };
    const wholes: (readonly number[])[] = [];
    for (const [no, mv] of lines) {
      const { whole, next } = gathered(state, { no, mv });
      state = next;
      if (whole) wholes.push(whole);
    }
    return wholes;
  };
  it('are a reading once the first comes again', () =>
    expect(
      readings([
        [1, 3800],
        [2, 3810],
        [3, 3820],
        [1, 3801],
        [2, 3811],
      ]),
    ).toEqual([[3800, 3810, 3820]]));
  it('are none where one was lost', () =>
    expect(
      readings([
        [1, 3800],
        [3, 3820],
        [1, 3801],
        [2, 3811],
        [1, 3802],
      ]),
    ).toEqual([[3801, 3811]]));
});

describe('what a meter shows', () => {
  const lipo4 = { chemistry: 'lipo', series: 4 } as const;
  const shows = (cellsMv: readonly number[] | null, packMv: number | null = null) => ({
    contact: 'a',
    cellsMv,
    packMv,
  });
  it.each([
    ['nothing plugged in', lipo4, null, null, { code: 'nothing' }],
    [
      'fits',
      lipo4,
      shows([3840, 3830, 3850, 3840]),
      null,
      { code: 'fits', cellsMv: [3840, 3830, 3850, 3840] },
    ],
    ['already used', lipo4, shows([3840, 3830, 3850, 3840]), 'HX-01', { code: 'taken', tag: 'HX-01' }],
    [
      'six cells on four',
      lipo4,
      shows([3840, 3830, 3850, 3840, 1, 2]),
      null,
      { code: 'cells', shown: 6, wanted: 4 },
    ],
    ['too many volts', lipo4, shows([3840, 4420, 3850, 3840]), null, { code: 'volts', cell: 2, mv: 4420 }],
    ['the sum alone', lipo4, shows(null, 15_300), null, { code: 'total-only' }],
    [
      'a single cell by its sum',
      { chemistry: 'lipo', series: 1 },
      shows(null, 3840),
      null,
      { code: 'fits', cellsMv: [3840] },
    ],
    [
      'a pack without taps',
      { chemistry: 'nimh', series: 6 },
      shows(null, 7800),
      null,
      { code: 'fits-total', packMv: 7800 },
    ],
  ] as const)('%s', (_what, pack, meter, taken, offer) => expect(offerOf(pack, meter, taken)).toEqual(offer));
});
