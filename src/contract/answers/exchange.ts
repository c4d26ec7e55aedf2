import { z } from 'zod';
import { ROLES } from '../../core/lifecycle';
import type { ImportId, KeyId } from '../../core/measure';
import { IMPORT_KINDS } from '../exchange';
import { personId } from './people';
import { count, idOf, list, moment } from './schema';

export const importAnswer = z
  .strictObject({
    id: idOf<ImportId>(),
    kind: z.enum(IMPORT_KINDS),
    fileName: z.string(),
    digest: z.string(),
    columnsKey: z.string(),
    reading: z
      .looseObject({})
      .describe('How its columns were matched, its decimals, its dates and its words, as they were sent.'),
    lines: count,
    refused: count,
    packs: count.describe('Packs it brought in.'),
    records: count.describe('Records it brought in, receipts among them.'),
    by: personId,
    startedAt: moment,
    endedAt: moment.nullable().describe('Null while it is under way, or where it was left in the middle.'),
    takenBackBy: personId.nullable(),
    takenBackAt: moment.nullable(),
  })
  .meta({ id: 'Import' });

export const importedAnswer = z
  .strictObject({
    taken: count,
    refused: list(
      z.strictObject({ index: count.describe('Which of those sent, counted from 0.'), why: z.string() }),
    ),
  })
  .describe('What became of those sent; the good ones are in.');

export const takenBackAnswer = z.strictObject({
  records: count,
  packs: count.describe('Packs that left the lists, for nothing is said of them any more.'),
  kept: list(z.string()).describe('Tags of packs that stay, because other records were written since.'),
});

export const keyAnswer = z
  .strictObject({
    id: idOf<KeyId>(),
    name: z.string(),
    role: z.enum(ROLES),
    personId: personId.describe('Whoever made it; what it writes carries their name.'),
    madeAt: moment,
    endsAt: moment,
    endedAt: moment.nullable(),
    usedAt: moment.nullable().describe('When it was last used, to the minute.'),
  })
  .meta({ id: 'Key' });

export const newKeyAnswer = keyAnswer
  .extend({ secret: z.string().describe('The key itself. It is told this once and kept nowhere.') })
  .meta({ id: 'NewKey' });
