import { SignedInAsker } from './asker';
import { largeRegister, serve } from './largeRegister';
import { cpuMs, median, ms, say } from './measure';

const BROWSERS = 50;
const ROUNDS = 7;

/**
 * What one change costs where fifty browsers show Today: each has an event stream of its own and asks for what a page asks for when it
 * hears of a change. Told are the time until all of them are fresh, the server's own work, and the bytes sent; then the same with a
 * browser among them that has stopped reading.
 */
export async function benchBrowsers(url: string): Promise<void> {
  const server = await serve(await largeRegister(url));
  try {
    const asker = await SignedInAsker.at(server.url);
    const rows = (await asker.json('/packs')) as { id: string }[];
    const browsers = Array.from({ length: BROWSERS }, () => new Browser(asker));
    await Promise.all(browsers.map((browser) => browser.opens()));
    await Promise.all(browsers.map((browser) => browser.listens()));
    const measured = async (what: string, change: (round: number) => Promise<void>, messages: RegExp) => {
      const times: number[] = [];
      const work: number[] = [];
      const bytes: number[] = [];
      for (let round = 0; round < ROUNDS; round++) {
        await new Promise((rested) => setTimeout(rested, 1_500));
        const [cpu, sent] = [cpuMs(server.process.pid!), asker.bytes];
        const fresh = Promise.all(browsers.map((browser) => browser.freshAfter(messages)));
        const began = performance.now();
        await change(round);
        await fresh;
        times.push(performance.now() - began);
        work.push(cpuMs(server.process.pid!) - cpu);
        bytes.push(asker.bytes - sent);
      }
      say(
        what,
        `all fresh after ${ms(median(times))}`,
        `server ${ms(median(work))}`,
        `${(median(bytes) / 1_000).toFixed(0)} kB`,
      );
    };
    const append = (round: number) => asker.append(rows[round * 17]!.id);
    await measured('One record, 50 browsers on Today (wanted 1 s, 100 ms, 50 kB)', append, /"about":"pack"/);
    await measured(
      'One edit of a type, 50 browsers (wanted 1 s, 200 ms, 500 kB)',
      () => asker.editType(),
      /"about":"register"/,
    );
    const deaf = new Browser(asker);
    await deaf.listens({ reads: false });
    await measured('One record, one of 51 does not read', append, /"about":"pack"/);
  } finally {
    server.process.kill('SIGKILL');
  }
}

/** What a process has computed so far, in all its threads. */
/** One page that shows Today: what it hears it gathers for as long as a page does, then asks. */
class Browser {
  #heard: (message: string) => void = () => undefined;
  readonly #known = new Map<string, string>();

  constructor(readonly asker: SignedInAsker) {}

  /** What a page asks for when it opens, and again when all of it may have changed. */
  async opens(): Promise<void> {
    await Promise.all(['/session', '/packs', '/register', '/today'].map((path) => this.#asks(path)));
  }

  async #asks(path: string): Promise<void> {
    const tag = await this.asker.get(path, this.#known.get(path));
    if (tag) this.#known.set(path, tag);
  }

  async listens({ reads = true } = {}): Promise<void> {
    const stream = await this.asker.open('/live');
    if (!reads) {
      stream.pause();
      return;
    }
    let text = '';
    stream.on('data', (part: Buffer) => {
      this.asker.bytes += part.length;
      text += part.toString();
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        this.#heard(text.slice(0, end));
        text = text.slice(end + 2);
      }
    });
  }

  async freshAfter(wanted: RegExp): Promise<void> {
    const message = await new Promise<string>((heard) => {
      this.#heard = (one) => {
        if (wanted.test(one)) heard(one);
      };
    });
    if (!message.includes('"about":"pack"')) return this.opens();
    // The pack's row came along.
    await new Promise((gathered) => setTimeout(gathered, 120));
    await this.#asks('/today');
  }
}
