import { readFileSync, writeFileSync } from 'node:fs';
import { Session } from 'node:inspector';
import { projectionOf } from '../../src/server/ledger/projection';
import { fold } from '../../src/core/record';
import { timeline, assess } from '../../src/core/assess';
import { lengthened } from '../../bench/lengthened';
const demo = JSON.parse(readFileSync('/tmp/demo.json', 'utf8'));
const model = demo.packs.filter((p: any) => p.pack.series === 4).sort((a: any, b: any) => b.records.length - a.records.length)[0];
const session = new Session(); session.connect();
const post = (m: string, p: any = {}) => new Promise<any>((ok, no) => session.post(m, p, (e, r) => e ? no(e) : ok(r)));
const inForce = { version: 1, rules: demo.rules };
for (const n of [100, 450, 1000, 5000]) {
  const records = lengthened(model.records, n) as any[];
  const work = () => projectionOf(model.pack, records.slice(), { seq: 1, hash: 'x' }, inForce);
  for (let i = 0; i < 15; i++) work();
  if (process.argv[2] === String(n)) { await post('Profiler.enable'); await post('Profiler.setSamplingInterval', { interval: 100 }); await post('Profiler.start'); }
  const t = performance.now(); const R = 40;
  for (let i = 0; i < R; i++) work();
  const each = (performance.now() - t) / R;
  if (process.argv[2] === String(n)) { const { profile } = await post('Profiler.stop'); writeFileSync(`/tmp/prof/c/${n}.cpuprofile`, JSON.stringify(profile)); }
  const h = fold(model.pack, records); const at = records.at(-1)!.recordedAt;
  const time = (f: () => unknown) => { f(); const t = performance.now(); for (let i = 0; i < 30; i++) f(); return ((performance.now() - t) / 30).toFixed(2); };
  console.log(n, 'projection', each.toFixed(2), 'fold', time(() => fold(model.pack, records)), 'assess', time(() => assess(fold(model.pack, records), demo.rules, at)), 'timeline', time(() => timeline(fold(model.pack, records), demo.rules, at)), 'segments', timeline(h, demo.rules, at).length);
}
