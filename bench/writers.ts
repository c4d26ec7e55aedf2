import { demoRegister, serve } from './largeRegister';
import { median, ms, say } from './measure';
import { SignedInAsker } from './asker';

const WRITERS = 32;
const EACH = 20;

/** Thirty-two people who write at once, each to a pack of their own: how long each waits for the answer, over HTTP. */
export async function benchWriters(url: string): Promise<void> {
  const server = await serve(await demoRegister(url, 'malle_bench_writers'));
  try {
    const asker = await SignedInAsker.at(server.url);
    const packs = (await asker.json('/packs')) as readonly { readonly id: string }[];
    const times: number[] = [];
    const writes = async (packId: string) => {
      for (let i = 0; i < EACH; i++) {
        const began = performance.now();
        await asker.append(packId);
        times.push(performance.now() - began);
      }
    };
    const began = performance.now();
    await Promise.all(packs.slice(0, WRITERS).map(({ id }) => writes(id)));
    const seconds = (performance.now() - began) / 1_000;
    times.sort((a, b) => a - b);
    say(
      `${WRITERS} writers on packs of their own (wanted 150 ms)`,
      `99 of 100 within ${ms(times[Math.floor(times.length * 0.99)]!)}`,
      `median ${ms(median(times))}`,
      `${Math.round(times.length / seconds)} records/s`,
    );
  } finally {
    server.process.kill('SIGKILL');
  }
}
