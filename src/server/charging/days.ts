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

const COLUMNS = `id, version, ${asInstant('at')} as at, place, craft, wants, cancelled`;

/** Flying days from today on: one that began a while ago still tells what its packs are out for. */
export function daysToCome(em: Entities, now: Instant): Promise<FlyingDayAnswer[]> {
  return em.execute(`select ${COLUMNS} from flying_day where at >= ? order by at, id`, [
    timestamp(now - DAY_MS / 2),
  ]);
}

export async function addDay(em: Entities, form: DayForm, now: Instant): Promise<FlyingDayAnswer> {
  await refuseUnfit(em, form, now);
  const [day]: FlyingDayAnswer[] = await em.execute(
    `insert into flying_day (id, at, place, craft, wants, cancelled) values (?, ?, ?, ?, ?, ?) returning ${COLUMNS}`,
    [newId(), timestamp(form.at), form.place, form.craft, JSON.stringify(form.wants), form.cancelled],
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
  const [day]: FlyingDayAnswer[] = await em.execute(
    `update flying_day set at = ?, place = ?, craft = ?, wants = ?, cancelled = ?, version = version + 1
      where id = ? and version = ? returning ${COLUMNS}`,
    [timestamp(form.at), form.place, form.craft, JSON.stringify(form.wants), form.cancelled, id, version],
  );
  if (!day) throw new Refused('changed-meanwhile');
  await announce(em, { about: 'charging' });
  return day;
}

async function refuseUnfit(em: Entities, { at, wants }: DayForm, now: Instant): Promise<void> {
  if (at < now) throw refusedField('at', 'This time is over. A flying day lies ahead.');
  const ids = wants.map(({ typeId }) => typeId);
  const known: { id: string }[] = await em.execute('select id from pack_type where id = any(?::uuid[])', [
    `{${ids.join(',')}}`,
  ]);
  const unknown = ids.findIndex((id) => !known.some((one) => one.id === id));
  if (unknown >= 0) throw refusedField(`wants.${unknown}.typeId`, 'There is no such pack type.');
}
