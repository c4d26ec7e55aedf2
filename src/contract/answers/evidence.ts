import { z } from 'zod';
import { count, list, moment } from './schema';

const evidenceFinding = z
  .strictObject({
    what: z.string().describe('What does not hold: a pack’s ledger, a person, a closed consignment.'),
    why: z.string().describe('How that shows.'),
    heldAt: moment
      .nullable()
      .describe('The newest moment at which it is known to have held; null where no checkpoint tells.'),
  })
  .meta({ id: 'EvidenceFinding' });
export type EvidenceFinding = z.infer<typeof evidenceFinding>;

export const verificationAnswer = z
  .strictObject({
    at: moment,
    packs: count,
    records: count,
    entries: count.describe('Entries of the register’s log.'),
    checkpoints: count,
    against: z.int().nullable().describe('The number of the checkpoint from outside; null for none.'),
    findings: list(evidenceFinding),
  })
  .meta({ id: 'Verification' });

export const checkpointAnswer = z
  .strictObject({
    number: z.int().min(1),
    at: moment,
    leaves: count.describe('So many things it speaks for.'),
    root: z.string().describe('The root of the tree over all of them.'),
    text: z.string().describe('What is signed, the key and the signature: what leaves the machine.'),
  })
  .meta({ id: 'Checkpoint' });

export const evidenceAnswer = z.strictObject({
  canSign: z.boolean().describe('Whether this server has the register’s key.'),
  checkpoints: list(checkpointAnswer).describe('The newest first.'),
  mail: z
    .strictObject({
      to: list(z.string()),
      number: z.int().nullable().describe('The newest checkpoint that went out.'),
      at: moment.nullable().describe('When it did.'),
      problem: z.string().nullable().describe('What was wrong when a letter was last tried.'),
    })
    .nullable()
    .describe('Who gets checkpoints by mail; null where this server sends none.'),
  last: verificationAnswer.nullable().describe('What was found when somebody last looked.'),
});
