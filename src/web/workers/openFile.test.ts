import { openedRows } from './openFile';

function bytes(
  text: string,
  encoding: 'utf-8' | 'latin1' | 'utf16le' = 'utf-8',
  mark: number[] = [],
): ArrayBuffer {
  const body = Buffer.concat([Buffer.from(mark), Buffer.from(text, encoding)]);
  return body.buffer.slice(body.byteOffset, body.byteOffset + body.byteLength);
}

it.each([
  ['Tag;Preis\nA-1;34,50 €\n', 'utf-8', [], 'utf-8', ';'],
  ['Tag;Preis\nA-1;34,50 €\n', 'utf-8', [0xef, 0xbb, 0xbf], 'utf-8', ';'],
  ['Tag;Kapazität\nA-1;2,2 Ah\n', 'latin1', [], 'windows-1252', ';'],
  ['Tag\tMülle\nA-1\t3,5\n', 'utf16le', [0xff, 0xfe], 'utf-16le', '\t'],
  ['Tag,Price\nA-1,"34,50"\n', 'utf-8', [], 'utf-8', ','],
  ['Tag|Price\nA-1|34,50\n', 'utf-8', [], 'utf-8', '|'],
  [
    'List of the club, 2026\nTag;Remarks\nA-1;soft, left side\nA-2;none\nA-3;none\n',
    'utf-8',
    [],
    'utf-8',
    ';',
  ],
] as const)('%j is read as %s %j', async (text, encoding, mark, wanted, delimiter) => {
  const opened = await openedRows(bytes(text, encoding, [...mark]));
  expect(opened.text).toEqual({ encoding: wanted, delimiter });
  const row = opened.rows.find(([first]) => first === 'A-1')!;
  expect(row).toHaveLength(2);
  expect(opened.rows.flat().join()).not.toContain('\uFEFF');
});

it('what is chosen by hand goes before the guess', async () => {
  const { rows } = await openedRows(bytes('a;b,c'), { text: { delimiter: ',' } });
  expect(rows).toEqual([['a;b', 'c']]);
});

it('reads letters of Western Europe', async () => {
  const { rows } = await openedRows(bytes('Tag;Kapazität', 'latin1'));
  expect(rows[0]).toEqual(['Tag', 'Kapazität']);
});

it('refuses what is neither a table nor a workbook, and takes an empty file for no lines', async () => {
  await expect(openedRows(bytes('\u0000\u0001\u0002 binary'))).rejects.toThrow(/neither/);
  expect((await openedRows(bytes(''))).rows.flat().join('')).toBe('');
  await expect(openedRows(bytes('PK but no zip at all'))).rejects.toThrow();
});

it('keeps quoted cells with line ends and signs whole', async () => {
  const { rows } = await openedRows(bytes('Tag;Note\nA-1;"two\nlines; and ""quotes"""\n'));
  expect(rows[1]).toEqual(['A-1', 'two\nlines; and "quotes"']);
});
