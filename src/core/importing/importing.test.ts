import Papa from 'papaparse';
import type { PackId, PackTypeId, PersonId, PlaceId, RecordId } from '../measure';
import { HOUR_MS } from '../measure';
import { tagKey } from '../pack';
import type { PackRecord } from '../record';
import { historyLines, identified, lacksForHistory, lacksForPacks, openedAs, packLines, wordKey } from '.';
import type { HistoryLine, KnownForPacks, Line, PackLine, Reading, Rows, WholeKind, Zone } from '.';
import { dateOrderOf, dayTimeIn, timeIn } from './dates';
import { capacityIn, cellCountIn, chargeIn, chemistryIn, labelIn, seriesByVolts } from './facts';
import { fieldNamed } from './fields';
import { decimalMarkOf, numberIn } from './numbers';

const NOW = Date.UTC(2026, 2, 2, 19, 0);
const zone: Zone = ({ year, month, day, minutes }) => Date.UTC(year, month - 1, day, 0, minutes ?? 720);
const EMPTY: KnownForPacks = { types: [], places: [], tags: new Map() };

function rowsOf(text: string): Rows {
  return Papa.parse<string[]>(text, { skipEmptyLines: false }).data;
}

function readPacks(text: string | Rows, change: Partial<Reading> = {}, known = EMPTY) {
  const { sheet, guess } = openedAs('packs', typeof text === 'string' ? rowsOf(text) : text);
  return packLines(sheet, { ...guess, ...change }, known, zone, NOW);
}

function good(lines: readonly Line<PackLine>[]): readonly PackLine[] {
  return lines.flatMap((line) => (line.outcome === 'good' ? [line.becomes] : []));
}

function why(lines: readonly Line<unknown>[]): readonly string[] {
  return lines.flatMap((line) => (line.outcome === 'good' ? [] : [`${line.line}: ${line.why}`]));
}

describe('figures as countries write them', () => {
  it.each([
    ['1.234,5', 'comma', 1234.5],
    ['1,234.5', 'point', 1234.5],
    ['1,234.5', 'comma', 1234.5],
    ['1.500', 'comma', 1500],
    ['1.500', 'point', 1.5],
    ['2 200 mAh', 'comma', 2200],
    ["1'250.00 EUR", 'point', 1250],
    ['€ 34,50', 'comma', 34.5],
    ['7,4V', 'point', 7.4],
    ['-3,5', 'comma', -3.5],
    ['1.234.567', 'point', 1_234_567],
    ['5.', 'point', 5],
    [12.5, 'comma', 12.5],
    ['none', 'comma', null],
    ['4 of 6', 'point', null],
  ] as const)('%s with a decimal %s', (text, mark, value) => {
    expect(numberIn(text, mark)).toBe(value);
  });

  it('tells the decimal mark from the cells, and takes no date for a figure', () => {
    expect(decimalMarkOf(['7,4', '3,84', '12.03.2024', '01.04.2024', '02.05.24'])).toBe('comma');
    expect(decimalMarkOf(['7.4', '3.84', '1,5'])).toBe('point');
    expect(decimalMarkOf([7.4, 'LiPo'])).toBe('point');
  });
});

describe('days and hours', () => {
  it.each([
    ['3.12.2025', 'day-first', [2025, 12, 3, null]],
    ['03/12/25', 'month-first', [2025, 3, 12, null]],
    ['2025-12-03T18:30:00Z', 'month-first', [2025, 12, 3, 1110]],
    ['12 Mar 2025', 'day-first', [2025, 3, 12, null]],
    ['Mar 12, 2025 6:30 pm', 'day-first', [2025, 3, 12, 1110]],
    ['12. März 25', 'day-first', [2025, 3, 12, null]],
    ['7 okt 2024', 'day-first', [2024, 10, 7, null]],
    ['05/2024', 'day-first', [2024, 5, 1, null]],
    ['March 2024', 'day-first', [2024, 3, 1, null]],
    [45_000, 'day-first', [2023, 3, 15, null]],
    [45_000.75, 'day-first', [2023, 3, 15, 1080]],
  ] as const)('%s, %s', (text, order, [year, month, day, minutes]) => {
    expect(dayTimeIn(text, order)).toEqual({ year, month, day, minutes });
  });

  it.each([
    ['31/12/2025', 'month-first'],
    ['30.02.2025', 'day-first'],
    ['soon', 'day-first'],
    ['', 'day-first'],
    [7, 'day-first'],
  ] as const)('%s is no day %s', (text, order) => expect(dayTimeIn(text, order)).toBeNull());

  it('reads a time of its own', () => {
    expect([timeIn('18:30'), timeIn('12:05 am'), timeIn(0.5), timeIn('25:00'), timeIn('noon')]).toEqual([
      1110,
      5,
      720,
      null,
      null,
    ]);
  });

  it('guesses the order from what cannot be a month, and says when it only guesses', () => {
    expect(dateOrderOf(['03/04/2024', '04/25/2024'])).toEqual({ order: 'month-first', isSure: true });
    expect(dateOrderOf(['03/04/2024', '25/04/2024 18:00'])).toEqual({ order: 'day-first', isSure: true });
    expect(dateOrderOf(['03/04/2024'])).toEqual({ order: 'day-first', isSure: false });
    expect(dateOrderOf(['2024-04-03'])).toEqual({ order: 'day-first', isSure: true });
  });
});

describe('label facts', () => {
  it.each([
    ['LiPo', 'lipo'],
    ['Li-Po', 'lipo'],
    ['lithium polymer', 'lipo'],
    ['LiPo HV', 'lihv'],
    ['LIHV', 'lihv'],
    ['Li-Ion', 'liion'],
    ['LiFePO4', 'lifepo4'],
    ['LiFe', 'lifepo4'],
    ['Ni-MH', 'nimh'],
    ['Power pack', null],
    ['lead', null],
    ['', null],
  ])('%s is %s', (text, chemistry) => {
    expect(chemistryIn(text)).toBe(chemistry);
  });

  it('counts cells as written and by volts', () => {
    expect(cellCountIn('6s2p')).toEqual({ series: 6, parallel: 2 });
    expect(cellCountIn('4 cells')).toEqual({ series: 4, parallel: null });
    expect(cellCountIn('0S')).toBeNull();
    expect(seriesByVolts(7.4, 'lipo')).toBe(2);
    expect(seriesByVolts(15.2, 'lihv')).toBe(4);
    expect(seriesByVolts(22.2, 'lipo')).toBe(6);
    expect(seriesByVolts(6.4, 'lifepo4')).toBe(2);
    expect(seriesByVolts(9.6, 'nimh')).toBe(8);
    expect(seriesByVolts(5, 'lipo')).toBeNull();
  });

  it('asks for the unit of a capacity that may be either', () => {
    expect(capacityIn('22', 'Capacity', 'point')).toBe('which');
    expect(capacityIn('22', 'Capacity (Ah)', 'point')).toBe(22_000);
    expect(capacityIn('2,2', 'Capacity', 'comma')).toBe(2200);
    expect(capacityIn('450', 'Capacity', 'comma')).toBe(450);
    expect(capacityIn('1.300 mAh', 'Capacity', 'comma')).toBe(1300);
    expect(capacityIn('1.300 mAh', 'Capacity', 'point')).toBe(1300);
    expect(capacityIn('2.000', 'mAh', 'point')).toBe(2000);
  });

  it('takes a charge by its unit, by its column’s, or by its decimals', () => {
    expect(chargeIn('2,1', 'Ah used', 'comma')).toBe(2100);
    expect(chargeIn('2100', 'Charged (mAh)', 'point')).toBe(2100);
    expect(chargeIn('2.5', 'mAh', 'point')).toBe(2.5);
    expect(chargeIn('0', 'Used', 'point')).toBe(0);
    expect(chargeIn('2,1 Ah', 'mAh', 'comma')).toBe(2100);
    expect(chargeIn('much', 'Used', 'point')).toBeNull();
  });

  it('reads a description', () => {
    expect(labelIn('Wing pack LiPo 4S 5000mAh 35/70C', 'point')).toEqual({
      chemistry: 'lipo',
      cells: { series: 4, parallel: null },
      capacityMah: 5000,
      continuousC: 35,
      burstC: 70,
    });
    expect(labelIn('LiPo HV 6S2P 16Ah 25C', 'point')).toMatchObject({
      chemistry: 'lihv',
      cells: { series: 6, parallel: 2 },
      capacityMah: 16_000,
      continuousC: 25,
    });
    expect(labelIn('Trainers, small', 'point')).toMatchObject({
      chemistry: null,
      cells: null,
      capacityMah: null,
    });
  });

  it('knows a column by many names', () => {
    expect(fieldNamed('packs', 'Capacity (mAh)')).toBe('capacity');
    expect(fieldNamed('packs', 'AKKU-NR.')).toBe('tag');
    expect(fieldNamed('history', 'Cell 3')).toBe('cell');
    expect(fieldNamed('history', 'IR cell 2')).toBe('irCell');
    expect(fieldNamed('packs', 'Shoe size')).toBeNull();
  });
});

describe('a club’s list of packs', () => {
  const GERMAN = `Akku-Liste Verein;;;;;;
Stand: 12.02.2026;;;;;;
;;;;;;
Akku-Nr;Typ;Chemie;Spannung;Kapazität;gekauft;Zyklen;Preis;Ort;Bemerkung
A-01;Flugakku;LiPo;7,4V;2.200 mAh;25.03.2024;31;34,50 €;Keller;
A-02;Flugakku;LiPo;7,4V;2.200 mAh;02.04.2024;;29,90 €;Keller;leicht gebläht
A-02;Flugakku;LiPo;7,4V;2.200 mAh;02.04.2024;;;Keller;
A-03;Sender;Blei;12V;7 Ah;;;;;
A-04;Flugakku;LiPo;11,1V;2.200 mAh;;;;;
;;;;;;
Summe;;;;;;`;

  it('finds the names below a title, reads decimal commas and day-first dates, and says of every line what it becomes or why not', () => {
    const { lines, unknown } = readPacks(GERMAN);
    expect(good(lines)).toMatchObject([
      {
        tag: 'A-01',
        type: {
          name: 'Flugakku',
          chemistry: 'lipo',
          series: 2,
          parallel: 1,
          capacityMah: 2200,
          price: 34.5,
          id: null,
        },
        place: { name: 'Keller' },
        inServiceAt: Date.UTC(2024, 2, 25, 12),
        before: { cycles: 31, flights: null },
        remarks: null,
      },
      { tag: 'A-02', before: { cycles: null, flights: null }, remarks: 'leicht gebläht\nPaid: 29,90 €.' },
    ]);
    expect(why(lines)).toEqual([
      '7: Line 6 has this tag already.',
      '8: “Blei” is no chemistry Malle knows. Say above what it means.',
      '9: An earlier line has the type Flugakku as LiPo 2S 2200 mAh; this line says LiPo 3S 2200 mAh.',
      '11: Its chemistry is not told.',
    ]);
    expect(unknown).toEqual([
      { field: 'place', word: 'Keller', lines: 2 },
      { field: 'chemistry', word: 'Blei', lines: 1 },
    ]);
  });

  it('takes a word as the person at the import says', () => {
    const { lines } = readPacks('Tag,Chemistry,Cells,Capacity\nB1,Lixx,4,1500', {
      words: { [wordKey('chemistry', 'Lixx')]: 'lihv' },
    });
    expect(good(lines)).toMatchObject([{ type: { chemistry: 'lihv', series: 4, name: 'LiHV 4S 1500 mAh' } }]);
  });

  it('reads numbers and days that the spreadsheet itself knows', () => {
    const { lines } = readPacks([
      ['Pack', 'Model', 'In service', 'Cycles'],
      ['W 1', 'LiPo 6S 10Ah 25C', '2025-06-01T00:00', 12],
      [17, 'LiPo 6S 10Ah 25C', 45_000, 3.4],
    ]);
    expect(good(lines)).toMatchObject([
      { tag: 'W 1', type: { series: 6, capacityMah: 10_000, continuousC: 25 }, before: { cycles: 12 } },
      { tag: '17', inServiceAt: Date.UTC(2023, 2, 15, 12), before: { cycles: 3.4 } },
    ]);
  });

  it('uses the register’s types and places, and leaves a pack alone that is there already', () => {
    const type = {
      id: 't' as PackTypeId,
      name: 'Quad',
      chemistry: 'lipo',
      series: 4,
      parallel: 1,
      capacityMah: 3300,
      continuousC: 20,
      burstC: null,
      chargeC: 2,
      dutyClass: 'hard',
      price: 42,
    } as const;
    const known: KnownForPacks = {
      types: [type],
      places: [{ id: 'p' as PlaceId, name: 'Fire cabinet' }],
      tags: new Map([[tagKey('QD-01'), 'x' as PackId]]),
    };
    const { lines, unknown } = readPacks(
      'Tag,Type,Cells,mAh,Location\nqd 01,Quad,,,\nQD-02,quad,4S,3300,fire cabinet\nQD-03,,4S,3300,\nQD-04,Quad,6S,3300,',
      {},
      known,
    );
    expect(good(lines.filter(({ line }) => line === 3))).toMatchObject([
      { type: { id: 't', dutyClass: 'hard' }, place: { id: 'p' } },
    ]);
    expect(why(lines)).toEqual([
      '2: The register has a pack with this tag.',
      '4: Its chemistry is not told.',
      '5: The register’s type Quad is LiPo 4S 3300 mAh; this line says LiPo 6S 3300 mAh.',
    ]);
    expect(unknown).toEqual([]);
  });

  it.each([
    ['HX/01,LiPo,4,5000', []],
    ['#!,LiPo,4,5000', [/is no tag/]],
    ['C1,LiPo,40,5000', [/more than Malle takes/]],
    ['C1,LiPo,four,5000', [/no number of cells/]],
    ['C1,LiPo,4,22', [/mAh or Ah/]],
    ['C1,LiPo,4,', [/capacity is not told/]],
    ['C1,LiPo,4,x', [/no capacity/]],
    ['C1,LiPo,,5000', [/number of cells is not told/]],
  ])('%s', (line, wanted) => {
    const refusals = why(readPacks(`Tag,Chemistry,Cells,Capacity\n${line}`).lines);
    expect(refusals).toHaveLength(wanted.length);
    for (const [i, pattern] of wanted.entries()) expect(refusals[i]).toMatch(pattern);
  });

  it('refuses what is of another day, and figures that are none', () => {
    const refusals = why(
      readPacks(
        'Tag,Model,Since,Cycles\nC1,LiPo 2S 450mAh,31/31/2025,\nC2,LiPo 2S 450mAh,01/01/2031,\nC3,LiPo 2S 450mAh,,many\nC4,LiPo 2S 450mAh,,-',
      ).lines,
    );
    expect(refusals).toEqual([
      '2: “31/31/2025” is no day in this file’s order of dates.',
      '3: It came into service on a day that has not come yet.',
      '4: “many” is no number of cycles.',
    ]);
  });

  it('says that no column is the tag', () => {
    const { guess } = openedAs('packs', rowsOf('Colour,Weight\nred,310'));
    expect(lacksForPacks(guess)).toEqual(['Tag']);
  });

  it('an empty file has no lines', () => {
    expect(readPacks('').lines).toEqual([]);
    expect(readPacks([]).lines).toEqual([]);
  });
});

describe('a history', () => {
  const LIPO = {
    chemistry: 'lipo',
    series: 4,
    parallel: 1,
    capacityMah: 3300,
    continuousC: null,
    burstC: null,
    chargeC: null,
    dutyClass: 'normal',
  } as const;
  const packs = new Map([
    [tagKey('QD-01'), { id: 'one' as PackId, type: LIPO }],
    [tagKey('TX-1'), { id: 'two' as PackId, type: { ...LIPO, chemistry: 'nimh' as const, series: 8 } }],
  ]);
  const people = [{ id: 'mira' as PersonId, name: 'Mira Dost' }];

  function readHistory(text: string, whole: WholeKind = 'by-line', change: Partial<Reading> = {}) {
    const { sheet, guess } = openedAs('history', rowsOf(text));
    return historyLines(sheet, { ...guess, ...change }, whole, { packs, people }, zone, NOW);
  }
  function happened(lines: readonly Line<HistoryLine>[]) {
    return lines.flatMap((line) => (line.outcome === 'good' ? line.becomes.happened : []));
  }

  it('reads cells in columns under a merged head, decimal commas, and the time in a column of its own', () => {
    const { lines } = readHistory(
      ';;;Zellen;;;;\nDatum;Zeit;Akku;1;2;3;4;Temp\n25.02.2026;18:30;QD-01;3,84;3,83;3,85;3,84;21',
    );
    expect(happened(lines)).toMatchObject([
      {
        kind: 'reading',
        at: Date.UTC(2026, 1, 25, 18, 30),
        payload: {
          volts: { of: 'cells', cellsMv: [3840, 3830, 3850, 3840] },
          condition: 'rested',
          temperatureC: 21,
        },
      },
    ]);
  });

  it('tells kinds by their words, and by what a line tells', () => {
    const { lines } = readHistory(`Date,Tag,What,Volts,mAh,Minutes,Pilot,Craft,Mode,Remarks
2026-02-01 10:00,QD-01,Flight,14.4,2300,12:30,mira dost,Kite,,gusty
2026-02-01 11:00,QD-01,Storage charge,,600,40,,,,
2026-02-02 09:00,QD-01,,384 383 385 384,,,,,,
2026-02-03 09:00,QD-01,,,2100,55,,,balance,
2026-02-04 09:00,TX-1,Measured,9.9,,,,,,
2026-02-05 09:00,QD-01,,,,,,,,new wrap
2026-02-06 09:00,QD-01,discharge test,,3050,60,,,,`);
    expect(why(lines)).toEqual([]);
    expect(happened(lines)).toMatchObject([
      {
        kind: 'flight',
        payload: {
          pilotId: 'mira',
          craft: 'Kite',
          minutes: 12.5,
          usedMah: 2300,
          landing: { volts: { of: 'pack', packMv: 14_400 } },
          remarks: 'gusty',
        },
      },
      { kind: 'charge', payload: { mode: 'storage', movedMah: 600, minutes: 40 } },
      { kind: 'reading' },
      { kind: 'charge', payload: { mode: 'balance', movedMah: 2100 } },
      { kind: 'reading', payload: { volts: { of: 'pack', packMv: 9900 } } },
      { kind: 'note', payload: { text: 'new wrap' } },
      { kind: 'charge', payload: { mode: 'discharge' } },
    ]);
  });

  it('a flight without a known pilot is nobody’s of the register, never the importer’s', () => {
    const { lines, unknown } = readHistory(
      'Date,Tag,What,Pilot\n2026-02-01,QD-01,flight,Old Jan\n2026-02-01,QD-01,flight,',
    );
    expect(happened(lines)).toMatchObject([
      { payload: { pilotId: null, flownBy: 'Old Jan' } },
      { payload: { pilotId: null, flownBy: 'nobody named' } },
    ]);
    expect(unknown).toEqual([{ field: 'pilot', word: 'Old Jan', lines: 1 }]);
  });

  it('puts lines of one day without a time apart, in their order, and counts them', () => {
    const { lines, withoutTime } = readHistory(
      'Date,Tag,What,Volts\n2026-02-01,QD-01,flight,\n2026-02-01,QD-01,reading,384 383 385 384\n2026-02-01,TX-1,flight,\n2026-02-02,QD-01,flight,',
    );
    expect(happened(lines).map(({ at }) => (at - Date.UTC(2026, 1, 1)) / HOUR_MS)).toEqual([8, 10, 8, 32]);
    expect(withoutTime).toBe(4);
  });

  it('an old book’s failed inspection holds, and its swelling is told', () => {
    const { lines } = readHistory(
      'Date,Tag,Result,Swelling,Remarks\n2026-02-01,QD-01,ok,none,\n2026-02-02,QD-01,failed,soft,left side\n2026-02-03,QD-01,,hard,',
    );
    expect(happened(lines)).toMatchObject([
      { kind: 'inspection', payload: { swelling: 'none', items: [{ answer: 'ok', failMeans: 'hold' }] } },
      {
        payload: {
          swelling: 'soft',
          items: [{ answer: 'fail', note: 'failed, swelling: soft' }],
          remarks: 'left side',
        },
      },
      { payload: { swelling: 'hard', items: [{ answer: 'fail' }] } },
    ]);
  });

  it('keeps resistance with its temperature, and refuses it without', () => {
    const { lines } = readHistory(
      'Date,Tag,IR 1,IR 2,IR 3,IR 4,Temp\n2026-02-01,QD-01,4.1,4.0,4.2,4.1,21\n2026-02-02,QD-01,4.1,4.0,4.2,4.1,\n2026-02-03,QD-01,4.1,4.0,,4.1,21',
    );
    expect(happened(lines)).toMatchObject([
      { kind: 'resistance', payload: { irMilliohm: [4.1, 4, 4.2, 4.1], temperatureC: 21 } },
    ]);
    expect(why(lines)[0]).toMatch(/without a temperature tells nothing/);
    expect(why(lines)[1]).toMatch(/3 resistances for a pack of 4 cells/);
  });

  it.each([
    ['2026-02-01,,384 383 385 384', /No tag/],
    ['2026-02-01,ZZ-9,384 383 385 384', /Bring the packs in first/],
    [',QD-01,384 383 385 384', /No day/],
    ['someday,QD-01,384 383 385 384', /is no day/],
    ['2031-02-01,QD-01,384 383 385 384', /has not come yet/],
    ['2026-02-01,QD-01,384 383', /2 of 4 cells/],
    ['2026-02-01,QD-01,15.2', /hides a weak one/],
    ['2026-02-01,QD-01,384 383 385 994', /cannot be/],
  ])('%s', (line, wanted) => {
    const { lines } = readHistory(`Date,Tag,Volts\n${line}`);
    expect(why(lines)[0]).toMatch(wanted);
  });

  it('refuses a kind nobody knows until somebody says what it means', () => {
    const text = 'Date,Tag,What,Volts\n2026-02-01,QD-01,Bzzt,384 383 385 384';
    const { lines, unknown } = readHistory(text);
    expect(why(lines)[0]).toMatch(/“Bzzt” is nothing Malle keeps/);
    expect(unknown).toEqual([{ field: 'kind', word: 'Bzzt', lines: 1 }]);
    expect(
      happened(readHistory(text, 'by-line', { words: { [wordKey('kind', 'bzzt')]: 'reading' } }).lines),
    ).toHaveLength(1);
    expect(happened(readHistory(text, 'reading').lines)).toHaveLength(1);
    expect(lacksForHistory(openedAs('history', rowsOf('Volts\n384')).guess)).toEqual(['Tag', 'Day']);
  });

  describe('never twice', () => {
    const idOf = (text: string) => `id of ${text}` as RecordId;
    const line = { kind: 'note', at: NOW, payload: { text: 'new wrap' } } as const;
    const record = (id: string, more: object = {}) =>
      ({
        ...line,
        id,
        seq: 1,
        packId: 'one',
        recordedAt: NOW,
        by: 'x',
        supersedes: null,
        rulesVersion: 1,
        ...more,
      }) as unknown as PackRecord;

    it('a line that is there already is known by its id, and by what it says where a hand typed it', () => {
      const [first] = identified([line], [], idOf).fresh;
      expect(identified([line], [record(first!.id)], idOf)).toEqual({ fresh: [], known: 1 });
      expect(identified([line], [record('typed', { at: NOW + 20_000 })], idOf)).toEqual({
        fresh: [],
        known: 1,
      });
      expect(
        identified([line], [record('other', { payload: { text: 'old wrap' } })], idOf).fresh,
      ).toHaveLength(1);
    });

    it('two lines alike in one file are two happenings, also the second time', () => {
      const { fresh } = identified([line, line], [], idOf);
      expect(new Set(fresh.map(({ id }) => id)).size).toBe(2);
      expect(
        identified(
          [line, line],
          fresh.map(({ id }) => record(id)),
          idOf,
        ),
      ).toEqual({ fresh: [], known: 2 });
    });

    it('what was taken back may come again, under another id', () => {
      const [first] = identified([line], [], idOf).fresh;
      const back = {
        ...record('back'),
        kind: 'correction',
        supersedes: first!.id,
        payload: { reason: 'x', replacement: null },
      } as unknown as PackRecord;
      const [again] = identified([line], [record(first!.id), back], idOf).fresh;
      expect(again!.id).not.toBe(first!.id);
    });
  });
});
