import { DAY_MS } from '../src/core/measure';
import type { PackId, PersonId } from '../src/core/measure';
import { openRegister } from '../src/server/app';
import { recordsOfMany } from '../src/server/ledger';
import { HeavyWork } from '../src/server/platform/heavy';
import { REPORT } from '../src/server/reports/service';
import { largeRegister } from './largeRegister';
import { ms, ratio, say } from './measure';

/** Anybody. */
const NOBODY = '00000000-0000-4000-8000-000000000000' as PersonId;
const BATCH = 25;
const LOOK_EVERY_MS = 250;

/** A year's report of the whole register, beside reading its ledgers alone, and how long others wait meanwhile. */
export async function benchReports(url: string): Promise<void> {
  const databaseUrl = await largeRegister(url);
  const database = await openRegister(databaseUrl);
  const em = database.entities();
  const packs = (await em.execute<{ id: PackId }[]>('select id from pack')).map(({ id }) => id);
  const bare = await secondsOf(async () => {
    for (let i = 0; i < packs.length; i += BATCH) await recordsOfMany(em, packs.slice(i, i + BATCH));
  });

  let slowest = 0;
  let turn = performance.now();
  const others = setInterval(() => {
    slowest = Math.max(slowest, performance.now() - turn - LOOK_EVERY_MS);
    turn = performance.now();
  }, LOOK_EVERY_MS);
  const now = Date.now();
  const heavy = new HeavyWork();
  const by = { personId: NOBODY, signal: new AbortController().signal, told: undefined };
  const asked = {
    from: now - 365 * DAY_MS,
    to: now,
    typeId: null,
    personId: null,
    placeId: null,
    craft: null,
  };
  const whole = await secondsOf(() =>
    heavy.do(REPORT, { databaseUrl, asked, reader: { now, zone: 'UTC' } }, by),
  );
  clearInterval(others);
  say(
    `A year's report of ${packs.length} packs (wanted 3 s)`,
    `${whole.toFixed(1)} s`,
    `reading the ledgers ${bare.toFixed(1)} s`,
    ratio(whole / bare),
  );
  say('Longest others waited for their turn while it ran (wanted 100 ms)', ms(slowest));
  await heavy.close();
  await database.close();
}

async function secondsOf(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}
