import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import type { Socket } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { SignedInAsker } from './asker';
import { demoRegister, serve } from './largeRegister';
import { ms, say } from './measure';

/** People who go on with their work while something heavy is asked for. */
const OTHERS = 4;
const WHILE_MS = 15_000;
const STREAMS = 2_000;
const SLOW = 200;
const PHOTOS = 12;

/**
 * How long others wait while one pilot asks for all that is heavy, while two thousand pages listen, while clients send and read at a crawl; and what
 * memory twelve pictures of sixty megapixels take.
 */
export async function benchHeavy(url: string): Promise<void> {
  const server = await serve(await demoRegister(url, 'malle_bench_heavy'));
  const pid = server.process.pid!;
  try {
    const others = await SignedInAsker.at(server.url);
    const pilot = await SignedInAsker.at(server.url, 'pilot');
    const packs = (await others.json('/packs')) as readonly { readonly id: string }[];
    const ids = packs.map(({ id }) => id);
    const meanwhile = (what: string, work?: () => Promise<unknown>) => othersWait(what, others, ids, work);

    await meanwhile('Others, with nothing else asked');
    const sheet = `/labels.pdf?sheet=a4-21&ids=${Array.from({ length: 40 }, () => ids.join(','))
      .join(',')
      .slice(0, 7_000)}`;
    await meanwhile('… while one asks for label sheets, eight at a time (wanted 100 ms)', () =>
      eight(pilot, sheet),
    );
    const histories = `/histories?ids=${ids.slice(0, 60).join(',')}`;
    await meanwhile('… for every pack’s records, eight at a time (wanted 100 ms)', () =>
      eight(pilot, histories),
    );
    const season = `from=${Date.now() - 365 * 86_400_000}&to=${Date.now()}`;
    await meanwhile('… for a year’s report as PDF, eight at a time (wanted 100 ms)', () =>
      eight(others, `/reports.pdf?${season}`),
    );
    await meanwhile('… for the whole archive, one after the other (wanted 100 ms)', () =>
      others.get('/archive'),
    );
    await meanwhile('… to look through all evidence (wanted 100 ms)', () =>
      others.send('POST', '/evidence/verification', { checkpoint: null }),
    );

    say('The server’s memory at most so far', peakOf(pid));
    const picture = await sharp({ create: { width: 9_000, height: 6_666, channels: 3, background: 'teal' } })
      .jpeg({ quality: 60 })
      .toBuffer();
    await meanwhile(`… for ${PHOTOS} pictures of 60 megapixels at once (wanted 100 ms)`, () =>
      Promise.all(
        Array.from({ length: PHOTOS }, (_, i) =>
          // Of one person eight at most wait.
          (i < 8 ? others : pilot).send('PUT', `/photos/${newId()}`, picture),
        ),
      ),
    );
    say('The server’s memory at most so far', peakOf(pid));

    const slow = Array.from({ length: SLOW }, () => crawler(server.url));
    await meanwhile(`… while ${SLOW} clients send a byte a second (wanted 100 ms)`);
    slow.forEach((socket) => socket.destroy());

    const streams = await Promise.all(Array.from({ length: STREAMS }, () => others.open('/live')));
    let heard = 0;
    for (const stream of streams)
      stream.on('data', (part: Buffer) => (heard += part.includes('about') ? 1 : 0));
    heard = 0;
    const began = performance.now();
    await others.append(ids[0]!);
    while (heard < STREAMS && performance.now() - began < 20_000) await pause(5);
    say(
      `One record to ${STREAMS} streams`,
      `${heard} heard it`,
      `the last after ${ms(performance.now() - began)}`,
    );
    await meanwhile(`… while ${STREAMS} pages listen (wanted 100 ms)`);
    say('The server’s memory at most', peakOf(pid));
    streams.forEach((stream) => stream.destroy());
  } finally {
    server.process.kill('SIGKILL');
  }
}

/** Reads and writes of people who have nothing to do with what is heavy: told are the waits of 99 and of 50 in a hundred. */
async function othersWait(
  what: string,
  asker: SignedInAsker,
  ids: readonly string[],
  work?: () => Promise<unknown>,
): Promise<void> {
  const waits: number[] = [];
  let over = false;
  let done = 0;
  const heavy = async () => {
    while (!over && work) {
      await work();
      done += 1;
    }
  };
  const other = async (own: number) => {
    for (let i = 0; !over; i++) {
      const id = ids[(own * 13 + i * 7) % ids.length]!;
      const began = performance.now();
      if (i % 5 === 4) await asker.append(id);
      else await asker.get(['/today', '/packs', `/packs/${id}`, '/register'][i % 4]!);
      waits.push(performance.now() - began);
      await pause(20);
    }
  };
  const all = [heavy(), ...Array.from({ length: OTHERS }, (_, own) => other(own))];
  await pause(WHILE_MS);
  over = true;
  await Promise.all(all);
  waits.sort((a, b) => a - b);
  const at = (share: number) => ms(waits[Math.floor(waits.length * share)]!);
  say(
    what,
    `99 of 100 within ${at(0.99)}`,
    `half within ${at(0.5)}`,
    ...(work ? [`${done} done meanwhile`] : []),
  );
}

const eight = (asker: SignedInAsker, path: string) =>
  Promise.all(Array.from({ length: 8 }, () => asker.get(path)));

/** A client that never gets to the end of its request. */
function crawler(url: string): Socket {
  const { port, hostname } = new URL(url);
  const socket = connect(Number(port), hostname);
  socket.on('error', () => undefined);
  socket.write(
    'POST /api/session HTTP/1.1\r\nhost: x\r\ncontent-type: application/json\r\ncontent-length: 1000\r\n\r\n{',
  );
  const timer = setInterval(() => socket.write(' '), 1_000);
  socket.once('close', () => clearInterval(timer));
  return socket;
}

function peakOf(pid: number): string {
  const kB = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1];
  return `${Math.round(Number(kB) / 1_024)} MB`;
}
