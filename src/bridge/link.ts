import { randomUUID } from 'node:crypto';
import { WebSocket } from 'ws';
import { PROTOCOL_VERSION } from '../contract';
import type { DeviceAnswerLine, DeviceCan } from '../contract';

export interface LinkOptions {
  /** The register's door, as in ws://localhost:4180/api/instruments. */
  readonly url: string;
  readonly key: string;
  readonly software: string;
  readonly can?: readonly DeviceCan[];
  /** Whatever the register answers. */
  readonly onAnswer?: (line: DeviceAnswerLine) => void;
  /** Whether the link is there, in words for whoever watches the bridge. */
  readonly onState?: (words: string) => void;
}

/** Lines that wait for the register at most; of a longer gap the oldest are lost, and the newest matter. */
const MOST_WAITING = 2_000;
const AGAIN_MS = 1_000;
const AGAIN_AT_MOST_MS = 15_000;
/** Lines sent again after a gap come no faster than the register takes them. */
const A_SECOND = 15;

/**
 * A device's side of the door: says hello, numbers its lines, keeps each until the register has taken it, and comes again after a gap. It
 * stays away for good once the register says `end`.
 */
export class Link {
  readonly #run = randomUUID();
  #socket: WebSocket | null = null;
  #n = 0;
  #waiting: { readonly n: number; readonly line: object }[] = [];
  #sent = 0;
  #welcome = false;
  #closed = false;
  #tries = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #pump: ReturnType<typeof setInterval>;

  constructor(private readonly options: LinkOptions) {
    this.#pump = setInterval(() => this.#send(A_SECOND / 10), 100);
    this.#connect();
  }

  /** Sends a line, now or once the register is there. */
  say(line: object): void {
    this.#n += 1;
    this.#waiting.push({ n: this.#n, line });
    if (this.#waiting.length > MOST_WAITING) this.#waiting.shift();
    if (this.#waiting.length < 3) this.#send(1);
  }

  /** Sends something as it is, numbered or not; for a device that talks rubbish. */
  raw(text: string): void {
    if (this.#welcome) this.#socket?.send(text);
  }

  /** Breaks the connection as a loose plug does; it comes again by itself. */
  drop(): void {
    this.#socket?.terminate();
  }

  close(): void {
    this.#closed = true;
    clearTimeout(this.#timer);
    clearInterval(this.#pump);
    this.#socket?.terminate();
  }

  #connect(): void {
    const { url, key, software, can, onAnswer, onState } = this.options;
    const socket = new WebSocket(url);
    this.#socket = socket;
    socket.on('open', () =>
      socket.send(
        JSON.stringify({
          type: 'hello',
          protocol: PROTOCOL_VERSION,
          key,
          run: this.#run,
          software,
          now: Date.now(),
          ...(can ? { can } : {}),
        }),
      ),
    );
    socket.on('message', (data) => {
      const line = JSON.parse((data as Buffer).toString('utf8')) as DeviceAnswerLine;
      if (line.type === 'welcome') {
        this.#tries = 0;
        this.#welcome = true;
        this.#forget(line.taken);
        this.#sent = 0;
        onState?.(`Connected as ${line.name}.`);
      } else if (line.type === 'taken') this.#forget(line.n);
      else if (line.type === 'refused' && line.n !== null) this.#drop(line.n);
      else if (line.type === 'end') {
        this.#closed = true;
        clearInterval(this.#pump);
        onState?.(line.message);
      }
      onAnswer?.(line);
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      this.#welcome = false;
      if (this.#closed) return;
      this.#tries += 1;
      const wait = Math.min(AGAIN_AT_MOST_MS, AGAIN_MS * 2 ** (this.#tries - 1));
      onState?.(`No connection to the register. Trying again in ${Math.round(wait / 1000)} s.`);
      this.#timer = setTimeout(() => this.#connect(), wait);
    });
  }

  #forget(n: number): void {
    const gone = this.#waiting.filter((one) => one.n <= n).length;
    this.#waiting = this.#waiting.slice(gone);
    this.#sent = Math.max(0, this.#sent - gone);
  }

  /** A refused line would be refused again. */
  #drop(n: number): void {
    const at = this.#waiting.findIndex((one) => one.n === n);
    if (at === -1) return;
    this.#waiting.splice(at, 1);
    if (at < this.#sent) this.#sent -= 1;
  }

  #send(most: number): void {
    if (!this.#welcome || this.#socket?.readyState !== WebSocket.OPEN) return;
    for (let i = 0; i < most && this.#sent < this.#waiting.length; i += 1) {
      const { n, line } = this.#waiting[this.#sent]!;
      this.#socket.send(JSON.stringify({ n, ...line }));
      this.#sent += 1;
    }
  }
}
