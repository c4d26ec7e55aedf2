import type { Content } from 'pdfmake/interfaces';
import type { Instant } from '../../core/measure';
import type { Entities } from '../platform/database';
import { QUIET, paperTime } from '../platform/paper';
import type { Signer } from '../platform/signing';
import { makeCheckpoint } from './checkpoints';
import { checkpointText } from './statement';

/** Dots of 0.7 mm: a phone reads them from a sheet that was folded. */
const CODE_PT = 165;

/** The checkpoint that speaks for what is printed, as a code at a document's end; nothing where this server has no key. */
export async function checkpointOnPaper(
  em: Entities,
  signer: Signer | null,
  now: Instant,
  zone: string,
): Promise<Content[]> {
  const made = signer && (await makeCheckpoint(em, signer, now));
  if (!made) return [];
  return [
    {
      unbreakable: true,
      margin: [0, 18, 0, 0],
      columns: [
        { qr: checkpointText(made), fit: CODE_PT, eccLevel: 'L', width: CODE_PT + 9 },
        {
          width: '*',
          stack: [
            { text: `Checkpoint ${made.number}, ${paperTime(made.at, zone)}`, bold: true, fontSize: 9 },
            {
              text: 'Keep this sheet: the code holds, signed, what the whole register was at this moment. Scanned into Settings, Evidence, it shows whether anything of it was changed since past the application.',
              fontSize: 8,
              color: QUIET,
            },
          ],
        },
      ],
    },
  ];
}
