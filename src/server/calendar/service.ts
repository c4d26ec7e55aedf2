import { randomBytes } from 'node:crypto';
import ical, { ICalCalendarMethod } from 'ical-generator';
import type { TaskKind } from '../../core/assess';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import type { Instant, PackId, PersonId } from '../../core/measure';
import { mayDo } from '../../core/lifecycle';
import { STEP_WORDS } from '../../core/wording';
import { Person } from '../people';
import type { PersonEntity } from '../people';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';

/** A person's calendar address; null until they ask for one. */
export async function calendarKey(em: Entities, id: PersonId): Promise<string | null> {
  const [row]: { key: string | null }[] = await em.execute(
    'select calendar_key as key from person where id = ?',
    [id],
  );
  return row?.key ?? null;
}

/** Gives a person a new calendar address; the one before stops working. */
export async function newCalendarKey(em: Entities, id: PersonId): Promise<string> {
  const key = randomBytes(24).toString('base64url');
  await em.execute('update person set calendar_key = ? where id = ?', [key, id]);
  return key;
}

/** The active person whose calendar this address is; null for none. */
export async function personOfKey(em: Entities, key: string): Promise<PersonEntity | null> {
  const [row]: { id: PersonId }[] = await em.execute(
    'select id from person where calendar_key = ? and active',
    [key],
  );
  return row ? em.findOne(Person, { id: row.id }) : null;
}

interface DueRow {
  readonly id: PackId;
  readonly tag: string;
  readonly do: TaskKind | 'store-down' | 'store-up';
  readonly dueAt: Instant;
}

/** What takes the time of one look; programs draw an appointment of no length badly. */
const LASTS_MS = 30 * MINUTE_MS;
const MOST_EVENTS = 2_000;

/**
 * What is due, as a calendar file: for those who run the register everything, for a pilot the packs in their hands.
 * Events are instants in UTC, so that a program shows each at the right local hour on both sides of a clock change.
 */
export async function calendarText(
  em: Entities,
  person: Pick<PersonEntity, 'id' | 'name' | 'role'>,
  address: string,
  now: Instant,
): Promise<string> {
  const mine = mayDo(person.role, 'pack.edit') ? null : person.id;
  const rows: DueRow[] = await em.execute(
    `select p.id, p.tag, due."do", due."dueAt" from pack_state_at(?) s join pack p on p.id = s.pack_id
       cross join lateral (
         select task ->> 'do' as "do", (task ->> 'dueAt')::float8 as "dueAt" from jsonb_array_elements(s.tasks) task
         union all
         select case s.storage when 'high' then 'store-down' else 'store-up' end, ${asInstant('s.due_at')}
          where s.due_at is not null and s.verdict not in ('hold', 'retire-advised', 'retired', 'recycled')
       ) due
      where ?::uuid is null or s.holder_id = ?::uuid
      order by due."dueAt", p.tag_key limit ${MOST_EVENTS}`,
    [timestamp(now), mine, mine],
  );
  const calendar = ical({
    name: `Packs due · ${person.name}`,
    prodId: { company: 'Malle', product: 'Pack register', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: HOUR_MS / 1000,
  });
  for (const { id, tag, do: task, dueAt } of rows) {
    calendar.createEvent({
      id: `${id}-${task}@malle`,
      start: new Date(dueAt),
      end: new Date(dueAt + LASTS_MS),
      stamp: new Date(now),
      summary: `${tag}: ${STEP_WORDS[task].toLowerCase()}`,
      url: `${address}/packs/${id}`,
    });
  }
  return calendar.toString();
}
