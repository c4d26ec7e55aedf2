import type { PackId } from '../../core/measure';
import { REBUILD, rebuildPacks } from '../ledger';
import type { Database, Entities } from '../platform/database';
import { announce } from '../platform/live';
import type { HeavyWork } from '../platform/heavy';
import type { Log } from '../platform/log';
import { inLots } from '../platform/lots';

/** Judges what was judged under older rules anew, pack by pack, while others keep working. */
export interface Rejudging {
  /** Begins, unless it is under way. Safe to call whenever rules may have changed. */
  begin(): void;
  /** Ends with the packs under way; what is left is taken up when a server starts. */
  stop(): Promise<void>;
}

/** So few are judged here: a worker takes longer to start. */
const FEW = 10;
/** A worker is given so many at a time: whoever wants a label printed meanwhile waits for no more. */
const LOT = 40;
const WORKERS = 2;
const BUSY_MS = 100;
const ANSWER_FIRST_MS = 400;
/** An append that began before the rules were adopted may still land under the old ones; look once more after it. */
const LATECOMERS_MS = 2_000;

export function rejudging(database: Database, heavy: HeavyWork, log: Log): Rejudging {
  let running: Promise<void> | null = null;
  let again = false;
  let stopped = false;
  let waiting: ReturnType<typeof setTimeout> | undefined;

  const here = (ids: readonly PackId[]) => rebuildPacks(database.entities(), ids);
  const beside = (ids: readonly PackId[]) => heavy.ownWork(REBUILD, { databaseUrl: database.url, ids });

  const judgeAll = async (): Promise<void> => {
    const em = database.entities();
    let judged = 0;
    for (let stale = await stalePacks(em); stale.length > 0 && !stopped; stale = await stalePacks(em)) {
      const done =
        stale.length > FEW ? await Promise.all(inLots(stale, LOT).map(beside)) : [await here(stale)];
      judged += done.flat().length;
      // All of them are being written to; their turn comes when that is over.
      if (done.flat().length === 0) await new Promise((goOn) => setTimeout(goOn, BUSY_MS));
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
      order by rules_version, pack_id limit ${LOT * WORKERS}`,
  );
  return rows.map(({ id }) => id);
}
