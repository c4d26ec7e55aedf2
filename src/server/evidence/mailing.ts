import { DAY_MS, HOUR_MS, MINUTE_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import type { Entities } from '../platform/database';
import { NotSent } from '../platform/mail';
import type { Mail } from '../platform/mail';
import { readSetting, writeSetting } from '../platform/settings';
import type { Checkpoint } from './checkpoints';
import { checkpointText } from './statement';

/** How checkpoints go out by mail, as the register remembers it. */
export interface Mailed {
  /** When a letter was last tried. */
  readonly triedAt: Instant;
  /** The newest checkpoint that went out, and when. */
  readonly number: number | null;
  readonly at: Instant | null;
  /** What was wrong with the last try, in words; null where nothing was. */
  readonly problem: string | null;
}

const NEVER: Mailed = { triedAt: 0, number: null, at: null, problem: null };
/** One letter a day. A little less, since whoever looks comes by every hour and never quite on time. */
const EVERY_MS = DAY_MS - 10 * MINUTE_MS;
const AGAIN_MS = HOUR_MS - 10 * MINUTE_MS;

/** What the register remembers of its letters; null where none was ever tried. */
export async function mailed(em: Entities): Promise<Mailed | null> {
  return (await readSetting<Mailed>(em, 'mailed')) ?? null;
}

/**
 * Sends the newest checkpoint to everybody who keeps them, unless it went out already or another did within a day; after a letter that did not
 * go out, again within the hour. Of several processes one sends. Of a process that is killed meanwhile the letter may go out twice.
 * @throws NotSent when the letter went to nobody, after it was written down
 */
export async function mailCheckpoint(
  em: Entities,
  mail: Mail,
  made: Checkpoint,
  now: Instant,
): Promise<void> {
  const before = await claim(em, made, now);
  if (!before) return;
  const tell = (news: Partial<Mailed>) =>
    writeSetting(em, 'mailed', { ...before, triedAt: now, problem: null, ...news });
  try {
    const refused = await mail.send(letterOf(made));
    await tell({
      number: made.number,
      at: now,
      problem:
        refused.length > 0
          ? `The mail server did not take ${refused.join(', ')}. The others have checkpoint ${made.number}.`
          : null,
    });
  } catch (error) {
    if (error instanceof NotSent)
      await tell({ problem: `${error.message} Checkpoint ${made.number} is tried again within the hour.` });
    throw error;
  }
}

/** Takes the turn to send, if a letter is due. @returns what was remembered before; null where none is due, or another process took the turn */
async function claim(em: Entities, made: Checkpoint, now: Instant): Promise<Mailed | null> {
  return em.transactional(async (tx) => {
    await tx.execute(
      `insert into setting (key, value) values ('mailed', ?::jsonb) on conflict (key) do nothing`,
      [JSON.stringify(NEVER)],
    );
    const [{ value: before }]: [{ value: Mailed }] = await tx.execute(
      `select value from setting where key = 'mailed' for update`,
    );
    // A clock that was set back counts as time that passed.
    const isDue =
      (before.number === null || before.number < made.number) &&
      (before.at === null || Math.abs(now - before.at) >= EVERY_MS) &&
      Math.abs(now - before.triedAt) >= AGAIN_MS;
    if (!isDue) return null;
    await writeSetting(tx, 'mailed', { ...before, triedAt: now });
    return before;
  });
}

function letterOf(made: Checkpoint) {
  const text = checkpointText(made);
  return {
    subject: `Checkpoint ${made.number} of the battery register`,
    text: `Please keep this letter. With the text below, which is also the file that comes with it, anybody can show later
whether the battery register is still what it was on ${new Date(made.at).toISOString().slice(0, 10)}: under Settings, Evidence, or with the command
"npm run ledger verify". It tells nothing about packs or people. Nobody reads answers to this letter.

${text}`,
    attachment: { name: `checkpoint-${made.number}.txt`, text },
  };
}
