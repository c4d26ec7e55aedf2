import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { HOUR_MS } from '../../core/measure';
import type { Clock } from '../platform/clock';
import type { Database } from '../platform/database';
import type { Log } from '../platform/log';
import type { Signer } from '../platform/signing';
import { makeCheckpoint } from './checkpoints';
import { checkpointText } from './statement';

const EVERY_MS = HOUR_MS;

export interface Keeping {
  stop(): Promise<void>;
}

/**
 * Makes a checkpoint every hour in which something changed, and puts it as a file where the register is not.
 * @param folder on another disk or machine, where there is one
 */
export function keepCheckpoints(
  database: Database,
  signer: Signer,
  { clock, log, folder }: { clock: Clock; log: Log; folder: string | null },
): Keeping {
  let underWay: Promise<void> = Promise.resolve();
  const make = async () => {
    try {
      const made = await makeCheckpoint(database.entities(), signer, clock.now());
      if (made && folder !== null) {
        mkdirSync(folder, { recursive: true });
        writeFileSync(join(folder, `checkpoint-${made.number}.txt`), checkpointText(made));
      }
    } catch (err) {
      log.error({ err }, 'No checkpoint could be made or put away');
    }
  };
  const timer = setInterval(() => {
    underWay = make();
  }, EVERY_MS);
  timer.unref();
  underWay = make();
  return {
    stop: async () => {
      clearInterval(timer);
      await underWay;
    },
  };
}
