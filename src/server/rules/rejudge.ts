import type { PackId } from '../../core/measure';
import { rebuildPacks } from '../ledger';
import type { Database, Entities } from '../platform/database';
import { announce } from '../platform/live';
import type { Log } from '../platform/log';

/** Judges what was judged under older rules anew, pack by pack, while others keep working. */
export interface Rejudging {
  /** Begins, unless it is under way. Safe to call whenever rules may have changed. */
  begin(): void;
  /** Ends at the next pack; what is left is taken up when a server starts. */
  stop(): Promise<void>;
}

const BATCH = 10;
const BUSY_MS = 100;
const ANSWER_FIRST_MS = 400;
/** An append that began before the rules were adopted may still land under the old ones; look once more after it. */
const LATECOMERS_MS = 2_000;

export function rejudging(database: Database, log: Log): Rejudging {
  let running: Promise<void> | null = null;
  let again = false;
  let stopped = false;
  let waiting: ReturnType<typeof setTimeout> | undefined;

  const judgeAll = async (): Promise<void> => {
    const em = database.entities();
    let judged = 0;
    for (let stale = await stalePacks(em); stale.length > 0 && !stopped; stale = await stalePacks(em)) {
      const done = await rebuildPacks(database.entities(), stale);
      judged += done.length;
      // All of them are being written to; their turn comes when that is over.
      if (done.length === 0) await new Promise((goOn) => setTimeout(goOn, BUSY_MS));
      await announce(database.entities(), { about: 'rules' });
    }
    if (judged > 0) await announce(database.entities(), { about: 'register' });
  };

  const run = async (): Promise<void> => {
    // Whoever adopted the rules is answered, and everybody is told of them, before the work begins.
    await new Promise((goOn) => setTimeout(goOn, ANSWER_FIRST_MS));
    do {
      again = false;
      await judgeAll();
    } while (again && !stopped);
    if (!stopped) waiting = setTimeout(() => void judgeAll().catch(failed), LATECOMERS_MS);
  };
  const failed = (err: unknown) => {
    if (!stopped) log.error({ err }, 'Judging under the new rules stopped; it goes on at the next start');
  };

  return {
    begin: () => {
      if (running) {
        again = true;
        return;
      }
      clearTimeout(waiting);
      running = run()
        .catch(failed)
        .finally(() => {
          running = null;
        });
    },
    stop: async () => {
      stopped = true;
      clearTimeout(waiting);
      await running;
    },
  };
}

/** Some packs last judged under older rules than those in force; several processes may take the same, harmlessly. */
async function stalePacks(em: Entities): Promise<readonly PackId[]> {
  const rows: { id: PackId }[] = await em.execute(
    `select pack_id as id from pack_state where rules_version < (select max(version) from rule_set)
      order by rules_version, pack_id limit ${BATCH}`,
  );
  return rows.map(({ id }) => id);
}
