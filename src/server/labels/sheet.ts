import type { Content } from 'pdfmake/interfaces';
import { LABEL_SHEETS } from '../../contract';
import type { LabelSheet } from '../../contract';
import type { PaperDocument } from '../platform/pdf';

/** One label: what is printed large, the facts under it, and where its code leads. */
export interface Label {
  readonly tag: string;
  readonly lines: readonly string[];
  readonly address: string;
}

interface Geometry {
  readonly pageMm: readonly [width: number, height: number];
  /** Left and top edge of the first label. */
  readonly edgeMm: readonly [left: number, top: number];
  readonly labelMm: readonly [width: number, height: number];
  /** Space between columns; rows touch. */
  readonly gapMm: number;
}

/** Common label sheets, as their makers draw them. */
const GEOMETRY: Readonly<Record<LabelSheet, Geometry>> = {
  'a4-21': { pageMm: [210, 297], edgeMm: [7.2, 15.1], labelMm: [63.5, 38.1], gapMm: 2.5 },
  'a4-14': { pageMm: [210, 297], edgeMm: [4.7, 15.1], labelMm: [99.1, 38.1], gapMm: 2.5 },
  'a4-40': { pageMm: [210, 297], edgeMm: [0, 0], labelMm: [52.5, 29.7], gapMm: 0 },
  roll: { pageMm: [62, 29], edgeMm: [0, 0], labelMm: [62, 29], gapMm: 0 },
};

const PT_PER_MM = 72 / 25.4;
/** Printers and cutters miss by this much; nothing is printed nearer to a label's edge. */
const SAFE_MM = 2.5;

/**
 * The labels as a PDF to print at full size on the chosen sheet.
 * @param skip labels already used up on the first sheet
 */
export function labelSheet(labels: readonly Label[], sheet: LabelSheet, skip: number): PaperDocument {
  const { pageMm, edgeMm, labelMm, gapMm } = GEOMETRY[sheet];
  const { columns, rows } = LABEL_SHEETS[sheet];
  const perPage = columns * rows;
  const places: (Label | null)[] = [...Array.from({ length: skip % perPage }, () => null), ...labels];
  const content: Content[] = places.flatMap((label, i) => {
    const onPage = i % perPage;
    const x = edgeMm[0] + (onPage % columns) * (labelMm[0] + gapMm);
    const y = edgeMm[1] + Math.floor(onPage / columns) * labelMm[1];
    const drawn = label ? drawnLabel(label, x, y, labelMm) : [];
    const startsPage = onPage === 0 && i > 0;
    return startsPage ? [PAGE_BREAK, ...drawn] : drawn;
  });
  return {
    pageSize: { width: pageMm[0] * PT_PER_MM, height: pageMm[1] * PT_PER_MM },
    pageMargins: [0, 0, 0, 0],
    defaultStyle: { font: 'Mono', lineHeight: 1 },
    info: { title: 'Tag labels' },
    content,
  };
}

function drawnLabel(
  label: Label,
  xMm: number,
  yMm: number,
  [widthMm, heightMm]: readonly [number, number],
): Content[] {
  const codeMm = Math.min(heightMm - 2 * SAFE_MM, widthMm * 0.42);
  const textMm = widthMm - codeMm - 3 * SAFE_MM;
  const at = (x: number, y: number) => ({ x: x * PT_PER_MM, y: y * PT_PER_MM });
  const lines = [
    { text: label.tag, bold: true, size: fitting(label.tag, textMm, 20) },
    ...label.lines.map((text) => ({ text, bold: false, size: fitting(text, textMm, 8.5) })),
  ];
  const wantedPt = lines.reduce((sum, { size }) => sum + size * LINE_HEIGHT, 0);
  const shrink = Math.min(1, ((heightMm - 2 * SAFE_MM) * PT_PER_MM) / wantedPt);
  let y = (heightMm * PT_PER_MM - wantedPt * shrink) / 2;
  const texts = lines.map(({ text, bold, size }): Content => {
    const drawn = { text, bold, fontSize: size * shrink, noWrap: true };
    const absolutePosition = { x: (xMm + 2 * SAFE_MM + codeMm) * PT_PER_MM, y: yMm * PT_PER_MM + y };
    y += size * shrink * LINE_HEIGHT;
    return { ...drawn, absolutePosition };
  });
  return [
    {
      qr: label.address,
      fit: codeMm * PT_PER_MM,
      eccLevel: 'M',
      absolutePosition: at(xMm + SAFE_MM, yMm + (heightMm - codeMm) / 2),
    },
    ...texts,
  ];
}

/** Takes no room of its own, so that a small page is not full before its label is drawn. */
const PAGE_BREAK: Content = { text: ' ', fontSize: 0.1, lineHeight: 0.1, pageBreak: 'before' };

/** From one line to the next, as a share of the letters' size. */
const LINE_HEIGHT = 1.28;
/** A letter of the label's face is so wide for its size. */
const LETTER_WIDTH = 0.66;

/** The largest size, up to `most`, at which a text stays on one line. */
function fitting(text: string, widthMm: number, most: number): number {
  return Math.min(most, (widthMm * PT_PER_MM) / (text.length * LETTER_WIDTH));
}
