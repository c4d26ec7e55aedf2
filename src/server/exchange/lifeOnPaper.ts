import { PAPER, heading, tableOf } from '../platform/paper';
import { printed } from '../platform/pdf';
import type { List } from './lists';

/** A pack's whole life on paper: every record in the order it was written, as many pages as it takes. */
export function lifePdf(tag: string, { rows }: List): Promise<Buffer> {
  const told = rows.map(([seq, time, what, figures, words, by, , corrected]) => [
    String(seq),
    String(time),
    String(what),
    [figures, words, corrected === null ? null : `(corrected by no. ${corrected})`]
      .filter(Boolean)
      .join(' · '),
    String(by),
  ]);
  return printed({
    ...PAPER,
    info: { title: `Life of ${tag}` },
    content: [
      heading('Life of a battery pack', tag),
      {
        text: `${rows.length} records, in the order they were written.`,
        margin: [0, -6, 0, 8],
      },
      tableOf(['No.', 'When', 'What', 'Record', 'By'], told, [26, 82, 62, '*', 80], 5),
    ],
  });
}
