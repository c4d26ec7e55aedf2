import { createHash } from 'node:crypto';
import type { Instant, PersonId, PhotoId } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { heavyTask } from '../platform/heavy';
import type { Heavily } from '../platform/heavy';
import { Refused } from '../platform/problems';

/** The longest side of a kept photo: enough to see a hairline crack, small enough for a season of them. */
const LONGEST_PX = 1_600;
const THUMBNAIL_PX = 240;
const FORMATS = new Set(['jpeg', 'png', 'webp']);
/** A picture file can unfold to far more than it weighs. */
const MOST_PIXELS = 60_000_000;

/**
 * Keeps a photo: turned upright, made smaller, written anew without anything that came along in the file, its place
 * among the rest. Sending it again under its id is harmless; the same id with another picture is refused.
 */
export async function keepPhoto(
  em: Entities,
  id: PhotoId,
  sent: Buffer,
  by: PersonId,
  now: Instant,
  heavily: Heavily,
): Promise<void> {
  const hash = createHash('sha256').update(sent).digest('hex');
  const [known]: { sent_hash: string }[] = await em.execute('select sent_hash from photo where id = ?', [id]);
  if (known) {
    if (known.sent_hash !== hash) throw new Refused('id-taken');
    return;
  }
  const drawn = await heavily(REDRAW, sent);
  if (!drawn) throw new Refused('no-photo', { detail: WANTED });
  const { jpeg, thumbnail, width, height } = drawn;
  await em.execute(
    `insert into photo (id, by, at, sent_hash, width, height, jpeg, thumbnail) values (?, ?, ?, ?, ?, ?, ?, ?)
     on conflict (id) do nothing`,
    [id, by, timestamp(now), hash, width, height, Buffer.from(jpeg), Buffer.from(thumbnail)],
  );
}

interface Redrawn {
  readonly jpeg: Uint8Array;
  readonly thumbnail: Uint8Array;
  readonly width: number;
  readonly height: number;
}

export const REDRAW = heavyTask<Uint8Array, Redrawn | null>('redraw');

/** The picture as it is kept; null when what came is none. */
export async function redrawn(sent: Uint8Array): Promise<Redrawn | null> {
  // Loaded with the first photo: a server that gets none need not hold it.
  const { default: sharp } = await import('sharp');
  try {
    const image = sharp(sent, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format } = await image.metadata();
    if (!FORMATS.has(format)) return null;
    const { data, info } = await image
      .rotate()
      .resize({ width: LONGEST_PX, height: LONGEST_PX, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 80 })
      .toBuffer({ resolveWithObject: true });
    const thumbnail = await sharp(data)
      .resize({ width: THUMBNAIL_PX, height: THUMBNAIL_PX, fit: 'cover' })
      .jpeg({ quality: 70 })
      .toBuffer();
    return { jpeg: data, thumbnail, width: info.width, height: info.height };
  } catch {
    // Whatever the library stumbled over, it was in the file.
    return null;
  }
}

const WANTED = 'Send a JPEG, PNG or WebP picture.';

/** The picture as kept, or its thumbnail; null for an unknown id. */
export async function photoBytes(
  em: Entities,
  id: PhotoId,
  size: 'jpeg' | 'thumbnail',
): Promise<Buffer | null> {
  const [row]: { bytes: Buffer }[] = await em.execute(`select ${size} as bytes from photo where id = ?`, [
    id,
  ]);
  return row?.bytes ?? null;
}
