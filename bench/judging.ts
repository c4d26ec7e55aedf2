import { assess } from '../src/core/assess';
import type { PackId } from '../src/core/measure';
import { fold, foldOn } from '../src/core/record';
import type { PackRecord } from '../src/core/record';
import { openRegister } from '../src/server/app';
import {
  placeTemperatures,
  REBUILD,
  rebuildPacks,
  recordsOf,
  recordsOfMany,
  rulesInForce,
} from '../src/server/ledger';
import { packFacts } from '../src/server/ledger/rows';
import { HeavyWork } from '../src/server/platform/heavy';
import { inLots } from '../src/server/platform/lots';
import { busiestPack } from './append';
import { largeRegister } from './largeRegister';
import { lengthened } from './lengthened';
import { median, medianMs, ms, ratio, say } from './measure';

const PACKS = 620;
/** As a server takes them: few by itself, many by its workers. */
const ONE_BY_ONE = { atOnce: 10, together: 1 };
const BESIDE = { atOnce: 40, together: 2 };
const [FEW, MANY] = [400, 5_000];

/**
 * What judging costs on ledgers like the made-up register's: a long ledger beside one of a season, and the server judging packs anew after a change of
 * rules, beside reading their ledgers alone.
 */
export async function benchJudging(url: string): Promise<void> {
  const database = await openRegister(await largeRegister(url));
  const em = database.entities();
  const model = await busiestPack(database);
  const pack = { ...(await packFacts(em, model))!, placeTemperatures: await placeTemperatures(em) };
  const { rules } = await rulesInForce(em);
  const season = (await recordsOf(em, model)).map(({ record }) => record);
  const costOf = async (count: number) => {
    const records: readonly PackRecord[] = lengthened(season, count);
    const now = records.at(-1)!.recordedAt;
    return {
      judged: await medianMs(30, () => assess(fold(pack, records), rules, now)),
      folded: await medianMs(30, () => fold(pack, records)),
      on: median(goingOn(records)),
    };
  };
  /** Milliseconds for each of the last records, judged as a server does that judged the pack before it. */
  const goingOn = (records: readonly PackRecord[]): readonly number[] => {
    const first = records.length - 60;
    let history = fold(pack, records.slice(0, first));
    assess(history, rules, records[first - 1]!.recordedAt);
    return records.slice(first).map((record, i) => {
      const began = performance.now();
      history = foldOn(history, pack, [record]) ?? fold(pack, records.slice(0, first + i + 1));
      assess(history, rules, record.recordedAt);
      return performance.now() - began;
    });
  };
  const [few, many] = [await costOf(FEW), await costOf(MANY)];
  say(
    `Judging ${MANY} records beside ${FEW} (wanted × 4)`,
    `${ms(many.judged)} beside ${ms(few.judged)}`,
    ratio(many.judged / few.judged),
    `going through the records once ${ratio(many.folded / few.folded)}`,
  );
  say(
    '  the same once more, a record later, where it was judged before (wanted × 4)',
    `${ms(many.on)} beside ${ms(few.on)}`,
    ratio(many.on / few.on),
  );

  const rows: { id: PackId }[] = await em.execute(
    'select pack_id as id from pack_state order by pack_id limit ?',
    [PACKS],
  );
  const perSecond = async (
    work: (ids: readonly PackId[]) => Promise<unknown>,
    { atOnce, together }: { readonly atOnce: number; readonly together: number },
  ) => {
    const lots = inLots(
      rows.map(({ id }) => id),
      atOnce,
    );
    const began = performance.now();
    for (let first = 0; first < lots.length; first += together)
      await Promise.all(lots.slice(first, first + together).map(work));
    return (rows.length * 1_000) / (performance.now() - began);
  };
  const read = await perSecond((ids) => recordsOfMany(em, ids), ONE_BY_ONE);
  const here = await perSecond((ids) => rebuildPacks(database.entities(), ids), ONE_BY_ONE);
  const heavy = new HeavyWork();
  const beside = (ids: readonly PackId[]) => heavy.ownWork(REBUILD, { databaseUrl: database.url, ids });
  const anew = async () => {
    // As after an edit of their type: workers leave what is judged under the newest rules.
    await em.execute('update pack_state set rules_version = 0 where pack_id = any(?::uuid[])', [
      `{${rows.map(({ id }) => id).join(',')}}`,
    ]);
    return perSecond(beside, BESIDE);
  };
  // The workers are started with the first packs, and warm after some.
  await anew();
  const judged = await anew();
  await heavy.close();
  say(
    'Packs judged anew a second (wanted 500, 150 after a change of rest)',
    judged.toFixed(0),
    `by one thread alone ${here.toFixed(0)}`,
    `their ledgers read a second ${read.toFixed(0)}`,
  );
  await database.close();
}
