import { Router } from 'express';
import type { ImportId, PackId } from '../../core/measure';
import { DAY_MS } from '../../core/measure';
import { recordsOf } from '../ledger';
import { note } from '../log';
import { Pack } from '../packs';
import { csv } from '../platform/csv';
import { file } from '../platform/file';
import { doerOf, idParam, rawRoute, route } from '../platform/http';
import type { Entities } from '../platform/database';
import type { Api, Asked, DoerAsked } from '../platform/http';
import { isoDay } from '../platform/paper';
import { printed } from '../platform/pdf';
import { Refused } from '../platform/problems';
import { whileAsked } from '../platform/progress';
import { beginImport, endImport, imports, takeImportBack, takePacks, takeRecords } from './imports';
import { lifeOnPaper, listOnPaper } from './onPaper';
import { LISTS, lifeOf, listOf, namesIn } from './lists';
import { readArchive } from './readArchive';
import { writePack, writeRegister } from './writeArchive';

/** What comes in from a club's books, and what goes out to other programs and other registers. */
export function exchangeRoutes(api: Api): Router {
  const router = Router();
  const importId = (params: Readonly<Record<string, string>>) => idParam<ImportId>(params);
  route(router, api, 'GET /imports', ({ em }) => imports(em));
  route(router, api, 'POST /imports', ({ em, body, person, now }) => beginImport(em, body, person, now));
  route(router, api, 'POST /imports/:id/packs', ({ em, body, params, person, now }) =>
    takePacks(em, importId(params), body, person, now),
  );
  route(router, api, 'POST /imports/:id/records', ({ em, body, params, person, now }) =>
    takeRecords(em, importId(params), body, person, now),
  );
  route(router, api, 'POST /imports/:id/end', ({ em, body, params, now }) =>
    endImport(em, importId(params), body.refused, now),
  );
  route(router, api, 'POST /imports/:id/take-back', ({ em, body, params, person, now }) =>
    takeImportBack(em, importId(params), body.reason, person, now),
  );

  const listed = async ({ em, params, query, now }: ListRequest) => {
    const name = LISTS.find((one) => one === params.table);
    if (!name)
      throw new Refused('not-found', { detail: `There is no such list. There are: ${LISTS.join(', ')}.` });
    // PostgreSQL knows no moment before its calendar begins; nothing here happened before the year 2000.
    const from = Math.max(query.from ?? 0, EARLIEST);
    const to = Math.min(query.to ?? now + DAY_MS, now + DAY_MS);
    return { name, list: await listOf(em, name, { from, to, zone: query.zone, now }) };
  };
  route(router, api, 'GET /exports/:table.csv', async (asked) => {
    const { name, list } = await listed(asked);
    await takenOut(asked, `${name}, for a spreadsheet`);
    return file(`${name}.csv`, csv(list.titles, list.rows, asked.query.decimals));
  });
  route(router, api, 'GET /exports/:table.pdf', async (asked) => {
    const { name, list } = await listed(asked);
    await takenOut(asked, `${name}, on paper`);
    return file(`${name}.pdf`, await printed(asked.heavily, listOnPaper(name, list)));
  });
  route(router, api, 'GET /packs/:id/life.csv', async ({ em, params, query: { zone, decimals } }) => {
    const { pack, records } = await ledgerOf(em, idParam<PackId>(params));
    const { titles, rows } = lifeOf(records, await namesIn(em, zone), zone);
    return file(`${fileName(pack.tag)}.csv`, csv(titles, rows, decimals));
  });
  route(router, api, 'GET /packs/:id/life.pdf', async ({ em, params, query: { zone }, heavily }) => {
    const { pack, records } = await ledgerOf(em, idParam<PackId>(params));
    const document = lifeOnPaper(pack.tag, lifeOf(records, await namesIn(em, zone), zone));
    return file(`${fileName(pack.tag)}.pdf`, await printed(heavily, document));
  });

  rawRoute(router, api, 'GET /archive', async (asked, res) => {
    const { em, now } = asked;
    await takenOut(asked, 'the whole register');
    packed(res, `register-${isoDay(now, 'UTC')}`);
    await writeRegister(em, res, whileAsked(res));
  });
  rawRoute(router, api, 'GET /archive/packs/:id', async ({ em, params }, res) => {
    const { pack } = await ledgerOf(em, idParam<PackId>(params));
    packed(res, fileName(pack.tag));
    await writePack(em, pack.id, res, whileAsked(res));
  });
  route(router, api, 'PUT /archive', async (asked) => {
    const { em, req } = asked;
    const read = await readArchive(em, req);
    await note(em, {
      ...{ ...doerOf(asked), did: 'restored', subject: 'register', subjectId: null, name: null },
      changes: { packs: [null, read.packs], records: [null, read.records] },
    });
    return read;
  });
  return router;
}

/** What a list is asked by, on screen or on paper. */
type ListRequest = Pick<Asked<'GET /exports/:table.csv'>, 'em' | 'params' | 'query' | 'now'>;

const EARLIEST = Date.UTC(2000, 0, 1);

/** The register's log says who took what out of it. */
async function takenOut(asked: DoerAsked & { readonly em: Entities }, what: string): Promise<void> {
  await note(asked.em, {
    ...{ ...doerOf(asked), did: 'exported', subject: 'export', subjectId: null, name: what, changes: {} },
  });
}

async function ledgerOf(em: Parameters<typeof recordsOf>[0], id: PackId) {
  const pack = await em.findOne(Pack, { id });
  if (!pack) throw new Refused('not-found', { detail: 'There is no such pack.' });
  return { pack, records: (await recordsOf(em, id)).map(({ record }) => record) };
}

/** A tag may hold what a file's name must not. */
function fileName(tag: string): string {
  return tag.replace(/[^\p{L}\p{N}_-]+/gu, '-').replace(/[^\x20-\x7e]/g, '_');
}

function packed(res: Parameters<typeof whileAsked>[0], name: string): void {
  res.set('content-disposition', `attachment; filename="${name}.malle.jsonl.gz"`).type('application/gzip');
}
