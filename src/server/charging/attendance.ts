import { v7 as newId } from 'uuid';
import type { z } from 'zod';
import type { AttendanceAnswer, attendanceForm } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import type { Actor } from '../../core/lifecycle';
import type { AttendanceId, Instant, PersonId } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused, refusedField } from '../platform/problems';

type AttendanceForm = z.output<typeof attendanceForm>;

const COLUMNS = `id, version, person_id as "personId", ${asInstant('from_at')} as "from", ${asInstant('to_at')} as "to"`;

/** Spans that are not over yet. */
export function attendanceToCome(em: Entities, now: Instant): Promise<AttendanceAnswer[]> {
  return em.execute(`select ${COLUMNS} from attendance where to_at > ? order by from_at, id`, [
    timestamp(now),
  ]);
}

export async function addAttendance(
  em: Entities,
  form: AttendanceForm,
  actor: Actor,
  now: Instant,
): Promise<AttendanceAnswer> {
  await refuseUnfit(em, form, actor, now, null);
  const [span]: AttendanceAnswer[] = await em.execute(
    `insert into attendance (id, person_id, from_at, to_at) values (?, ?, ?, ?) returning ${COLUMNS}`,
    [newId(), form.personId, timestamp(form.from), timestamp(form.to)],
  );
  await announce(em, { about: 'charging' });
  return span!;
}

export async function changeAttendance(
  em: Entities,
  id: AttendanceId,
  { version, ...form }: AttendanceForm & { version: number },
  actor: Actor,
  now: Instant,
): Promise<AttendanceAnswer> {
  refuseForOthers(await personOfSpan(em, id), actor);
  await refuseUnfit(em, form, actor, now, id);
  const [span]: AttendanceAnswer[] = await em.execute(
    `update attendance set person_id = ?, from_at = ?, to_at = ?, version = version + 1
      where id = ? and version = ? returning ${COLUMNS}`,
    [form.personId, timestamp(form.from), timestamp(form.to), id, version],
  );
  if (!span) throw new Refused('changed-meanwhile');
  await announce(em, { about: 'charging' });
  return span;
}

export async function takeAttendanceBack(em: Entities, id: AttendanceId, actor: Actor): Promise<void> {
  refuseForOthers(await personOfSpan(em, id), actor);
  await em.execute('delete from attendance where id = ?', [id]);
  await announce(em, { about: 'charging' });
}

async function personOfSpan(em: Entities, id: AttendanceId): Promise<PersonId> {
  const [known]: { person: PersonId }[] = await em.execute(
    'select person_id as person from attendance where id = ?',
    [id],
  );
  if (!known) throw new Refused('not-found');
  return known.person;
}

/** Everybody speaks for themselves; a deputy may write down what others have promised. */
function refuseForOthers(person: PersonId, actor: Actor): void {
  if (person !== actor.id && !mayDo(actor.role, 'equipment.edit'))
    throw refusedField('personId', 'You can say when you are there; for others a deputy or custodian can.');
}

async function refuseUnfit(
  em: Entities,
  { personId, from, to }: AttendanceForm,
  actor: Actor,
  now: Instant,
  besides: AttendanceId | null,
): Promise<void> {
  refuseForOthers(personId, actor);
  if (to <= now) throw refusedField('to', 'This time is over.');
  const [known]: { active: boolean }[] = await em.execute('select active from person where id = ?', [
    personId,
  ]);
  if (!known?.active) throw refusedField('personId', 'There is nobody of this name here any more.');
  const overlapping: { id: AttendanceId }[] = await em.execute(
    'select id from attendance where person_id = ? and from_at < ? and to_at > ?',
    [personId, timestamp(to), timestamp(from)],
  );
  if (overlapping.some(({ id }) => id !== besides))
    throw refusedField(
      'from',
      'This person is there already for a part of that time. Change that span, or begin after it.',
    );
}
