import { openRegister } from '../../src/server/app';
import { rebuildPacks } from '../../src/server/ledger';
import { kept } from '../../src/server/ledger/keptLedgers';
import { Session } from 'node:inspector';
import { writeFileSync } from 'node:fs';
const url = process.env.DATABASE_URL!.replace(/\/[^/]*$/, '/malle_bench_append');
const db = await openRegister(url);
const em = db.entities();
const ids = (await em.execute<any[]>(`select id, (select count(*) from record r where r.pack_id = p.id) n from pack p where tag not like 'LONG-%' order by id`));
const session = new Session(); session.connect();
const post = (m: string, p: any = {}) => new Promise<any>((ok, no) => session.post(m, p, (e, r) => e ? no(e) : ok(r)));
for (let round = 0; round < 4; round++) {
  if (round === 3) { await post('Profiler.enable'); await post('Profiler.setSamplingInterval', { interval: 200 }); await post('Profiler.start'); }
  if (round !== 2) kept.clear();
  const t = performance.now();
  for (let i = 0; i < ids.length; i += 10) await rebuildPacks(db.entities(), ids.slice(i, i + 10).map((x) => x.id));
  const s = (performance.now() - t) / 1000;
  console.log(round, (ids.length / s).toFixed(0), 'packs/s', (ids.reduce((a, b) => a + Number(b.n), 0) / s).toFixed(0), 'records/s');
}
const { profile } = await post('Profiler.stop');
writeFileSync(`/tmp/prof/rebuild.cpuprofile`, JSON.stringify(profile));
await db.close(); process.exit(0);
