import type { PackRow, PlaceAnswer } from '../../contract';
import type { Instant, PlaceId } from '../../core/measure';
import { belongs } from '../../core/rounds';
import type { RoundKind } from '../../core/rounds';
import { ROUND_WORDS } from '../../core/wording';

/** Where packs are gathered from: wherever they are, or everything that lies in one box. */
export type From = 'anywhere' | PlaceId;

/**
 * The packs a round begins with, in the order hands find them: place by place, then by tag. From a box everything that
 * lies in it is taken, since that is what will be in the hand; so that what is missing from it is noticed.
 */
export function gathered(
  kind: RoundKind,
  from: From,
  packs: readonly PackRow[],
  places: readonly Pick<PlaceAnswer, 'id' | 'name'>[],
  now: Instant,
): readonly PackRow[] {
  const names = new Map(places.map(({ id, name }) => [id, name]));
  const placeOf = ({ placeId }: PackRow) => (placeId && names.get(placeId)) ?? '';
  const taken = packs.filter((pack) =>
    from === 'anywhere' ? belongs(kind, pack, now) : pack.placeId === from && pack.holderId === null,
  );
  return [...taken].sort(
    (a, b) =>
      order.compare(placeOf(a), placeOf(b)) || (a.slot ?? 0) - (b.slot ?? 0) || order.compare(a.tag, b.tag),
  );
}

const order = new Intl.Collator('en', { numeric: true });

/** "Put-away after flying, Wed 25 Nov": what a round is called unless somebody says otherwise. */
export function roundTitle(kind: RoundKind, now: Instant, zone: string): string {
  const day = new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: zone,
  });
  return `${ROUND_WORDS[kind].name}, ${day.format(now)}`;
}
