import { createHash, randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { DeviceAnswer, NewDeviceAnswer, deviceChange, deviceForm, writeMemory } from '../../contract';
import { patternOf } from '../../core/instruments';
import type { Actor } from '../../core/lifecycle';
import type { DeviceId, Instant, PersonId } from '../../core/measure';
import { patternFaultSentence } from '../../core/wording';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { isUniqueViolation, Refused, refusedField } from '../platform/problems';
import { Equipment, Instrument } from '../register';

/** What every device's key begins with, so that one that leaked is recognised. */
const PREFIX = 'malle_device_';
/** A device that has not been heard of for so long is gone, whatever its process last wrote. */
const GONE_MS = 60_000;

const COLUMNS = `d.id, d.version, d.name, d.kind, d.instrument_id as "instrumentId", d.equipment_id as "equipmentId", d.patterns,
  d.made_by as "madeBy", ${asInstant('d.made_at')} as "madeAt", ${asInstant('d.ended_at')} as "endedAt", d.hash is not null as "hasKey",
  coalesce(s.is_open, false) as "isOpen", coalesce(s.can_stop, false) as "canStop", coalesce(s.can_write, false) as "canWrite", ${asInstant('s.seen_at')} as "seenAt", s.software,
  s.taken_by as "takenBy", s.taken_page as "takenPage", s.meter, s.memory, coalesce(s.channels, '{}') as channels, s.problem`;

type DeviceRow = Omit<DeviceAnswer, 'channels'> & {
  readonly channels: Readonly<Record<string, DeviceAnswer['channels'][number]>>;
};

/** All devices, those that still have a key first. */
export async function devices(em: Entities, now: Instant): Promise<DeviceAnswer[]> {
  const rows: DeviceRow[] = await em.execute(
    `select ${COLUMNS} from device d left join device_state s on s.device_id = d.id order by (d.ended_at is null) desc, d.name`,
  );
  return rows.map((row) => answerOf(row, now));
}

async function device(em: Entities, id: DeviceId, now: Instant): Promise<DeviceAnswer> {
  const [row]: DeviceRow[] = await em.execute(
    `select ${COLUMNS} from device d left join device_state s on s.device_id = d.id where d.id = ?`,
    [id],
  );
  if (!row) throw new Refused('not-found', { detail: 'There is no such device.' });
  return answerOf(row, now);
}

function answerOf({ channels, ...row }: DeviceRow, now: Instant): DeviceAnswer {
  const isOpen = row.isOpen && row.endedAt === null && row.seenAt !== null && now - row.seenAt < GONE_MS;
  const shown = Object.values(channels).sort((a, b) => (a.channel < b.channel ? -1 : 1));
  // What a device showed before it went is no longer shown by anything.
  return {
    ...row,
    isOpen,
    meter: isOpen ? row.meter : null,
    memory: isOpen ? row.memory : null,
    channels: isOpen ? shown : [],
  };
}

/** Adds a device and makes its key. Only the key's hash is kept, so it is told this once. */
export async function addDevice(
  em: Entities,
  form: z.output<typeof deviceForm>,
  actor: Actor,
  now: Instant,
): Promise<NewDeviceAnswer> {
  refuseOddPatterns(form.patterns);
  if (form.instrumentId && !(await em.findOne(Instrument, { id: form.instrumentId })))
    throw refusedField('instrumentId', 'There is no such meter in the register.');
  if (form.equipmentId) {
    const charger = await em.findOne(Equipment, { id: form.equipmentId });
    if (charger?.facts.kind !== 'charger')
      throw refusedField('equipmentId', 'There is no such charger on this bench.');
  }
  const secret = newSecret();
  await stored(() =>
    em.execute(
      `insert into device (id, name, kind, instrument_id, equipment_id, patterns, hash, made_by, made_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      [
        form.id,
        form.name,
        form.kind,
        form.kind === 'meter' ? form.instrumentId : null,
        form.kind === 'charger' ? form.equipmentId : null,
        JSON.stringify(form.patterns),
        hashOf(secret),
        actor.id,
        timestamp(now),
      ],
    ),
  );
  await announce(em, { about: 'devices' });
  return { device: await device(em, form.id, now), secret };
}

/** What a write answers; what the tables refuse is said at its field. */
async function stored<Answer>(write: () => Promise<Answer>): Promise<Answer> {
  try {
    return await write();
  } catch (error) {
    if (!isUniqueViolation(error)) throw error;
    const which = String((error as { constraint?: string }).constraint ?? error);
    if (which.includes('device_charger'))
      throw refusedField(
        'equipmentId',
        'Another device speaks for this charger already. End that one first.',
      );
    if (which.includes('device_pkey'))
      throw new Refused('id-taken', { detail: 'This device was added already, and its key told then.' });
    throw refusedField('name', 'There is one of this name already.');
  }
}

function refuseOddPatterns(patterns: readonly string[]): void {
  const errors = patterns.flatMap((text, i) => {
    const made = patternOf(text);
    return 'fault' in made ? [{ field: `patterns.${i}`, message: patternFaultSentence(made.fault) }] : [];
  });
  if (errors.length > 0) throw new Refused('invalid-input', { errors });
}

/** Changes what a device is called and what is picked out of its lines. */
export async function changeDevice(
  em: Entities,
  id: DeviceId,
  { name, patterns, version }: z.output<typeof deviceChange>,
  now: Instant,
): Promise<DeviceAnswer> {
  refuseOddPatterns(patterns);
  const before = await device(em, id, now);
  const changed = await stored(() =>
    em.execute<unknown[]>(
      'update device set name = ?, patterns = ?, version = version + 1 where id = ? and version = ? returning id',
      [name, JSON.stringify(patterns), id, version],
    ),
  );
  if (changed.length === 0)
    throw new Refused('changed-meanwhile', {
      detail: `Somebody has changed ${before.name} meanwhile. Look at it and change it again.`,
    });
  await announce(em, { about: 'devices' });
  return device(em, id, now);
}

/** Gives a device a new key, and ends the old one with whatever is connected by it. */
export async function renewKey(em: Entities, id: DeviceId, now: Instant): Promise<NewDeviceAnswer> {
  const secret = newSecret();
  const renewed: unknown[] = await em.execute(
    'update device set hash = ? where id = ? and ended_at is null returning id',
    [hashOf(secret), id],
  );
  if (renewed.length === 0)
    throw new Refused('not-found', { detail: 'There is no such device, or it was ended. Add it anew.' });
  await em.execute(
    'update device_state set connection = null, is_open = false, meter = null, memory = null where device_id = ?',
    [id],
  );
  await announce(em, { about: 'devices' });
  return { device: await device(em, id, now), secret };
}

/** Ends a device's key at once; whatever is connected by it is sent away. */
export async function endDevice(em: Entities, id: DeviceId, now: Instant): Promise<void> {
  const ended: unknown[] = await em.execute(
    'update device set ended_at = coalesce(ended_at, ?), hash = null where id = ? returning id',
    [timestamp(now), id],
  );
  if (ended.length === 0) throw new Refused('not-found', { detail: 'There is no such device.' });
  await em.execute(
    'update device_state set connection = null, is_open = false, meter = null, memory = null where device_id = ?',
    [id],
  );
  await announce(em, { about: 'devices' });
}

/** Gives a meter's readings to one page; the page that had them hears of it. */
export async function takeMeter(
  em: Entities,
  id: DeviceId,
  page: string,
  person: PersonId,
  now: Instant,
): Promise<DeviceAnswer> {
  const before = await device(em, id, now);
  if (before.kind !== 'meter') throw new Refused('not-found', { detail: 'This device is no meter.' });
  await em.execute(
    `insert into device_state (device_id, taken_by, taken_page) values (?, ?, ?)
     on conflict (device_id) do update set taken_by = excluded.taken_by, taken_page = excluded.taken_page`,
    [id, person, page],
  );
  await announce(em, { about: 'devices' });
  return device(em, id, now);
}

/** Tells whichever process a charger is connected to that a channel is to stop. */
export async function stopChannel(
  em: Entities,
  id: DeviceId,
  channel: string,
  by: string,
  now: Instant,
): Promise<void> {
  const { canStop, isOpen, name } = await device(em, id, now);
  if (!canStop || !isOpen)
    throw new Refused('changed-meanwhile', {
      detail: `${name} cannot be stopped from here${isOpen ? '' : ': it is not connected'}. Stop it at the charger.`,
    });
  await announce(em, { about: 'stop', deviceId: id, channel, why: `Stopped by ${by}.` });
}

/** Tells whichever process a reader is connected to what to write into the pack that is on it. */
export async function writeToPack(
  em: Entities,
  id: DeviceId,
  { readingId, ...settings }: z.output<typeof writeMemory>,
  now: Instant,
): Promise<void> {
  const { canWrite, isOpen, name, memory } = await device(em, id, now);
  const isThere = memory?.readingId === readingId;
  if (!canWrite || !isOpen)
    throw new Refused('changed-meanwhile', {
      detail: `${name} cannot write${isOpen ? '' : ': it is not connected'}. Set the pack with its own program, and read it back here.`,
    });
  if (!isThere)
    throw new Refused('changed-meanwhile', {
      detail: `Another pack is on ${name} by now, or none. Look at what it reads, and set it again.`,
    });
  if (memory.updating !== null)
    throw new Refused('changed-meanwhile', {
      detail: `The pack is being updated. Keep it connected until the end, then set it.`,
    });
  await announce(em, { about: 'write', deviceId: id, line: { type: 'write', ...settings } });
}

/** What a device printed last. */
export async function lastLines(em: Entities, id: DeviceId): Promise<string[]> {
  const [row]: { lines: string[] }[] = await em.execute(
    'select lines from device_state where device_id = ?',
    [id],
  );
  return row?.lines ?? [];
}

/** The device a key belongs to, if it still belongs to one. */
export async function deviceByKey(em: Entities, key: string): Promise<KnownDevice | null> {
  if (!key.startsWith(PREFIX)) return null;
  const [found]: KnownDevice[] = await em.execute(
    `select id, name, kind, equipment_id as "equipmentId", patterns from device where hash = ? and ended_at is null`,
    [hashOf(key)],
  );
  return found ?? null;
}

/** What the door must know of a device. */
export type KnownDevice = Pick<DeviceAnswer, 'id' | 'name' | 'kind' | 'equipmentId' | 'patterns'>;

function newSecret(): string {
  return `${PREFIX}${randomBytes(30).toString('base64url')}`;
}

/** A key is long and random, so a plain hash is enough and costs nothing. */
function hashOf(secret: string): string {
  return createHash('sha256').update(secret).digest('hex');
}
