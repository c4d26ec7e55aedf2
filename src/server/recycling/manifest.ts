import type { Content } from 'pdfmake/interfaces';
import type { ConsignmentDetails, ConsignmentPack, DecimalMark, RecyclerAnswer } from '../../contract';
import { CHEMISTRY } from '../../core/chemistry';
import { totalsByChemistry } from '../../core/lifecycle';
import { csv } from '../platform/csv';
import type { PaperDocument } from '../platform/pdf';
import { PAPER, QUIET, hairlines, heading, paperDay, tableOf } from '../platform/paper';

/** What a manifest says besides the consignment's own lines. */
export interface ManifestFacts {
  readonly recycler: RecyclerAnswer;
  readonly zone: string;
  /** What speaks for it, at its end. */
  readonly checkpoint: readonly Content[];
}

const kg = (grams: number) => (grams / 1000).toFixed(2);
const wh = (value: number) => value.toFixed(1);

/** The list that goes along with the packs: damaged ones apart, sums by chemistry, room for two names. */
export function manifestOnPaper(
  consignment: ConsignmentDetails,
  { recycler, zone, checkpoint }: ManifestFacts,
): PaperDocument {
  const sound = consignment.lines.filter(({ apart }) => !apart);
  const harmed = consignment.lines.filter(({ apart }) => apart);
  const closed = consignment.closedAt !== null;
  return {
    ...PAPER,
    info: { title: `Manifest ${consignment.id.slice(-8)}` },
    content: [
      heading('Manifest of batteries for recycling', `No. ${consignment.id.slice(-8)}`),
      {
        columns: [
          [{ text: 'To', color: QUIET }, { text: recycler.name, bold: true }, recycler.contact ?? ''],
          [
            { text: closed ? 'Handed over' : 'Not handed over yet', color: QUIET },
            closed ? paperDay(consignment.closedAt, zone) : '',
            consignment.receiptNumber ? `Receipt ${consignment.receiptNumber}` : '',
          ],
        ],
        margin: [0, 0, 0, 10],
      },
      ...group('Discharged, contacts covered', sound),
      ...group('DAMAGED, not discharged, packed apart', harmed),
      { text: 'Totals', bold: true, margin: [0, 10, 0, 3] },
      tableOf(
        ['Chemistry', 'State', 'Packs', 'kg', 'Wh'],
        totalsByChemistry(consignment.lines).map((sum) => [
          CHEMISTRY[sum.chemistry].name,
          sum.apart ? 'damaged' : 'discharged',
          String(sum.packs),
          kg(sum.massG),
          wh(sum.wh),
        ]),
        ['*', '*', 50, 60, 60],
        2,
      ),
      {
        columns: [
          signature('Handed over by', consignment.handedBy),
          signature('Received by', consignment.receivedBy),
        ],
        margin: [0, 30, 0, 0],
      },
      ...consignment.corrections.map(({ at, text }): Content => ({
        text: `Correction, ${paperDay(at, zone)}: ${text}`,
        margin: [0, 10, 0, 0],
      })),
      ...checkpoint,
    ],
  };
}

function group(title: string, lines: readonly ConsignmentPack[]): Content[] {
  if (lines.length === 0) return [];
  return [
    { text: title, bold: true, margin: [0, 8, 0, 3] },
    tableOf(
      ['Tag', 'Type', 'Chemistry', 'Cells', 'kg', 'Wh'],
      lines.map((line) => [
        line.tag,
        line.typeName,
        CHEMISTRY[line.chemistry].name,
        `${line.series}S`,
        kg(line.massG),
        wh(line.wh),
      ]),
      [70, '*', 60, 40, 50, 50],
      4,
    ),
  ];
}

function signature(label: string, name: string | null): Content {
  return {
    stack: [
      { text: name ?? ' ', margin: [0, 0, 0, 2] },
      { canvas: [{ type: 'line', x1: 0, y1: 0, x2: 220, y2: 0, lineWidth: hairlines.width }] },
      { text: label, color: QUIET, fontSize: 8 },
    ],
  };
}

const TITLES = ['Tag', 'Type', 'Chemistry', 'Cells in series', 'Mass (kg)', 'Energy (Wh)', 'State'];

/** The same lines for a spreadsheet. */
export function manifestCsv({ lines }: ConsignmentDetails, mark: DecimalMark): string {
  const rows = lines.map((line) => [
    line.tag,
    line.typeName,
    CHEMISTRY[line.chemistry].name,
    line.series,
    Math.round(line.massG) / 1000,
    Math.round(line.wh * 10) / 10,
    line.apart ? 'damaged, packed apart' : line.charged ? 'at storage charge' : 'discharged',
  ]);
  return csv(TITLES, rows, mark);
}
