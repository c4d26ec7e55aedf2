import { v7 as newId } from 'uuid';
import type { z } from 'zod';
import type { CraftAnswer, craftChange, craftForm } from '../../contract';
import type { Actor } from '../../core/lifecycle';
import type { CraftId, Instant } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused, isUniqueViolation, refusedField } from '../platform/problems';
import { Craft } from './entities';

type CraftForm = z.output<typeof craftForm>;

/** Every craft with what was done to it, by name; one that is sold stays, since flights name it. */
export async function craftAnswers(em: Entities): Promise<CraftAnswer[]> {
  return em.execute(
    `select c.id, c.version, c.name, c.in_use as "inUse", c.facts,
            coalesce((select json_agg(json_build_object('at', ${asInstant('h.at')}, 'by', h.by, 'what', h.what,
                                      'newBaseline', h.new_baseline) order by h.at, h.seq)
                        from craft_change h where h.craft_id = c.id), '[]') as changes
       from craft c order by c.name`,
  );
}

export async function addCraft(em: Entities, form: CraftForm): Promise<CraftAnswer> {
  const craft = em.create(Craft, { ...form, id: newId() as CraftId, version: 1 });
  await storeCraft(em);
  return craftAnswer(em, craft.id);
}

export async function changeCraft(
  em: Entities,
  id: CraftId,
  { version, ...form }: CraftForm & { version: number },
): Promise<CraftAnswer> {
  const craft = await em.findOne(Craft, { id });
  if (!craft) throw new Refused('not-found');
  if (craft.version !== version) throw new Refused('changed-meanwhile');
  em.assign(craft, form);
  await storeCraft(em);
  return craftAnswer(em, id);
}

/** Writes down what was done to a craft; a new baseline counts from when it was done. */
export async function addChange(
  em: Entities,
  id: CraftId,
  { at, what, newBaseline }: z.output<typeof craftChange>,
  person: Actor,
  now: Instant,
): Promise<CraftAnswer> {
  if (at > now) throw refusedField('at', 'This lies ahead. Write it down once it is done.');
  await em.transactional(async (tx) => {
    const [craft]: { id: string }[] = await tx.execute('select id from craft where id = ? for update', [id]);
    if (!craft) throw new Refused('not-found');
    await tx.execute(
      `insert into craft_change (craft_id, seq, at, recorded_at, by, what, new_baseline)
       select ?, coalesce(max(seq), 0) + 1, ?, ?, ?, ?, ? from craft_change where craft_id = ?`,
      [id, timestamp(at), timestamp(now), person.id, what, newBaseline, id],
    );
    await announce(tx, { about: 'register' });
  });
  return craftAnswer(em, id);
}

async function craftAnswer(em: Entities, id: CraftId): Promise<CraftAnswer> {
  const craft = (await craftAnswers(em)).find((one) => one.id === id);
  if (!craft) throw new Refused('not-found');
  return craft;
}

async function storeCraft(em: Entities): Promise<void> {
  try {
    await em.flush();
  } catch (error) {
    if (isUniqueViolation(error)) throw refusedField('name', 'There is a craft of this name already.');
    throw error;
  }
  await announce(em, { about: 'register' });
}
