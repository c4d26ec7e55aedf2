import type { z } from 'zod';
import type { deliveryForm, PackRow } from '../../contract';
import type { Instant } from '../../core/measure';
import { tagKey } from '../../core/pack';
import type { Actor } from '../../core/lifecycle';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';
import { packRows } from './rows';
import { receive } from './service';

/** Receives packs that came together, all of them or none. Sending it again is harmless. */
export async function receiveDelivery(
  em: Entities,
  { id, packs, ...shared }: z.output<typeof deliveryForm>,
  actor: Actor,
  now: Instant,
): Promise<PackRow[]> {
  refuseTwins(packs);
  await em.transactional(async (tx) => {
    await tx.execute(
      `insert into delivery (id, type_id, source, received_at, by)
       select ?, id, ?, ?, ? from pack_type where id = ? on conflict (id) do nothing`,
      [id, shared.source, timestamp(shared.receivedAt), actor.id, shared.typeId],
    );
    const errors = [];
    for (const [i, pack] of packs.entries()) {
      try {
        await receive(tx, { ...shared, ...pack, inServiceAt: null }, actor, now, id);
      } catch (error) {
        if (!(error instanceof Refused) || !error.more.errors) throw error;
        const named = error.more.errors.map(({ field, message }) => ({
          field: field === 'tag' ? `packs.${i}.tag` : field,
          message: field === 'tag' ? `${pack.tag}: ${message}` : message,
        }));
        errors.push(...named);
        // What concerns them all is said once.
        if (named.some(({ field }) => !field.startsWith('packs.'))) break;
      }
    }
    if (errors.length > 0) throw new Refused('invalid-input', { errors });
    await announce(tx, { about: 'register' });
  });
  return packRows(
    em,
    now,
    packs.map((pack) => pack.id),
  );
}

function refuseTwins(packs: readonly { readonly tag: string }[]): void {
  const errors = packs.flatMap(({ tag }, i) =>
    packs.findIndex((other) => tagKey(other.tag) === tagKey(tag)) < i
      ? [{ field: `packs.${i}.tag`, message: `${tag} is in this delivery twice.` }]
      : [],
  );
  if (errors.length > 0) throw new Refused('invalid-input', { errors });
}
