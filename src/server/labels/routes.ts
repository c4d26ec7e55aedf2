import { Router } from 'express';
import type { PackId } from '../../core/measure';
import { labelLines } from '../../core/wording';
import { allFacts, rulesInForce } from '../ledger';
import { Pack } from '../packs';
import { file } from '../platform/file';
import { publicAddress, route } from '../platform/http';
import type { Api } from '../platform/http';
import { printed } from '../platform/pdf';
import { Refused } from '../platform/problems';
import { labelSheet } from './sheet';

/** Tag labels to print: a code that opens the pack, and the facts a hand needs. */
export function labelRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /labels.pdf', async ({ em, query, req, heavily }) => {
    const { ids, sheet, skip } = query;
    const packs = await em.find(Pack, { id: { $in: ids as PackId[] } }, { orderBy: { tagKey: 'asc' } });
    if (packs.length === 0) throw new Refused('not-found', { detail: 'There are no such packs.' });
    const facts = new Map(
      (
        await allFacts(
          em,
          packs.map(({ id }) => id),
        )
      ).map((one) => [one.id, one]),
    );
    const { rules } = await rulesInForce(em);
    const labels = packs.map(({ id, tag }) => ({
      tag,
      lines: labelLines(facts.get(id)!, rules),
      address: `${publicAddress(req)}/tag/${encodeURIComponent(tag)}`,
    }));
    return file('labels.pdf', await printed(heavily, labelSheet(labels, sheet, skip)));
  });
  return router;
}
