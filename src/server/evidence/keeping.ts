import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { HOUR_MS } from '../../core/measure';
import type { Clock } from '../platform/clock';
import type { Database } from '../platform/database';
import type { Log } from '../platform/log';
import type { Mail } from '../platform/mail';
import { repeatedly } from '../platform/repeatedly';
import type { Repeated } from '../platform/repeatedly';
import type { Signer } from '../platform/signing';
import { makeCheckpoint } from './checkpoints';
import type { Checkpoint } from './checkpoints';
import { mailCheckpoint } from './mailing';
import { checkpointText } from './statement';

const EVERY_MS = HOUR_MS;

/**
 * Makes a checkpoint every hour in which something changed, puts it as a file where the register is not, and sends one a day by mail.
 * @param folder on another disk or machine, where there is one
 * @param mail for the people who keep checkpoints, where there are any
 */
export function keepCheckpoints(
  database: Database,
  signer: Signer,
  { clock, log, folder, mail }: { clock: Clock; log: Log; folder: string | null; mail: Mail | null },
): Repeated {
  /** What does not work is told to whoever reads the server's output, and keeps the rest from nothing. */
  const attempt = async <Done>(what: string, work: () => Promise<Done> | Done): Promise<Done | null> => {
    try {
      return await work();
    } catch (err) {
      log.error({ err }, what);
      return null;
    }
  };
  const make = async () => {
    const em = database.entities();
    const now = clock.now();
    const made = await attempt('No checkpoint could be made', () => makeCheckpoint(em, signer, now));
    if (!made) return;
    if (folder !== null) await attempt('A checkpoint could not be put away', () => putAway(made, folder));
    if (mail) await attempt('A checkpoint did not go out by mail', () => mailCheckpoint(em, mail, made, now));
  };
  return repeatedly(EVERY_MS, make, true);
}

function putAway(made: Checkpoint, folder: string): void {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, `checkpoint-${made.number}.txt`), checkpointText(made));
}
