import type { z } from 'zod';
import type {
  BoardPack,
  ConsignmentAnswer,
  ConsignmentDetails,
  ConsignmentPack,
  ContainerFill,
  RecyclerAnswer,
  consignmentCorrection,
  consignmentForm,
  consignmentPacks,
  handOver,
} from '../../contract';
import { CHEMISTRY } from '../../core/chemistry';
import { totalOf } from '../../core/lifecycle';
import type { Actor, DisposalPayload } from '../../core/lifecycle';
import type { ConsignmentId, Instant, PackId, RecordId } from '../../core/measure';
import { wattHours } from '../../core/pack';
import { append, reference, unknownAmong } from '../ledger';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused, isUniqueViolation, refusedField } from '../platform/problems';
import { stepColumn } from '../packs';
import { Recycler, recyclerAnswer } from '../register';

const BOARD_COLUMNS = `p.id, p.tag, p.type_id as "typeId", s.life, ${asInstant('s.life_since')} as since, ${stepColumn('next')},
  s.place_id as "placeId", coalesce(t.mass_g, 0) as "massG", t.chemistry, t.series, t.name as "typeName",
  t.capacity_mah as "capacityMah", s.apart, s.leaves_charged as charged, s.consignment_id as "consignmentId", s.seq`;
const BOARD_TABLES = `pack_state_at(?) s join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id`;

type BoardRow = Omit<BoardPack, 'wh'> & {
  readonly capacityMah: number;
  readonly series: number;
  readonly typeName: string;
};

/** Retired packs that are not yet gone, the one waiting longest first. */
export async function board(em: Entities, now: Instant): Promise<BoardPack[]> {
  const rows: BoardRow[] = await em.execute(
    `select ${BOARD_COLUMNS} from ${BOARD_TABLES}
      where s.life not in ('in-service', 'retiring', 'recycled') order by s.life_since, p.tag_key`,
    [timestamp(now)],
  );
  return rows.map(({ capacityMah, series, typeName: _name, ...row }) => ({
    ...row,
    wh: wattHours({ capacityMah, series, chemistry: row.chemistry }),
  }));
}

/** How full each recycling container is. */
export function fills(packs: readonly BoardPack[]): ContainerFill[] {
  const inBins = packs.filter(({ life }) => life === 'binned' || life === 'consigned');
  const places = new Set(inBins.flatMap(({ placeId }) => placeId ?? []));
  return [...places].map((placeId) => ({
    placeId,
    ...totalOf(inBins.filter((pack) => pack.placeId === placeId)),
  }));
}

const CONSIGNMENT_COLUMNS = `c.id, c.recycler_id as "recyclerId", c.opened_by as "openedBy", ${asInstant('c.opened_at')} as "openedAt",
  ${asInstant('c.closed_at')} as "closedAt"`;
const RECENT = 60;

/** Open consignments, then the latest closed ones. */
export async function consignments(em: Entities): Promise<ConsignmentAnswer[]> {
  return em.execute(
    `select ${CONSIGNMENT_COLUMNS},
            case when c.closed_at is null then (select count(*)::int from pack_state s where s.consignment_id = c.id)
                 else jsonb_array_length(c.manifest) end as packs,
            case when c.closed_at is null then (select coalesce(sum(t.mass_g), 0)::float8 from pack_state s
                   join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id where s.consignment_id = c.id)
                 else (select coalesce(sum((line ->> 'massG')::float8), 0) from jsonb_array_elements(c.manifest) line)
            end as "massG"
       from consignment c order by (c.closed_at is null) desc, coalesce(c.closed_at, c.opened_at) desc limit ${RECENT}`,
  );
}

/** A consignment with its lines: as they stand while it is open, as they were signed once it is closed. */
export async function consignmentDetails(
  em: Entities,
  id: ConsignmentId,
  now: Instant,
): Promise<ConsignmentDetails> {
  const [row]: (Omit<ConsignmentDetails, 'lines' | 'corrections' | 'packs' | 'massG'> & {
    manifest: ConsignmentPack[] | null;
  })[] = await em.execute(
    `select ${CONSIGNMENT_COLUMNS}, c.closed_by as "closedBy", c.handed_by as "handedBy", c.received_by as "receivedBy",
            c.receipt_number as "receiptNumber", c.receipt_photo_id as "receiptPhotoId", c.manifest
       from consignment c where c.id = ?`,
    [id],
  );
  if (!row) throw new Refused('not-found', { detail: 'There is no such consignment.' });
  const { manifest, ...rest } = row;
  const lines = manifest ?? (await linesOf(em, id, now));
  const corrections: ConsignmentDetails['corrections'][number][] = await em.execute(
    `select id, ${asInstant('at')} as at, by, text from consignment_correction where consignment_id = ? order by at, id`,
    [id],
  );
  const { packs, massG } = totalOf(lines);
  return { ...rest, packs, massG, lines, corrections };
}

async function linesOf(em: Entities, id: ConsignmentId, now: Instant): Promise<ConsignmentPack[]> {
  const rows: BoardRow[] = await em.execute(
    `select ${BOARD_COLUMNS} from ${BOARD_TABLES} where s.consignment_id = ? and s.life = 'consigned'
      order by s.apart, t.chemistry, p.tag_key`,
    [timestamp(now), id],
  );
  return rows.map((row) => ({
    packId: row.id,
    tag: row.tag,
    typeName: row.typeName,
    chemistry: row.chemistry,
    series: row.series,
    massG: row.massG,
    wh: wattHours(row),
    apart: row.apart,
    charged: row.charged,
  }));
}

/** Begins a consignment. Sending it again is harmless. */
export async function startConsignment(
  em: Entities,
  { id, recyclerId }: z.output<typeof consignmentForm>,
  actor: Actor,
  now: Instant,
): Promise<ConsignmentDetails> {
  const recycler = await recyclerOf(em, recyclerId);
  if (!recycler.active) throw refusedField('recyclerId', 'This recycler is no longer used.');
  await em.execute(
    `insert into consignment (id, recycler_id, opened_by, opened_at) values (?, ?, ?, ?) on conflict (id) do nothing`,
    [id, recyclerId, actor.id, timestamp(now)],
  );
  await announce(em, { about: 'consignment' });
  return consignmentDetails(em, id, now);
}

async function recyclerOf(em: Entities, id: RecyclerAnswer['id']): Promise<RecyclerAnswer> {
  const recycler = await em.findOne(Recycler, { id });
  if (!recycler) throw refusedField('recyclerId', 'This recycler is not in the register.');
  return recyclerAnswer(recycler);
}

/** Locks an open consignment, so that nobody adds to it while it is signed. */
async function lockOpen(em: Entities, id: ConsignmentId): Promise<RecyclerAnswer> {
  const [row]: { recycler_id: RecyclerAnswer['id']; closed: boolean }[] = await em.execute(
    'select recycler_id, closed_at is not null as closed from consignment where id = ? for update',
    [id],
  );
  if (!row) throw new Refused('not-found', { detail: 'There is no such consignment.' });
  if (row.closed)
    throw new Refused('changed-meanwhile', {
      detail: 'This consignment is closed. What was wrong on it is said by a correction.',
    });
  return recyclerOf(em, row.recycler_id);
}

/** Puts packs on a consignment and takes others off it; all of it or nothing. */
export async function changePacks(
  em: Entities,
  id: ConsignmentId,
  { add, remove, reason }: z.output<typeof consignmentPacks>,
  actor: Actor,
  now: Instant,
): Promise<ConsignmentDetails> {
  if (remove.length > 0 && reason === null) throw refusedField('reason', 'Say why it comes off the list.');
  return em.transactional(async (tx) => {
    const recycler = await lockOpen(tx, id);
    const off = { step: 'taken-back', consignmentId: id, reason: reason ?? '' } as const;
    await takeSteps(tx, remove, actor, now, off);
    await takeSteps(tx, add, actor, now, { step: 'consigned', consignmentId: id });
    const details = await consignmentDetails(tx, id, now);
    refuseWhatIsNotTaken(recycler, details.lines);
    await announce(tx, { about: 'consignment' });
    return details;
  });
}

/** A recycler takes some chemistries, perhaps no damaged packs, and so much at one visit. */
function refuseWhatIsNotTaken(recycler: RecyclerAnswer, lines: readonly ConsignmentPack[]): void {
  const { name, chemistries, takesDamaged, takesCharged, limitKg } = recycler;
  const foreign = lines.find(({ chemistry }) => !chemistries.includes(chemistry));
  if (foreign)
    throw refusedField('add', `${name} takes no ${CHEMISTRY[foreign.chemistry].name}: ${foreign.tag}.`);
  const harmed = lines.find(({ apart }) => apart);
  if (harmed && !takesDamaged) throw refusedField('add', `${name} takes no damaged packs: ${harmed.tag}.`);
  const charged = lines.find((line) => line.charged);
  if (charged && !takesCharged)
    throw refusedField('add', `${name} takes discharged packs only: ${charged.tag} is at storage charge.`);
  const kg = totalOf(lines).massG / 1000;
  if (limitKg !== null && kg > limitKg)
    throw refusedField(
      'add',
      `${name} takes ${limitKg} kg at one visit; this would be ${Math.round(kg * 10) / 10} kg.`,
    );
}

interface PackStep {
  readonly packId: PackId;
  readonly recordId: RecordId;
}

/** Writes one step into the ledger of each pack, in the order of their ids, so that no two requests wait for each other. */
async function takeSteps(
  em: Entities,
  packs: readonly PackStep[],
  actor: Actor,
  now: Instant,
  payload: DisposalPayload,
): Promise<void> {
  for (const { packId, recordId } of [...packs].sort((a, b) => (a.packId < b.packId ? -1 : 1))) {
    const draft = { kind: 'disposal', id: recordId, at: now, payload, supersedes: null } as const;
    await append(em, packId, [draft], () => ({ actor, recordedAt: now }), 'consignment');
  }
}

/** Hands a consignment over: every pack on it is recycled, and what was signed stays as it is. */
export async function closeConsignment(
  em: Entities,
  id: ConsignmentId,
  form: z.output<typeof handOver>,
  actor: Actor,
  now: Instant,
): Promise<ConsignmentDetails> {
  const [closed]: { receipt_number: string }[] = await em.execute(
    'select receipt_number from consignment where id = ? and closed_at is not null',
    [id],
  );
  // The same hand-over sent twice landed the first time.
  if (closed?.receipt_number === form.receiptNumber) return consignmentDetails(em, id, now);
  return em.transactional(async (tx) => {
    const recycler = await lockOpen(tx, id);
    const { lines } = await consignmentDetails(tx, id, now);
    const signed = new Set<string>(form.packs.map(({ packId }) => packId));
    if (lines.length !== signed.size || lines.some(({ packId }) => !signed.has(packId)))
      throw new Refused('changed-meanwhile', {
        detail: 'The list changed since this page was drawn. Check it and sign again.',
      });
    refuseWhatIsNotTaken(recycler, lines);
    const [problem] = await unknownAmong(tx, reference('photo', form.receiptPhotoId, 'receiptPhotoId'));
    if (problem) throw refusedField(problem.field, problem.message);
    await takeSteps(tx, form.packs, actor, now, { step: 'recycled', consignmentId: id });
    await tx.execute(
      `update consignment set closed_by = ?, closed_at = ?, handed_by = ?, received_by = ?, receipt_number = ?,
         receipt_photo_id = ?, manifest = ?::jsonb where id = ?`,
      [
        actor.id,
        timestamp(Math.min(form.at, now)),
        form.handedBy,
        form.receivedBy,
        form.receiptNumber,
        form.receiptPhotoId,
        JSON.stringify(lines),
        id,
      ],
    );
    await announce(tx, { about: 'consignment' });
    return consignmentDetails(tx, id, now);
  });
}

/** Says what was wrong on a closed consignment. */
export async function correctConsignment(
  em: Entities,
  id: ConsignmentId,
  form: z.output<typeof consignmentCorrection>,
  actor: Actor,
  now: Instant,
): Promise<ConsignmentDetails> {
  const { closedAt } = await consignmentDetails(em, id, now);
  if (closedAt === null) throw new Refused('changed-meanwhile', { detail: 'It is open: change its list.' });
  try {
    await em.execute(
      'insert into consignment_correction (id, consignment_id, at, by, text) values (?, ?, ?, ?, ?)',
      [form.id, id, timestamp(now), actor.id, form.text],
    );
  } catch (error) {
    if (!isUniqueViolation(error)) throw error;
  }
  await announce(em, { about: 'consignment' });
  return consignmentDetails(em, id, now);
}
