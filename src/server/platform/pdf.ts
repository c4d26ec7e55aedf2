import { createRequire } from 'node:module';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { heavyTask } from './heavy';
import type { Heavily } from './heavy';
import { LAYOUTS, QUIET } from './paper';

const files = createRequire(import.meta.url);
const face = (family: 'mono' | 'next', weight: number) =>
  files.resolve(
    `@fontsource/atkinson-hyperlegible-${family}/files/atkinson-hyperlegible-${family}-latin-${weight}-normal.woff`,
  );
const FACES = [face('mono', 400), face('mono', 700), face('next', 400), face('next', 700)] as const;

/** A document as data alone, so that it can be drawn elsewhere. */
export interface PaperDocument extends Omit<TDocumentDefinitions, 'footer' | 'header' | 'background'> {
  /** Whether each page says which it is. */
  readonly numbered?: boolean;
}

export const PRINT = heavyTask<PaperDocument, Uint8Array>('print');

/** A document as the bytes of a PDF, drawn beside the server. Its faces are `Mono` and `Text`. */
export async function printed(heavily: Heavily, document: PaperDocument): Promise<Buffer> {
  return Buffer.from(await heavily(PRINT, document));
}

/** The same here and now, for whoever keeps nobody waiting. */
export async function drawn({ numbered, ...document }: PaperDocument): Promise<Uint8Array> {
  const pdfmake = await printer();
  return pdfmake.createPdf(numbered ? { ...document, footer: pageNumber } : document).getBuffer();
}

function pageNumber(page: number, pages: number): Content {
  return {
    text: `Malle · page ${page} of ${pages}`,
    alignment: 'right',
    margin: [42, 12, 42, 0],
    fontSize: 8,
    color: QUIET,
  };
}

/** Loaded with the first sheet: most processes print none, and it is a sixth of a server's memory. */
async function printer() {
  const { default: pdfmake } = await import('pdfmake');
  pdfmake.setFonts({
    Mono: { normal: FACES[0], bold: FACES[1] },
    Text: { normal: FACES[2], bold: FACES[3] },
  });
  pdfmake.setTableLayouts(LAYOUTS);
  // Documents name no files but these; nothing they hold is fetched.
  pdfmake.setLocalAccessPolicy((path: string) => (FACES as readonly string[]).includes(path));
  pdfmake.setUrlAccessPolicy(() => false);
  return pdfmake;
}
