import { Router } from 'express';
import type { Request } from 'express';
import { z } from 'zod';
import { consignmentCorrection, consignmentForm, consignmentPacks, handOver } from '../../contract';
import type { ConsignmentDetails, EndOfLifeAnswer } from '../../contract';
import type { ConsignmentId, PackId } from '../../core/measure';
import { allFacts, placeTemperatures, recordsOf, rulesInForce } from '../ledger';
import { Pack } from '../packs';
import { Person } from '../people';
import { decimalMark } from '../platform/csv';
import { sendFile } from '../platform/file';
import { admitted, idParam, parsed, route } from '../platform/http';
import type { Api } from '../platform/http';
import type { Entities } from '../platform/database';
import { Refused } from '../platform/problems';
import { readerZone } from '../platform/zone';
import { PackType, Place, placeAnswer, Recycler, recyclerAnswer } from '../register';
import { waiting } from '../today';
import { certificatePdf } from './certificate';
import { manifestCsv, manifestPdf } from './manifest';
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

const printAsked = z.object({ zone: readerZone, decimals: decimalMark });

/** The way out: decisions waiting, retired packs step by step, consignments and what is printed of them. */
export function recyclingRoutes(api: Api): Router {
  const router = Router();
  const reads = { action: 'register.read' } as const;
  route(router, api, 'get', '/end-of-life', reads, async ({ em, now }): Promise<EndOfLifeAnswer> => {
    const packs = await board(em, now);
    return {
      waiting: await waiting(em, now),
      board: packs,
      containers: fills(packs),
      consignments: await consignments(em),
    };
  });
  route(router, api, 'get', '/consignments/:id', reads, ({ em, params, now }) =>
    consignmentDetails(em, idParam<ConsignmentId>(params), now),
  );
  const begins = { action: 'consign', body: consignmentForm } as const;
  route(router, api, 'post', '/consignments', begins, ({ em, body, person, now }) =>
    startConsignment(em, body, person, now),
  );
  const changes = { action: 'consign', body: consignmentPacks } as const;
  route(router, api, 'post', '/consignments/:id/packs', changes, ({ em, body, params, person, now }) =>
    changePacks(em, idParam<ConsignmentId>(params), body, person, now),
  );
  const closes = { action: 'consign', body: handOver } as const;
  route(router, api, 'post', '/consignments/:id/hand-over', closes, ({ em, body, params, person, now }) =>
    closeConsignment(em, idParam<ConsignmentId>(params), body, person, now),
  );
  const corrects = { action: 'consign', body: consignmentCorrection } as const;
  route(router, api, 'post', '/consignments/:id/corrections', corrects, ({ em, body, params, person, now }) =>
    correctConsignment(em, idParam<ConsignmentId>(params), body, person, now),
  );
  printedRoutes(router, api);
  return router;
}

function printedRoutes(router: Router, api: Api): void {
  const asked = async (req: Request) => {
    const { em } = await admitted(api, req, 'register.read');
    const now = api.clock.now();
    const { zone, decimals } = parsed(printAsked, req.query);
    return { em, now, zone, decimals };
  };
  router.get('/consignments/:id/manifest.pdf', async (req, res) => {
    const { em, now, zone } = await asked(req);
    const consignment = await consignmentDetails(em, idParam<ConsignmentId>(req.params), now);
    const recycler = recyclerAnswer(await em.findOneOrFail(Recycler, { id: consignment.recyclerId }));
    sendFile(res, `${fileName(consignment)}.pdf`, await manifestPdf(consignment, { recycler, zone }));
  });
  router.get('/consignments/:id/manifest.csv', async (req, res) => {
    const { em, now, decimals } = await asked(req);
    const consignment = await consignmentDetails(em, idParam<ConsignmentId>(req.params), now);
    sendFile(res, `${fileName(consignment)}.csv`, manifestCsv(consignment, decimals));
  });
  router.get('/consignments/:id/manifest.json', async (req, res) => {
    const { em, now } = await asked(req);
    const consignment = await consignmentDetails(em, idParam<ConsignmentId>(req.params), now);
    const file = { format: 'malle.manifest', version: 1, ...consignment };
    sendFile(res, `${fileName(consignment)}.json`, JSON.stringify(file, null, 2));
  });
  router.get('/packs/:id/certificate.pdf', async (req, res) => {
    const { em, now, zone } = await asked(req);
    const id = idParam<PackId>(req.params);
    sendFile(res, 'life.pdf', await certificateOf(em, id, now, zone));
  });
}

function fileName({ id }: ConsignmentDetails): string {
  return `manifest-${id.slice(-8)}`;
}

async function certificateOf(em: Entities, id: PackId, now: number, zone: string): Promise<Buffer> {
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
  return certificatePdf({
    tag: pack.tag,
    typeName: type.name,
    facts: { ...facts!, placeTemperatures: await placeTemperatures(em) },
    records: ledger.map(({ record }) => record),
    rules: (await rulesInForce(em)).rules,
    headHash: ledger.at(-1)?.hash ?? '',
    people: people.map(({ id: personId, name, role }) => ({ id: personId, name, role })),
    places: (await em.find(Place, {})).map(placeAnswer),
    consignment,
    recycler: recycler && recyclerAnswer(recycler),
    zone,
  });
}
