import { IsolationLevel } from './orm';
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { deltaOf } from '../../contract';
import type { Json } from '../../contract';
import type { Instant } from '../../core/measure';
import type { Clock } from './clock';
import type { Entities } from './database';
import { JsonText } from './jsonText';

export const ENCODINGS = ['br', 'gzip'] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** JSON as it is sent to many. */
export interface SharedJson {
  readonly json: Buffer;
  /** Packed once for each way of packing that somebody asks for. */
  readonly packed: (how: Encoding) => Promise<Buffer>;
}

/** An answer as it is sent to everybody who asks the same while nothing has changed. */
export interface SharedAnswer extends SharedJson {
  /** Names what the answer says: equal where two answers are. */
  readonly tag: string;
  /** What makes this answer of the earlier one with that tag; null where that one is not at hand, or the whole answer is not longer. */
  readonly since: (tag: string) => SharedJson | null;
}

/** Until when time alone leaves an answer of this moment as it is. */
export type Lasts = (em: Entities, now: Instant) => Instant | Promise<Instant>;

/** For an answer that no clock is asked for. */
export const always: Lasts = () => Infinity;
/** For one that counts hours: nobody is told what is more than a second old. */
export const aSecond: Lasts = (_em, now) => now + 1_000;

interface Work {
  readonly clock: Pick<Clock, 'now'>;
  readonly answer: (em: Entities, now: Instant) => Promise<unknown>;
  readonly lasts: Lasts;
  /** What can be seen in the database, where whoever asks has looked that up since the question came; else it is looked up here. */
  readonly seen?: string | null;
}

interface Kept extends SharedAnswer {
  /** What was answered to the same question before, the newest first. */
  readonly earlier: readonly Earlier[];
  /** The database's own name for what could be seen when the answer was worked out. */
  readonly snapshot: string;
  readonly from: Instant;
  readonly until: Instant;
}

interface Earlier {
  readonly tag: string;
  readonly json: Buffer;
}

/** What is being worked out for one question, and for those who have asked since it was begun what comes after it. */
interface UnderWay {
  /** What could be seen when it was begun; null until that is known of one that was begun for several. */
  snapshot: string | null;
  readonly from: Instant;
  readonly made: Promise<Kept>;
  next: Promise<Kept> | null;
}

const MOST_BYTES = 32 * 1024 * 1024;
/** Browsers that ask at different times know different answers. */
const MOST_EARLIER = 8;
const MOST_EARLIER_BYTES = 6 * 1024 * 1024;
/** Brotli at this level packs as fast as gzip, and smaller; the answer waits for it once. */
const BROTLI_LEVEL = 5;
/** Two who ask within this time are told the same, even while it is being worked out. */
const TOGETHER_MS = 1_000;

/**
 * Answers kept in this process. One is told again only while the database's snapshot is the very one it was worked out in: any commit,
 * by whatever process, makes another snapshot, so there is nothing to invalidate and nothing to forget. Fifty browsers that ask at
 * once after a change wait for one answer, and while the register keeps changing no question is worked out twice at a time. The
 * least recently wanted go first when there are too many.
 */
export class SharedAnswers {
  readonly #kept = new Map<string, Kept>();
  readonly #underWay = new Map<string, UnderWay>();
  #bytes = 0;

  /** @param seen names what can be seen in the database; tests of what is kept hold it still, since a cluster's other databases move it */
  constructor(private readonly seen = snapshotOf) {}

  async answerTo(question: string, em: Entities, work: Work): Promise<SharedAnswer> {
    const snapshot = work.seen ?? (await this.seen(em));
    const now = work.clock.now();
    const kept = this.#kept.get(question);
    if (kept?.snapshot === snapshot && kept.from <= now && now < kept.until) {
      this.#keep(question, kept);
      return kept;
    }
    const begun = this.#underWay.get(question);
    if (!begun) return this.#begin(question, snapshot, em, work);
    // What was begun for somebody who saw the same register is as new as what would be begun now.
    if (begun.snapshot === snapshot && Math.abs(now - begun.from) < TOGETHER_MS) return begun.made;
    // Whoever asks in between waits for the one after it, which sees all that they could have seen.
    begun.next ??= begun.made.then(
      () => this.#begin(question, null, em, work),
      () => this.#begin(question, null, em, work),
    );
    return begun.next;
  }

  #begin(question: string, snapshot: string | null, em: Entities, work: Work): Promise<Kept> {
    const from = work.clock.now();
    const made = this.#make(question, em, from, work);
    const underWay: UnderWay = { snapshot, from, made, next: null };
    this.#underWay.set(question, underWay);
    const over = () => {
      if (this.#underWay.get(question) === underWay && !underWay.next) this.#underWay.delete(question);
    };
    made.then(over, over);
    return made;
  }

  async #make(question: string, em: Entities, from: Instant, { answer, lasts }: Work): Promise<Kept> {
    const kept = await em.transactional(
      async (tx) => {
        const snapshot = await this.seen(tx);
        const underWay = this.#underWay.get(question);
        if (underWay?.snapshot === null) underWay.snapshot = snapshot;
        const made = await answer(tx, from);
        const json = Buffer.from(made instanceof JsonText ? made.text : JSON.stringify(made));
        const until = await lasts(tx, from);
        return { ...saying(json, this.#kept.get(question)), snapshot, from, until };
      },
      { isolationLevel: IsolationLevel.REPEATABLE_READ, readOnly: true },
    );
    this.#keep(question, kept);
    return kept;
  }

  #keep(question: string, kept: Kept): void {
    this.#forget(question);
    // Last in the map is what was wanted last.
    this.#kept.set(question, kept);
    this.#bytes += sizeOf(kept);
    for (const oldest of this.#kept.keys()) {
      if (this.#bytes <= MOST_BYTES) return;
      this.#forget(oldest);
    }
  }

  #forget(question: string): void {
    const kept = this.#kept.get(question);
    if (!kept) return;
    this.#kept.delete(question);
    this.#bytes -= sizeOf(kept);
  }
}

/** JSON packs to a fifth or less, so this is what an answer takes with all its packings. */
function sizeOf({ json, earlier }: Kept): number {
  return 1.5 * json.length + sum(earlier);
}

function sum(answers: readonly Earlier[]): number {
  return answers.reduce((bytes, { json }) => bytes + json.length, 0);
}

/** An answer that says this, after what was answered before; the same answer where it says the same. */
function saying(json: Buffer, before: Kept | undefined): SharedAnswer & Pick<Kept, 'earlier'> {
  const tag = createHash('sha256').update(json).digest('base64url');
  if (before?.tag === tag) return before;
  const earlier: Earlier[] = [];
  for (const one of before ? [before, ...before.earlier] : []) {
    if (one.tag === tag || earlier.length === MOST_EARLIER) continue;
    if (sum(earlier) + one.json.length > MOST_EARLIER_BYTES) break;
    earlier.push({ tag: one.tag, json: one.json });
  }
  const made = new Map<string, SharedJson | null>();
  const since = (known: string) => {
    const older = earlier.find((one) => one.tag === known);
    if (!older) return null;
    const told = made.has(known) ? (made.get(known) ?? null) : deltaSince(older.json, json);
    made.set(known, told);
    return told;
  };
  return { tag, json, packed: packing(json), earlier, since };
}

function deltaSince(older: Buffer, newer: Buffer): SharedJson | null {
  const [before, after] = [older, newer].map((json) => JSON.parse(json.toString()) as Json);
  const delta = deltaOf(before!, after!);
  if (!delta) return null;
  const json = Buffer.from(JSON.stringify(delta));
  return json.length < newer.length ? { json, packed: packing(json) } : null;
}

function packing(json: Buffer): SharedJson['packed'] {
  const made = new Map<Encoding, Promise<Buffer>>();
  return (how) => {
    const known = made.get(how) ?? pack(json, how);
    made.set(how, known);
    return known;
  };
}

const brotli = promisify(brotliCompress);
const zipped = promisify(gzip);

function pack(json: Buffer, how: Encoding): Promise<Buffer> {
  if (how === 'gzip') return zipped(json);
  return brotli(json, { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_LEVEL } });
}

/** Equal exactly when the same transactions have been committed: what is visible is then the same, row for row. */
async function snapshotOf(em: Entities): Promise<string> {
  const [row]: { snapshot: string }[] = await em.execute('select pg_current_snapshot()::text as snapshot');
  return row!.snapshot;
}
