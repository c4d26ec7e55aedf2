import Papa from 'papaparse';
import { csv } from './csv';

const lines = (text: string) => text.replace(/^\uFEFF/, '').split('\r\n');

it('says that it is UTF-8, and ends its last line', () => {
  const text = csv(['Tag'], [['HX–01']], 'point');
  expect(text.startsWith('\uFEFF')).toBe(true);
  expect(text.endsWith('HX–01\r\n')).toBe(true);
});

it('writes decimals as the reader’s spreadsheet does, and keeps the columns asunder', () => {
  const row = ['HX-01', 0.31, -1.5, null];
  expect(lines(csv(['a', 'b', 'c', 'd'], [row], 'point'))[1]).toBe('HX-01,0.31,-1.5,');
  expect(lines(csv(['a', 'b', 'c', 'd'], [row], 'comma'))[1]).toBe('HX-01;0,31;-1,5;');
});

it.each(['=1+1', '+1', '-1+1', '@cmd', '=HYPERLINK("http://x")'])(
  '“%s” typed as a name runs nowhere',
  (typed) => {
    const { data } = Papa.parse<string[]>(lines(csv(['Name'], [[typed]], 'point'))[1]!);
    expect(data[0]![0]).toBe(`'${typed}`);
  },
);

it('gives back what went in, whatever stands in the cells', () => {
  const rows = [
    ['a;b', 'c,d', 'e"f'],
    ['two\nlines', ' space ', 'ü'],
  ];
  for (const mark of ['point', 'comma'] as const) {
    const text = csv(['x', 'y', 'z'], rows, mark).replace(/^\uFEFF/, '');
    const { data } = Papa.parse<string[]>(text, { skipEmptyLines: true });
    expect(data.slice(1)).toEqual(rows);
  }
});
