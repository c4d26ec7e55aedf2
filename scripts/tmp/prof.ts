import { openRegister } from '../../src/server/app';
import { append } from '../../src/server/ledger';
import { v7 as newId } from 'uuid';
import { Session } from 'node:inspector';
import { writeFileSync } from 'node:fs';
const url = process.env.DATABASE_URL!.replace(/\/[^/]*$/, '/malle_bench_append');
const db = await openRegister(url);
const em = db.entities();
const [{ id: person }] = await em.execute<any[]>(`select id from person where role='custodian' limit 1`);
let [{ now: clock }] = await em.execute<any[]>(`select (extract(epoch from max(recorded_at))*1000)::float8 as now from record`);
const session = new Session(); session.connect();
const post = (m: string, p: any = {}) => new Promise<any>((ok, no) => session.post(m, p, (e, r) => e ? no(e) : ok(r)));
for (const n of process.argv.slice(2)) {
  const [{ id }] = await em.execute<any[]>(`select id from pack where tag = ?`, [`LONG-${n}`]);
  const one = () => { clock += 180_000; return append(db.entities(), id, [{ id: newId() as never, kind: 'reading', at: clock - 60_000, payload: { volts: { of: 'cells', cellsMv: [3824, 3821, 3825, 3820] }, condition: 'rested', instrument: null, meterErrorMv: 5, temperatureC: null, remarks: null }, supersedes: null }] as any, () => ({ actor: { id: person, role: 'custodian' as const }, recordedAt: clock })); };
  for (let i = 0; i < 10; i++) await one();
  await post('Profiler.enable'); await post('Profiler.setSamplingInterval', { interval: 200 }); await post('Profiler.start');
  const t = performance.now();
  for (let i = 0; i < 40; i++) await one();
  console.log(n, ((performance.now() - t) / 40).toFixed(2), 'ms each');
  const { profile } = await post('Profiler.stop');
  writeFileSync(`/tmp/prof/${n}.cpuprofile`, JSON.stringify(profile));
}
await db.close(); process.exit(0);
