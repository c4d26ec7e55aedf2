import { Router } from 'express';
import type { ConsignmentDetails } from '../../contract';
import type { ConsignmentId, PackId } from '../../core/measure';
import { checkpointOnPaper } from '../evidence';
import { allFacts, placeTemperatures, recordsOf, rulesInForce } from '../ledger';
import { Pack } from '../packs';
import { Craft } from '../flying';
import { Person } from '../people';
import { file } from '../platform/file';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { printed } from '../platform/pdf';
import type { PaperDocument } from '../platform/pdf';
import { aSecond } from '../platform/shared';
import type { Entities } from '../platform/database';
import { Refused } from '../platform/problems';
import { PackType, Place, placeAnswer, Recycler, recyclerAnswer } from '../register';
import { waiting } from '../today';
import { lifeOnOnePage } from './certificate';
import { manifestCsv, manifestOnPaper } from './manifest';
import {
  board,
  changePacks,
  closeConsignment,
  consignmentDetails,
  consignments,
  correctConsignment,
  fills,
  startConsignment,
} from './service';

/** The way out: decisions waiting, retired packs step by step, consignments and what is printed of them. */
export function recyclingRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /end-of-life', aSecond, async ({ em, now }) => {
    const packs = await board(em, now);
    return {
      waiting: await waiting(em, now),
      board: packs,
      containers: fills(packs),
      consignments: await consignments(em),
    };
  });
  route(router, api, 'GET /consignments/:id', ({ em, params, now }) =>
    consignmentDetails(em, idParam<ConsignmentId>(params), now),
  );
  route(router, api, 'POST /consignments', ({ em, body, person, now }) =>
    startConsignment(em, body, person, now),
  );
  route(router, api, 'POST /consignments/:id/packs', ({ em, body, params, person, now }) =>
    changePacks(em, idParam<ConsignmentId>(params), body, person, now),
  );
  route(router, api, 'POST /consignments/:id/hand-over', ({ em, body, params, person, now }) =>
    closeConsignment(em, idParam<ConsignmentId>(params), body, person, now),
  );
  route(router, api, 'POST /consignments/:id/corrections', ({ em, body, params, person, now }) =>
    correctConsignment(em, idParam<ConsignmentId>(params), body, person, now),
  );
  printedRoutes(router, api);
  return router;
}

function printedRoutes(router: Router, api: Api): void {
  route(router, api, 'GET /consignments/:id/manifest.pdf', async ({ em, params, query, now, heavily }) => {
    const consignment = await consignmentDetails(em, idParam<ConsignmentId>(params), now);
    const recycler = recyclerAnswer(await em.findOneOrFail(Recycler, { id: consignment.recyclerId }));
    const { zone } = query;
    const checkpoint = await checkpointOnPaper(em, api.signer, now, zone);
    const document = manifestOnPaper(consignment, { recycler, zone, checkpoint });
    return file(`${fileName(consignment)}.pdf`, await printed(heavily, document));
  });
  route(router, api, 'GET /consignments/:id/manifest.csv', async ({ em, params, query, now }) => {
    const consignment = await consignmentDetails(em, idParam<ConsignmentId>(params), now);
    return file(`${fileName(consignment)}.csv`, manifestCsv(consignment, query.decimals));
  });
  route(router, api, 'GET /consignments/:id/manifest.json', async ({ em, params, now }) => {
    const consignment = await consignmentDetails(em, idParam<ConsignmentId>(params), now);
    const manifest = { format: 'malle.manifest', version: 1, ...consignment };
    return file(`${fileName(consignment)}.json`, JSON.stringify(manifest, null, 2));
  });
  route(router, api, 'GET /packs/:id/certificate.pdf', async ({ em, params, query, now, heavily }) =>
    file(
      'life.pdf',
      await printed(heavily, await certificateOf(em, idParam<PackId>(params), now, query.zone)),
    ),
  );
}

function fileName({ id }: ConsignmentDetails): string {
  return `manifest-${id.slice(-8)}`;
}

async function certificateOf(em: Entities, id: PackId, now: number, zone: string): Promise<PaperDocument> {
  const pack = await em.findOne(Pack, { id });
  if (!pack) throw new Refused('not-found', { detail: 'There is no such pack.' });
  const type = await em.findOneOrFail(PackType, { id: pack.typeId });
  const [facts] = await allFacts(em, [id]);
  const ledger = await recordsOf(em, id);
  const [state]: { consignmentId: ConsignmentId | null }[] = await em.execute(
    'select consignment_id as "consignmentId" from pack_state where pack_id = ?',
    [id],
  );
  const consignment = state?.consignmentId ? await consignmentDetails(em, state.consignmentId, now) : null;
  const recycler = consignment ? await em.findOne(Recycler, { id: consignment.recyclerId }) : null;
  const people = await em.find(Person, {});
  return lifeOnOnePage({
    tag: pack.tag,
    typeName: type.name,
    facts: { ...facts!, placeTemperatures: await placeTemperatures(em) },
    records: ledger.map(({ record }) => record),
    rules: (await rulesInForce(em)).rules,
    headHash: ledger.at(-1)?.hash ?? '',
    craft: await em.find(Craft, {}),
    people: people.map(({ id: personId, name, role }) => ({ id: personId, name, role })),
    places: (await em.find(Place, {})).map(placeAnswer),
    consignment,
    recycler: recycler && recyclerAnswer(recycler),
    zone,
  });
}
