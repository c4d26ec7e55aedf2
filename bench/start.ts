import { readFileSync } from 'node:fs';
import { demoRegister, serve } from './largeRegister';
import { median, ms, say } from './measure';

const STARTS = 5;
/** So long after a start a server has nothing left to do. */
const RESTED_MS = 10_000;

/** How soon a server answers after it was started, on the made-up register, and what memory it keeps when nobody asks for anything. */
export async function benchStart(url: string): Promise<void> {
  const databaseUrl = await demoRegister(url, 'malle_bench_start');
  const starts: number[] = [];
  const atRest: number[] = [];
  for (let i = 0; i < STARTS; i++) {
    const began = performance.now();
    const server = await serve(databaseUrl);
    await fetch(`${server.url}/api/session`);
    starts.push(performance.now() - began);
    await new Promise((rested) => setTimeout(rested, RESTED_MS));
    const [, kilobytes] = /VmRSS:\s+(\d+) kB/.exec(
      readFileSync(`/proc/${server.process.pid!}/status`, 'utf8'),
    )!;
    atRest.push(Number(kilobytes) / 1_000);
    server.process.kill('SIGKILL');
  }
  say(
    'A server answers after its start (wanted 2 s)',
    ms(median(starts)),
    `least ${ms(Math.min(...starts))}`,
  );
  say('Its memory at rest (wanted 120 MB)', `${median(atRest).toFixed(0)} MB`);
}
