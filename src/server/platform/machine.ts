import { statfs } from 'node:fs/promises';
import type { MachineTrouble } from '../../contract';
import { CLOCK_SLACK_MS } from '../../core/admission';
import { MINUTE_MS } from '../../core/measure';
import { asInstant } from './columns';
import type { Clock } from './clock';
import { isLoopback } from './config';
import type { Database, Entities } from './database';
import { addressesOf } from './hosts';
import { announce } from './live';
import type { Log } from './log';
import { readSetting, writeSetting } from './settings';

const EVERY_MS = 30_000;
const MB = 1_000_000;
/** Space is low while there is less than so many times what has to stay free. */
const LOW_TIMES = 5;

/** Looks after the machine the register runs on. */
export interface Machine {
  /** Whether there is room to write. */
  readonly hasRoom: () => boolean;
  /** Looks now, after a look that is under way. */
  look(): Promise<void>;
  stop(): Promise<void>;
}

/**
 * Looks now and then whether the server's clock and its disk can be relied on, tells every page when one of them can not, and again when it can.
 * @param leastSpaceMb with less than this nothing is written: PostgreSQL needs room to come up again
 */
export function watchMachine(
  database: Database,
  databaseUrl: string,
  { clock, log, leastSpaceMb }: { clock: Clock; log: Log; leastSpaceMb: number },
): Machine {
  let room = true;
  const look = async () => {
    const em = database.entities();
    const free = await freeBytes(em, databaseUrl);
    room = free === null || free >= leastSpaceMb * MB;
    const low = free !== null && free < leastSpaceMb * MB * LOW_TIMES;
    const behindMs = (await newestMoment(em)) - clock.now();
    const troubles: MachineTrouble[] = [
      ...(behindMs > CLOCK_SLACK_MS
        ? [{ what: 'clock-behind' as const, minutes: Math.round(behindMs / MINUTE_MS) }]
        : []),
      ...(low
        ? [{ what: room ? ('space-low' as const) : ('space-out' as const), freeMb: inTens(free / MB) }]
        : []),
    ];
    await tell(em, troubles, log);
  };
  let underWay: Promise<void> = Promise.resolve();
  const afterThat = () =>
    (underWay = underWay
      .then(look)
      // While the database cannot be asked everybody knows already.
      .catch((err: unknown) => log.warn({ err }, 'The machine could not be looked at')));
  const timer = setInterval(() => void afterThat(), EVERY_MS);
  timer.unref();
  void afterThat();
  return {
    hasRoom: () => room,
    look: afterThat,
    stop: async () => {
      clearInterval(timer);
      await underWay;
    },
  };
}

/** What is wrong with the machine, as it was last seen; empty while nothing is. */
export async function machineTroubles(em: Entities): Promise<readonly MachineTrouble[]> {
  return (await readSetting<readonly MachineTrouble[]>(em, 'machine')) ?? [];
}

/** Writes what changed, and has every page ask for it. */
async function tell(em: Entities, troubles: readonly MachineTrouble[], log: Log): Promise<void> {
  const before = await machineTroubles(em);
  if (JSON.stringify(before) === JSON.stringify(troubles)) return;
  if (troubles.length > 0) log.error({ troubles }, 'The machine needs somebody');
  await em.transactional(async (tx) => {
    await writeSetting(tx, 'machine', troubles);
    await announce(tx, { about: 'register' });
  });
}

/** The newest moment this register wrote down by its own clock. */
async function newestMoment(em: Entities): Promise<number> {
  const [row]: { newest: number | null }[] = await em.execute(
    `select ${asInstant('greatest(records.newest, entries.newest)')} as newest
       from (select max(r.recorded_at) as newest from pack_state s join record r on r.pack_id = s.pack_id and r.seq = s.seq) records,
            (select max(at) as newest from (select at from register_log order by seq desc limit 1) latest) entries`,
  );
  return row?.newest ?? 0;
}

/** What is left on the disk the database lies on; null where it lies on another machine, or may not be looked at. */
async function freeBytes(em: Entities, databaseUrl: string): Promise<number | null> {
  const [address, ...others] = addressesOf(databaseUrl);
  if (others.length > 0 || !isLoopback(new URL(address!).hostname)) return null;
  try {
    const [row]: { folder: string }[] = await em.execute(
      `select current_setting('data_directory') as folder`,
    );
    const { bavail, bsize } = await statfs(row!.folder);
    return bavail * bsize;
  } catch {
    return null;
  }
}

/** A figure that moves at every look would move every page. */
function inTens(mb: number): number {
  return Math.floor(mb / 10) * 10;
}
