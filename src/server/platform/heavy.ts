import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import type { MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { PersonId } from '../../core/measure';
import { Turns } from './turns';

/** Something a worker can do, by its name: what goes in and what comes out is copied between threads. */
export interface HeavyTask<In, Out> {
  readonly name: string;
  /** Never there; it carries the types. */
  readonly types?: (input: In) => Out;
}

export function heavyTask<In, Out>(name: string): HeavyTask<In, Out> {
  return { name };
}

/** What a worker is handed. */
export interface HeavyOrder {
  readonly task: string;
  readonly input: unknown;
  /** Where it tells how far it is. */
  readonly port: MessagePort | null;
}

/** Tells how far a task is. */
export type Told = (done: number, of: number) => void;

/** For whom something is done, until when they wait for it, and how they hear how far it is. */
export interface HeavyFor {
  readonly personId: PersonId;
  readonly signal: AbortSignal;
  readonly told: Told | undefined;
}

/** Has something done for whoever asks, while they wait for it. */
export type Heavily = <In, Out>(task: HeavyTask<In, Out>, input: In, told?: Told) => Promise<Out>;

/** A worker that rests so long is let go, with what it has loaded. */
const IDLE_MS = 30_000;
/** What one task may take: a season’s report of a large register takes a fifth of it. */
const MOST_MEMORY_MB = 512;
/** Most of what a task makes is forgotten at once: looked through in larger pieces, that costs a fifth less of the task. */
const YOUNG_MB = 96;

/**
 * Work that would keep everybody else waiting: printing, pictures, reports, judging many packs anew. Workers beside the server do it, one task at a time for each person, in the
 * order they asked; whoever goes away takes their order along.
 */
export class HeavyWork {
  #workers: Piscina | null = null;
  readonly #turns = new Turns();
  readonly #closing = new AbortController();

  /** Throws `Refused` when this person has too much waiting, and the signal's reason when it was given up. */
  do<In, Out>(task: HeavyTask<In, Out>, input: In, { personId, signal, told }: HeavyFor): Promise<Out> {
    return this.#turns.take(personId, signal, () => this.#run(task, input, signal, told));
  }

  /** The same for the register itself, in no person's turn; throws when the workers are closed meanwhile. */
  ownWork<In, Out>(task: HeavyTask<In, Out>, input: In): Promise<Out> {
    return this.#run(task, input, this.#closing.signal, undefined);
  }

  /** How many tasks people asked for are under way or wait. */
  tasks(): number {
    return this.#turns.count();
  }

  async #run<In, Out>(
    { name }: HeavyTask<In, Out>,
    input: In,
    signal: AbortSignal,
    told: Told | undefined,
  ): Promise<Out> {
    const channel = told ? new MessageChannel() : null;
    channel?.port1.on('message', ([done, of]: [number, number]) => told?.(done, of));
    const order: HeavyOrder = { task: name, input, port: channel?.port2 ?? null };
    try {
      const given = channel ? { signal, transferList: [channel.port2] } : { signal };
      return (await this.#opened().run(order, given)) as Out;
    } finally {
      channel?.port1.close();
    }
  }

  /** Started with the first task: many processes never have one. */
  #opened(): Piscina {
    this.#workers ??= new Piscina({
      ...workerFile(),
      minThreads: 0,
      // One at least stays free for the next person while the first one's report is made.
      maxThreads: Math.max(2, availableParallelism() - 1),
      idleTimeout: IDLE_MS,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB, maxYoungGenerationSizeMb: YOUNG_MB },
    });
    return this.#workers;
  }

  async close(): Promise<void> {
    this.#closing.abort();
    await this.#workers?.destroy();
  }
}

/** The worker as it was built, beside the program that runs; from source where that is what runs. */
function workerFile(): { filename: string; execArgv?: string[] } {
  const built = join(dirname(process.argv[1] ?? ''), 'heavyWorker.js');
  if (existsSync(built)) return { filename: built };
  const source = fileURLToPath(new URL('../heavyWorker.ts', import.meta.url));
  return { filename: source, execArgv: ['--import', 'tsx'] };
}
