import { v7 as newId } from 'uuid';
import type { z } from 'zod';
import type { FlyingDayAnswer, flyingDayForm } from '../../contract';
import { DAY_MS } from '../../core/measure';
import type { FlyingDayId, Instant } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused, refusedField } from '../platform/problems';

type DayForm = z.output<typeof flyingDayForm>;

export const DAY_COLUMNS = `id, version, ${asInstant('at')} as at, place, craft, wants, people as "personIds",
  hand_out as "handOut", cancelled`;

/** Flying days from today on: one that began a while ago still tells what its packs are out for. */
export function daysToCome(em: Entities, now: Instant): Promise<FlyingDayAnswer[]> {
  return em.execute(`select ${DAY_COLUMNS} from flying_day where at >= ? order by at, id`, [
    timestamp(now - DAY_MS / 2),
  ]);
}

export async function addDay(em: Entities, form: DayForm, now: Instant): Promise<FlyingDayAnswer> {
  await refuseUnfit(em, form, now);
  const { at, place, craft, wants, personIds, cancelled } = form;
  const [day]: FlyingDayAnswer[] = await em.execute(
    `insert into flying_day (id, at, place, craft, wants, people, cancelled) values (?, ?, ?, ?, ?, ?, ?)
     returning ${DAY_COLUMNS}`,
    [newId(), timestamp(at), place, craft, JSON.stringify(wants), JSON.stringify(personIds ?? []), cancelled],
  );
  await announce(em, { about: 'charging' });
  return day!;
}

/** Cancelling or moving a day restarts no clock: a pack's storage clock knows nothing of days. */
export async function changeDay(
  em: Entities,
  id: FlyingDayId,
  { version, ...form }: DayForm & { version: number },
  now: Instant,
): Promise<FlyingDayAnswer> {
  const [known]: { version: number; at: number }[] = await em.execute(
    `select version, ${asInstant('at')} as at from flying_day where id = ?`,
    [id],
  );
  if (!known) throw new Refused('not-found');
  // A day that is over may still be cancelled or described; only a new time must lie ahead.
  await refuseUnfit(em, form, known.at === form.at ? 0 : now);
  const { at, place, craft, wants, personIds, cancelled } = form;
  const [day]: FlyingDayAnswer[] = await em.execute(
    `update flying_day set at = ?, place = ?, craft = ?, wants = ?, people = coalesce(?::jsonb, people), cancelled = ?,
            version = version + 1
      where id = ? and version = ? returning ${DAY_COLUMNS}`,
    [
      timestamp(at),
      place,
      craft,
      JSON.stringify(wants),
      personIds ? JSON.stringify(personIds) : null,
      cancelled,
      id,
      version,
    ],
  );
  if (!day) throw new Refused('changed-meanwhile');
  await announce(em, { about: 'charging' });
  return day;
}

async function refuseUnfit(em: Entities, { at, wants, personIds }: DayForm, now: Instant): Promise<void> {
  if (at < now) throw refusedField('at', 'This time is over. A flying day lies ahead.');
  const noType = await firstUnknown(
    em,
    'pack_type',
    wants.map(({ typeId }) => typeId),
  );
  if (noType >= 0) throw refusedField(`wants.${noType}.typeId`, 'There is no such pack type.');
  const noCraft = await firstUnknown(
    em,
    'craft',
    wants.map(({ craftId }) => craftId ?? null),
  );
  if (noCraft >= 0) throw refusedField(`wants.${noCraft}.craftId`, 'There is no such craft.');
  const nobody = await firstUnknown(em, 'person', personIds ?? []);
  if (nobody >= 0) throw refusedField(`personIds.${nobody}`, 'There is no such person.');
}

/** The place of the first id that a table does not have, -1 where it has them all; nothing is no id. */
async function firstUnknown(
  em: Entities,
  table: 'pack_type' | 'craft' | 'person',
  ids: readonly (string | null)[],
): Promise<number> {
  const named = ids.filter((id) => id !== null);
  const known: { id: string }[] = await em.execute(`select id from ${table} where id = any(?::uuid[])`, [
    `{${named.join(',')}}`,
  ]);
  return ids.findIndex((id) => id !== null && !known.some((one) => one.id === id));
}
