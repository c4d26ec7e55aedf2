import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import writeWorkbook from 'write-excel-file/node';

/** Lists of packs as four clubs keep them, thirty packs each, each odd in its own way. All of it is made up. */

const NUMBERS = Array.from({ length: 30 }, (_, i) => i + 1);
const two = (value: number) => String(value).padStart(2, '0');
const bytesOf = { latin1: 'latin1', utf16: 'utf16le' } as const;

export interface ClubList {
  readonly path: string;
  /** Lines that come in, and lines that cannot. */
  readonly good: number;
  readonly refused: number;
  /** A word whose meaning has to be said, and what it means. */
  readonly word?: readonly [string, string];
}

/** Semicolons, Western letters, a title above, `7,4V`, day first, a sum below. */
function germanList(folder: string): ClubList {
  const lines = NUMBERS.map(
    (n) =>
      `FA-${two(n)};Flugakku ${n % 2 ? 'klein' : 'groß'};LiPo;${n % 2 ? '7,4V' : '11,1 V'};${n % 2 ? '1.300' : '2.200'} mAh;${two(n)}.03.2024;${n * 3};34,50 €;Kellerregal;${n === 4 ? 'leicht gebläht' : ''}`,
  );
  const text = `Akkuliste;;;;;;;;;\r\nStand 12.02.2026;;;;;;;;;\r\n;;;;;;;;;\r\nAkku-Nr.;Typ;Chemie;Spannung;Kapazität;gekauft;Zyklen;Preis;Ort;Bemerkung\r\n${lines.join('\r\n')}\r\n;;;;;;;;;\r\nSumme;;;;;;;1.035,00 €;;\r\n`;
  const path = join(folder, 'akkuliste.csv');
  writeFileSync(path, Buffer.from(text.replaceAll('€', 'EUR'), bytesOf.latin1));
  return { path, good: 30, refused: 1 };
}

/** Commas and quotes, duplicate tags, a chemistry of the seller's own, a 22 without a unit. */
function commaList(folder: string): ClubList {
  const lines = NUMBERS.map(
    (n) =>
      `CM ${n},"Quad pack, ${n % 3 ? 'long' : 'short'}",${n % 3 ? 'LiPo' : 'UltraX'},${n % 3 ? 4 : 6}S,${n % 3 ? '5000mAh' : '4.5Ah'},35C/70C,2025-0${1 + (n % 9)}-15,"${n * 10}","Club, member ${n}"`,
  );
  const path = join(folder, 'quads.csv');
  const odd =
    'CM 7,Quad pack,LiPo,4S,5000,35,2025-01-01,1,\nCM-7,Quad pack,LiPo,4S,5000,35,2025-01-01,1,\nCM 40,Field,LiPo,6S,22,,,,\n,,LiPo,4S,5000,,,,';
  writeFileSync(
    path,
    `Tag,Model,Chemistry,Cells,Capacity,C rating,Purchased,Flights,Owner\n${lines.join('\n')}\n${odd}\n`,
  );
  return { path, good: 30, refused: 4, word: ['UltraX', 'LiHV'] };
}

/** A workbook with merged groups above its names, days and numbers as a workbook knows them. */
async function workbook(folder: string): Promise<ClubList> {
  const path = join(folder, 'wings.xlsx');
  const bold = (value: string | null) => (value === null ? null : { value, fontWeight: 'bold' as const });
  const head = ['Pack', 'Label', null, null, null, 'Life', null, 'Kept in'].map(bold);
  const names = [
    'Battery ID',
    'Chem',
    'Cells',
    'Capacity (Ah)',
    'Weight g',
    'In service',
    'Cycles',
    'Location',
  ].map(bold);
  const rows = NUMBERS.map((n) => [
    { value: `WX-${two(n)}` },
    { value: 'Li-Ion' },
    { value: '6S2P' },
    { value: 10.5 },
    { value: 990 },
    { value: new Date(Date.UTC(2024, n % 12, 1 + (n % 27))), type: Date, format: 'dd/mm/yyyy' },
    { value: 20 + n },
    { value: 'Wing box' },
  ]);
  await writeWorkbook([[{ value: 'Wings, all packs' }], head, names, ...rows] as never, { filePath: path });
  return { path, good: 30, refused: 0 };
}

/** Tabs, two bytes a letter, month first, everything about the label in one column. */
function tabList(folder: string): ClubList {
  const lines = NUMBERS.map(
    (n) => `TB/${two(n)}\tTrainer LiPo HV 1S 450mAh 80C\t${1 + (n % 12)}/${13 + (n % 15)}/25\t${n}`,
  );
  const path = join(folder, 'trainers.txt');
  const text = `number\tdescription\tbought\tuses\n${lines.join('\n')}\n`;
  writeFileSync(path, Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, bytesOf.utf16)]));
  return { path, good: 30, refused: 0 };
}

export async function clubLists(folder: string): Promise<readonly ClubList[]> {
  return [germanList(folder), commaList(folder), await workbook(folder), tabList(folder)];
}

/** What happened to two of the packs in a year, by an old book: volts with commas, days without hours, a pilot nobody knows. */
export function oldBook(folder: string): string {
  const lines = NUMBERS.flatMap((n) => [
    `${two(1 + (n % 28))}.0${1 + (n % 9)}.2025;FA-01;Flug;;;1100;9;Old Jan;`,
    `${two(1 + (n % 28))}.0${1 + (n % 9)}.2025;FA-01;Laden;;;1150;40;;`,
    `${two(1 + (n % 28))}.0${1 + (n % 9)}.2025;FA-03;Messung;3,84;3,8${n % 10};;;;${n === 3 ? 'kalt' : ''}`,
  ]);
  const path = join(folder, 'akkubuch.csv');
  writeFileSync(
    path,
    `Datum;Akku;Vorgang;Zelle 1;Zelle 2;mAh;Minuten;Pilot;Bemerkung\n${lines.join('\n')}\n31.02.2025;FA-01;Flug;;;900;8;;\n05.05.2025;FA-99;Flug;;;900;8;;\n`,
  );
  return path;
}
