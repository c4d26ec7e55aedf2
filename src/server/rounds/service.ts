import type { z } from 'zod';
import type {
  RoundAnswer,
  RoundDetails,
  RoundRow,
  RoundRowAnswer,
  roundForm,
  roundRow,
} from '../../contract';
import type { Instant, PackId, RoundId } from '../../core/measure';
import type { Actor } from '../../core/lifecycle';
import { append, reference, unknownAmong } from '../ledger';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';

const ROUND_COLUMNS = `r.id, r.kind, r.title, r.checklist, r.place_id as "placeId", ${asInstant('r.flies_at')} as "fliesAt",
  r.started_by as "startedBy", ${asInstant('r.started_at')} as "startedAt", ${asInstant('r.closed_at')} as "closedAt",
  (select count(*)::int from round_row w where w.round_id = r.id) as packs,
  (select count(*)::int from round_row w where w.round_id = r.id and w.outcome is not null) as worked`;
const ROW_COLUMNS = `pack_id as "packId", outcome, by, ${asInstant('at')} as at, reason`;
/** Rounds closed longer ago than these are found through their packs' records. */
const RECENT_ROUNDS = 30;

/** Every open round and the latest closed ones, newest first. */
export async function rounds(em: Entities, which: 'open' | 'all' = 'all'): Promise<RoundAnswer[]> {
  return em.execute(
    `select ${ROUND_COLUMNS} from round r where r.closed_at is null ${which === 'all' ? 'or true' : ''}
      order by (r.closed_at is null) desc, r.started_at desc limit ${RECENT_ROUNDS}`,
  );
}

export async function roundDetails(em: Entities, id: RoundId): Promise<RoundDetails> {
  const [round]: RoundAnswer[] = await em.execute(`select ${ROUND_COLUMNS} from round r where r.id = ?`, [
    id,
  ]);
  if (!round) throw new Refused('not-found', { detail: 'There is no such round.' });
  const rows: RoundRow[] = await em.execute(
    `select ${ROW_COLUMNS} from round_row where round_id = ? order by ordinal, pack_id`,
    [id],
  );
  return { ...round, rows };
}

/** Starts a round with the packs it gathered. Sending it again is harmless. */
export async function startRound(
  em: Entities,
  { packIds, ...form }: z.output<typeof roundForm>,
  actor: Actor,
  now: Instant,
): Promise<RoundDetails> {
  const errors = await unknownAmong(em, reference('place', form.placeId, 'placeId'));
  if (errors.length > 0) throw new Refused('invalid-input', { errors });
  await em.transactional(async (tx) => {
    const fresh: unknown[] = await tx.execute(
      `insert into round (id, kind, title, checklist, place_id, flies_at, started_by, started_at)
       values (?, ?, ?, ?, ?, ?, ?, ?) on conflict (id) do nothing returning id`,
      [
        form.id,
        form.kind,
        form.title,
        form.checklist,
        form.placeId,
        timestamp(form.fliesAt),
        actor.id,
        timestamp(now),
      ],
    );
    if (fresh.length === 0) return;
    for (const packId of packIds) await takeIn(tx, form.id, packId);
    await announce(tx, { about: 'round', roundId: form.id });
  });
  return roundDetails(em, form.id);
}

/**
 * Works one row: its records go into the ledger and the row is marked, both or neither. A row that somebody else ended
 * meanwhile keeps their mark; what was measured is kept all the same.
 */
export async function workRow(
  em: Entities,
  roundId: RoundId,
  { packId, records: drafts, outcome, reason, at }: z.output<typeof roundRow>,
  actor: Actor,
  now: Instant,
): Promise<RoundRowAnswer> {
  return em.transactional(async (tx) => {
    // One row of a round at a time: two people may scan the same pack at the same moment.
    const [round]: { closed: boolean }[] = await tx.execute(
      'select closed_at is not null as closed from round where id = ? for no key update',
      [roundId],
    );
    if (!round) throw new Refused('not-found', { detail: 'There is no such round.' });
    const records =
      drafts.length === 0 ? [] : await append(tx, packId, drafts, () => ({ actor, recordedAt: now }));
    // Offline work of a round that was closed meanwhile counts for the pack; the round stays as it was signed off.
    if (!round.closed) {
      await takeIn(tx, roundId, packId);
      await tx.execute(
        `update round_row set outcome = ?, by = ?, at = ?, reason = ?
          where round_id = ? and pack_id = ? and (outcome is null or outcome in ('skipped', 'missing'))`,
        [outcome, actor.id, timestamp(Math.min(at, now)), reason, roundId, packId],
      );
      await announce(tx, { about: 'round', roundId });
    }
    const [row]: RoundRow[] = await tx.execute(
      `select ${ROW_COLUMNS} from round_row where round_id = ? and pack_id = ?`,
      [roundId, packId],
    );
    return { packId, records, row: row ?? { packId, outcome: null, by: null, at: null, reason: null } };
  });
}

/** Ends a round. Rows still open stay open in its summary: those packs were not seen. */
export async function closeRound(em: Entities, id: RoundId, now: Instant): Promise<RoundDetails> {
  const [closed]: unknown[] = await em.execute(
    'update round set closed_at = coalesce(closed_at, ?) where id = ? returning id',
    [timestamp(now), id],
  );
  if (!closed) throw new Refused('not-found', { detail: 'There is no such round.' });
  await announce(em, { about: 'round', roundId: id });
  return roundDetails(em, id);
}

/** Puts a pack at the end of a round's rows, unless it is among them. */
async function takeIn(em: Entities, roundId: RoundId, packId: PackId): Promise<void> {
  const known: unknown[] = await em.execute('select 1 from pack where id = ?', [packId]);
  if (known.length === 0) throw new Refused('not-found', { detail: 'There is no such pack.' });
  await em.execute(
    `insert into round_row (round_id, pack_id, ordinal)
     values (?, ?, (select coalesce(max(ordinal), 0) + 1 from round_row where round_id = ?))
     on conflict (round_id, pack_id) do nothing`,
    [roundId, packId, roundId],
  );
}
