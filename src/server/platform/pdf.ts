import { createRequire } from 'node:module';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';

const files = createRequire(import.meta.url);
const face = (family: 'mono' | 'next', weight: number) =>
  files.resolve(
    `@fontsource/atkinson-hyperlegible-${family}/files/atkinson-hyperlegible-${family}-latin-${weight}-normal.woff`,
  );
const FACES = [face('mono', 400), face('mono', 700), face('next', 400), face('next', 700)] as const;

/** A document as the bytes of a PDF. Its faces are `Mono` and `Text`. */
export async function printed(document: TDocumentDefinitions): Promise<Buffer> {
  const pdfmake = await printer();
  return pdfmake.createPdf(document).getBuffer();
}

/** Loaded with the first sheet: most processes print none, and it is a sixth of a server's memory. */
async function printer() {
  const { default: pdfmake } = await import('pdfmake');
  pdfmake.setFonts({
    Mono: { normal: FACES[0], bold: FACES[1] },
    Text: { normal: FACES[2], bold: FACES[3] },
  });
  // Documents name no files but these; nothing they hold is fetched.
  pdfmake.setLocalAccessPolicy((path: string) => (FACES as readonly string[]).includes(path));
  pdfmake.setUrlAccessPolicy(() => false);
  return pdfmake;
}
