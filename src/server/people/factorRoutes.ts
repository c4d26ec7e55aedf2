import { Router } from 'express';
import type { LogDeed } from '../../contract';
import { note } from '../log';
import type { Entities } from '../platform/database';
import { doerOf, idParam, route } from '../platform/http';
import type { Api, DoerAsked, SignedIn } from '../platform/http';
import { Refused } from '../platform/problems';
import { beginCodes, endCodes, proveCodes } from './codes';
import { Person } from './entities';
import { factorsOf } from './factors';
import { challengeToKeep, endPasskey, keepPasskey } from './passkeys';
import { benchPassOf, endSharedBench, makeSharedBench, setBenchPass, sharedBenches } from './sharedBench';

/** What people come in with besides a password: codes of a phone, passkeys, and at shared benches a PIN or a badge. */
export function factorRoutes(api: Api): Router {
  const router = Router();

  route(router, api, 'GET /session/factors', ({ em, person }) => factorsOf(em, person.id));

  route(router, api, 'POST /session/codes', async ({ em, person }) =>
    beginCodes(em, api.signer, await ownAccount(em, person)),
  );

  route(router, api, 'POST /session/codes/confirmation', async (asked) => {
    const { em, person, body, now } = asked;
    const spareCodes = await proveCodes(em, api.signer, await ownAccount(em, person), body.code, now);
    await told(asked, 'set-up-factor', 'codes of a phone');
    return { spareCodes };
  });

  route(router, api, 'DELETE /session/codes', async (asked) => {
    await endCodes(asked.em, asked.person.id);
    await told(asked, 'took-factor', 'codes of a phone');
  });

  route(router, api, 'POST /session/passkeys/challenge', async ({ em, req, person }) =>
    challengeToKeep(em, req, await ownAccount(em, person)),
  );

  route(router, api, 'POST /session/passkeys', async (asked) => {
    const { em, req, person, body, now } = asked;
    await keepPasskey(em, req, person.id, body, now);
    await told(asked, 'set-up-factor', `passkey ${body.name}`);
    return factorsOf(em, person.id);
  });

  route(router, api, 'DELETE /session/passkeys/:id', async (asked) => {
    const { em, person, params } = asked;
    if (!(await endPasskey(em, person.id, params.id ?? ''))) throw new Refused('not-found');
    await told(asked, 'took-factor', 'a passkey');
  });

  route(router, api, 'GET /session/bench-pass', ({ em, person }) => benchPassOf(em, person.id));

  route(router, api, 'PUT /session/bench-pass', async (asked) => {
    const { em, person, body } = asked;
    await setBenchPass(em, person.id, body);
    const said = (['pin', 'badge'] as const).filter((name) => body[name] !== undefined);
    if (said.length > 0) await told(asked, 'set-bench-pass', said.join(' and '));
    return benchPassOf(em, person.id);
  });

  route(router, api, 'GET /shared-benches', ({ em, req }) => sharedBenches(em, req));

  route(router, api, 'POST /shared-benches', ({ em, req, person, body, now }) =>
    makeSharedBench(em, req, body.name, person.id, now),
  );

  route(router, api, 'DELETE /shared-benches/:id', async ({ em, params, now }) => {
    if (!(await endSharedBench(em, idParam(params), now))) throw new Refused('not-found');
  });

  return router;
}

/** Whoever asks, with the name they sign in by. */
async function ownAccount(em: Entities, { id }: SignedIn) {
  return em.findOneOrFail(Person, { id });
}

/** Writes into the register's log what somebody changed of how they come in; never what they come in with. */
async function told(
  asked: DoerAsked & { readonly em: Entities; readonly person: SignedIn },
  did: LogDeed,
  what: string,
): Promise<void> {
  const { em, person } = asked;
  await note(em, {
    ...{ ...doerOf(asked), did, subject: 'person', subjectId: person.id, name: person.name },
    changes: { what: [null, what] },
  });
}
