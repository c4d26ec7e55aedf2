import type { Router } from 'express';
import { v7 as newId } from 'uuid';
import type { z } from 'zod';
import type { mapForm, PlaceAnswer } from '../../contract';
import type { Instant, PlaceId } from '../../core/measure';
import { tagKey } from '../../core/pack';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { doerOf, idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { announce } from '../platform/live';
import { Refused, refusedField } from '../platform/problems';
import { packIdByTag } from '../packs';
import type { Rejudging } from '../rules';
import { Place } from './entities';
import type { PlaceEntity } from './entities';
import { store } from './store';

/** Before anything in a register happened: a place's first known temperature is taken to have held always. */
const ALWAYS: Instant = Date.UTC(2000, 0, 1);

/** Where packs lie: adding and editing places, and drawing them on the map. */
export function placeRoutes(router: Router, api: Api, rejudge: Rejudging): void {
  route(router, api, 'POST /places', async ({ em, body, now }) => {
    await refuseTakenCode(em, body.code, null);
    const id = newId() as PlaceId;
    const place = em.create(Place, { ...body, codeKey: body.code && tagKey(body.code), id, version: 1 });
    await store(em);
    await noteTemperature(em, place.id, null, body.celsius, now);
    return placeAnswer(place);
  });

  route(router, api, 'PUT /places/:id', async ({ em, body, params, now }) => {
    const { version: madeFrom, ...facts } = body;
    const place = await em.findOne(Place, { id: idParam<PlaceId>(params) });
    if (!place) throw new Refused('not-found');
    if (place.version !== madeFrom) throw new Refused('changed-meanwhile');
    await refuseTakenCode(em, facts.code, place.id);
    const before = place.celsius ?? null;
    em.assign(place, { ...facts, codeKey: facts.code && tagKey(facts.code) });
    await store(em);
    if (await noteTemperature(em, place.id, before, facts.celsius, now)) rejudge.begin();
    return placeAnswer(place);
  });

  route(router, api, 'PUT /map', async (asked) => {
    const { em, body } = asked;
    await em.transactional((tx) =>
      arrange(tx, body, (id, work) =>
        api.logged(tx, { did: 'changed', of: 'place' }, doerOf(asked), id, work),
      ),
    );
  });
}

/** A place as the web sees it. */
export function placeAnswer(place: PlaceEntity): PlaceAnswer {
  const { id, version: current, name, kind, fireResistant, metal, slots } = place;
  // The database leaves out what it does not hold.
  const { code = null, capacity = null, celsius = null, map = null } = place;
  const { setApart, limitKg = null, limitWh = null } = place;
  const facts = {
    name,
    kind,
    fireResistant,
    metal,
    code,
    capacity,
    slots,
    celsius,
    map,
    setApart,
    limitKg,
    limitWh,
  };
  return { id, version: current, ...facts };
}

/**
 * Puts places on the map. Where two people draw at once, the last to drop a place has it where they dropped it; a form
 * opened before that no longer fits and is refused, so that it cannot put the place back.
 * @param logged does the work on one place and has the register's log tell of it
 */
async function arrange(
  em: Entities,
  { places }: z.output<typeof mapForm>,
  logged: (id: string, work: (tx: Entities) => Promise<unknown>) => Promise<unknown>,
): Promise<void> {
  // All of them are held before the first entry of the log is written: whoever writes there waits for nobody's place.
  await em.execute('select id from place where id = any(?::uuid[]) order by id for update', [
    `{${places.map(({ id }) => id).join(',')}}`,
  ]);
  for (const { id, map } of places)
    await logged(id, (tx) =>
      tx.execute('update place set map = ?::jsonb, version = version + 1 where id = ?', [
        map && JSON.stringify(map),
        id,
      ]),
    );
  await announce(em, { about: 'register' });
}

/** A scan must mean one thing: no place has a pack's tag, former tags among them, and no two places one code. */
async function refuseTakenCode(em: Entities, code: string | null, own: PlaceId | null): Promise<void> {
  if (code === null) return;
  if (await packIdByTag(em, code)) throw refusedField('code', 'This is, or was, the tag of a pack.');
  const other = await em.findOne(Place, { codeKey: tagKey(code) });
  if (other && other.id !== own) throw refusedField('code', `${other.name} has this code already.`);
}

/**
 * Keeps what a place was like. Packs that ever lay there are judged anew in the background, since they spent their time
 * warmer or cooler than was thought.
 * @returns whether anything changed
 */
async function noteTemperature(
  em: Entities,
  placeId: PlaceId,
  before: number | null,
  celsius: number | null,
  now: Instant,
): Promise<boolean> {
  if (celsius === before || celsius === null) return false;
  const since = before === null ? ALWAYS : now;
  await em.execute(
    `insert into place_temperature (place_id, since, celsius) values (?, ?, ?)
     on conflict (place_id, since) do update set celsius = excluded.celsius`,
    [placeId, timestamp(since), celsius],
  );
  await em.execute(
    `update pack_state set rules_version = 0
      where pack_id in (select pack_id from record where payload ->> 'placeId' = ?)`,
    [placeId],
  );
  return true;
}
