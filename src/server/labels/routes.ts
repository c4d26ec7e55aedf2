import { Router } from 'express';
import { z } from 'zod';
import { LABEL_SHEETS } from '../../contract';
import type { LabelSheet } from '../../contract';
import type { PackId } from '../../core/measure';
import { labelLines } from '../../core/wording';
import { allFacts, rulesInForce } from '../ledger';
import { Pack } from '../packs';
import { sendFile } from '../platform/file';
import { admitted, parsed, publicAddress } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { labelSheet } from './sheet';

const asked = z.object({
  ids: z
    .string('Say which packs.')
    .transform((value) => value.split(','))
    .pipe(z.array(z.uuid('This is not an id.')).min(1).max(200, 'At most 200 labels at once.')),
  sheet: z.enum(Object.keys(LABEL_SHEETS) as [LabelSheet, ...LabelSheet[]], 'Choose a sheet.'),
  skip: z.coerce.number().int().min(0).max(100, 'At most 100 used labels.').default(0),
});

/** Tag labels to print: a code that opens the pack, and the facts a hand needs. */
export function labelRoutes(api: Api): Router {
  const router = Router();
  router.get('/labels.pdf', async (req, res) => {
    const { em } = await admitted(api, req, 'register.read');
    const { ids, sheet, skip } = parsed(asked, req.query);
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
    const pdf = await labelSheet(labels, sheet, skip);
    sendFile(res, 'labels.pdf', pdf);
  });
  return router;
}
