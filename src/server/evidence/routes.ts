import { Router } from 'express';
import type { CheckpointAnswer, VerificationAnswer } from '../../contract';
import { file } from '../platform/file';
import { heavyTask } from '../platform/heavy';
import { openInWorker } from '../platform/database';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused, refusedField } from '../platform/problems';
import { readSetting, writeSetting } from '../platform/settings';
import type { Instant } from '../../core/measure';
import { checkpoints, makeCheckpoint } from './checkpoints';
import type { Checkpoint } from './checkpoints';
import { mailed } from './mailing';
import type { Mailed } from './mailing';
import { checkpointText, readCheckpoint, readStatement } from './statement';
import { verifyRegister } from './verify';
import type { Outside } from './verify';

/** So many are shown; all are kept. */
const SHOWN = 30;

interface VerificationOf extends Outside {
  readonly databaseUrl: string;
  readonly now: Instant;
}

/** Every record is read and every pack judged: done beside the server. */
export const VERIFY = heavyTask<VerificationOf, VerificationAnswer>('verify');

export async function verificationOf({
  databaseUrl,
  now,
  ...outside
}: VerificationOf): Promise<VerificationAnswer> {
  return verifyRegister((await openInWorker(databaseUrl)).entities(), outside, now);
}

/** Whether the register is still what it was: checkpoints to take away, and what a look at all of it finds. */
export function evidenceRoutes(api: Api): Router {
  const router = Router();
  const { signer, mail } = api;
  route(router, api, 'GET /evidence', async ({ em }) => ({
    canSign: signer !== null,
    checkpoints: (await checkpoints(em, SHOWN)).map(told),
    mail: mail && { to: [...mail.to], ...lettersTold(await mailed(em)) },
    last: (await readSetting<VerificationAnswer>(em, 'verification')) ?? null,
  }));
  route(router, api, 'POST /evidence/checkpoints', async ({ em, now }) => {
    if (!signer) throw new Refused('not-found', { detail: 'This server has no key to sign with.' });
    return told((await makeCheckpoint(em, signer, now))!);
  });
  route(router, api, 'GET /evidence/checkpoints/:number.txt', async ({ em, params }) => {
    const number = Number(params.number);
    const [one] = Number.isSafeInteger(number) ? await checkpoints(em, 1, number) : [];
    if (one?.number !== number) throw new Refused('not-found', { detail: 'There is no such checkpoint.' });
    return file(`checkpoint-${number}.txt`, checkpointText(one));
  });
  route(router, api, 'POST /evidence/verification', async ({ em, now, body: { checkpoint }, heavily }) => {
    if (checkpoint !== null && !readCheckpoint(checkpoint))
      throw refusedField('checkpoint', 'This is not the text of a checkpoint. Take all of its lines.');
    const asked = { databaseUrl: api.database.url, now, checkpoint, key: signer?.publicKey ?? null };
    const found = await heavily(VERIFY, asked);
    await writeSetting(em, 'verification', found);
    return found;
  });
  return router;
}

function lettersTold(news: Mailed | null) {
  return { number: news?.number ?? null, at: news?.at ?? null, problem: news?.problem ?? null };
}

function told(checkpoint: Checkpoint): CheckpointAnswer {
  const { leaves, root } = readStatement(checkpoint.statement) ?? { leaves: 0, root: '' };
  return { number: checkpoint.number, at: checkpoint.at, leaves, root, text: checkpointText(checkpoint) };
}
