import type { Instant, PackId } from '../../core/measure';
import { tagKey } from '../../core/pack';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { refusedField } from '../platform/problems';

/**
 * Gives a pack a tag. A tag that is or ever was another pack's is refused, so that an old label never leads to the
 * wrong pack; a pack may take one of its own former tags again.
 */
export async function giveTag(em: Entities, packId: PackId, tag: string, now: Instant): Promise<void> {
  await refusePlaceCode(em, tag);
  const key = tagKey(tag);
  await em.execute('update pack_tag set until = ? where pack_id = ? and until is null and key <> ?', [
    timestamp(now),
    packId,
    key,
  ]);
  const taken: { pack_id: string }[] = await em.execute(
    `insert into pack_tag (key, tag, pack_id, since) values (?, ?, ?, ?)
     on conflict (key) do update set tag = excluded.tag, until = null where pack_tag.pack_id = excluded.pack_id
     returning pack_id`,
    [key, tag, packId, timestamp(now)],
  );
  if (taken.length === 0) throw await tagTaken(em, key);
}

/** A scan must mean one thing: what is printed on a place is no pack's tag. */
async function refusePlaceCode(em: Entities, tag: string): Promise<void> {
  const [place]: { name: string }[] = await em.execute('select name from place where code_key = ?', [
    tagKey(tag),
  ]);
  if (place) throw refusedField('tag', `This is the code of a place: ${place.name}.`);
}

async function tagTaken(em: Entities, key: string) {
  const [owner]: { tag: string; until: unknown }[] = await em.execute(
    'select p.tag, t.until from pack_tag t join pack p on p.id = t.pack_id where t.key = ?',
    [key],
  );
  return refusedField(
    'tag',
    owner?.until
      ? `This was once the tag of ${owner.tag}. Choose another.`
      : `${owner?.tag ?? 'Another pack'} has this tag already.`,
  );
}

/** Refuses a tag that any pack of the register has or once had. */
export async function refuseTakenTag(em: Entities, tag: string): Promise<void> {
  await refusePlaceCode(em, tag);
  if (await packIdByTag(em, tag)) throw await tagTaken(em, tagKey(tag));
}

/** The pack that a tag, current or former, in any writing, belongs to. */
export async function packIdByTag(em: Entities, tag: string): Promise<PackId | null> {
  const [row]: { pack_id: PackId }[] = await em.execute('select pack_id from pack_tag where key = ?', [
    tagKey(tag),
  ]);
  return row?.pack_id ?? null;
}

/** The tags that packs had before the present one, newest first. */
export async function formerTags(
  em: Entities,
  ids: readonly PackId[],
): Promise<ReadonlyMap<PackId, readonly string[]>> {
  const rows: { pack_id: PackId; tags: string[] }[] = await em.execute(
    `select pack_id, array_agg(tag order by until desc) as tags from pack_tag
      where pack_id = any(?::uuid[]) and until is not null group by pack_id`,
    [`{${ids.join(',')}}`],
  );
  return new Map(rows.map(({ pack_id: packId, tags }) => [packId, tags]));
}
