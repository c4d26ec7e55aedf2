import type { Router } from 'express';
import { v7 as newId } from 'uuid';
import type { EquipmentFacts } from '../../core/charging';
import type { EquipmentId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused, refusedField } from '../platform/problems';
import { Equipment } from './entities';
import { store } from './store';

/** Chargers, loads, boards, adapters and supplies: adding and editing. What is no longer used stays, since jobs and charges name it. */
export function equipmentRoutes(router: Router, api: Api): void {
  route(router, api, 'POST /equipment', async ({ em, body }) => {
    const facts = body.facts as EquipmentFacts;
    await refuseUnknownSupply(em, facts);
    const equipment = em.create(Equipment, { ...body, facts, id: newId() as EquipmentId, version: 1 });
    await store(em);
    await announce(em, { about: 'charging' });
    return equipment;
  });

  route(router, api, 'PUT /equipment/:id', async ({ em, body, params }) => {
    const { version: madeFrom, ...form } = body;
    const facts = form.facts as EquipmentFacts;
    const equipment = await em.findOne(Equipment, { id: idParam<EquipmentId>(params) });
    if (!equipment) throw new Refused('not-found');
    if (equipment.version !== madeFrom) throw new Refused('changed-meanwhile');
    if (equipment.facts.kind !== facts.kind)
      throw refusedField('facts.kind', 'What a thing is does not change. Add another one.');
    await refuseUnknownSupply(em, facts);
    em.assign(equipment, { ...form, facts });
    await store(em);
    await announce(em, { about: 'charging' });
    return equipment;
  });
}

/** A charger hangs on a supply of this bench, if on any it names. */
async function refuseUnknownSupply(em: Entities, facts: EquipmentFacts): Promise<void> {
  if (facts.kind !== 'charger' || facts.supplyId === null) return;
  const supply = await em.findOne(Equipment, { id: facts.supplyId });
  if (supply?.facts.kind !== 'supply')
    throw refusedField('facts.supplyId', 'There is no such supply on this bench.');
}
