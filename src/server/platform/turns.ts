import PQueue from 'p-queue';
import type { PersonId } from '../../core/measure';
import { Refused } from './problems';

/** So much may one person have waiting; more is refused, so that nobody's orders fill the memory. */
const MOST_WAITING = 8;

const STILL_AT_IT =
  'The server is still at work on what you asked for before. Wait until that is there, then ask again.';

/** Lets each person have one thing done at a time, in the order they asked. */
export class Turns {
  readonly #queues = new Map<PersonId, PQueue>();

  /** Throws `Refused` when this person has too much waiting, and the signal's reason when it was given up. */
  async take<Answer>(personId: PersonId, signal: AbortSignal, work: () => Promise<Answer>): Promise<Answer> {
    const queue = this.#queues.get(personId) ?? new PQueue({ concurrency: 1 });
    this.#queues.set(personId, queue);
    if (queue.size >= MOST_WAITING) throw new Refused('busy', { detail: STILL_AT_IT });
    try {
      return await queue.add(work, { signal });
    } finally {
      if (queue.size === 0 && queue.pending === 0) this.#queues.delete(personId);
    }
  }

  /** How much is under way or waits. */
  count(): number {
    return [...this.#queues.values()].reduce((sum, { size, pending }) => sum + size + pending, 0);
  }
}
