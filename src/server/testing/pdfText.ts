import { execFileSync } from 'node:child_process';

/** The words on a printed page, laid out as they stand. */
export function pdfText(pdf: Buffer): string {
  return execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf, encoding: 'utf8' });
}
