import type { FactorsAnswer } from '../../contract';
import type { PersonId } from '../../core/measure';
import { asInstant } from '../platform/columns';
import type { Entities } from '../platform/database';
import { readSetting } from '../platform/settings';
import { endCodes } from './codes';

/** Whether a person `p` has codes of a phone that count, or a passkey, which a device gives to its owner only. */
export const HAS_FACTOR = `(exists (select from one_time_code c where c.person_id = p.id and c.proven_at is not null)
  or exists (select from passkey k where k.person_id = p.id))`;

/** Whether a person `p` is without the second factor that this register asks of custodians. */
export const LACKS_FACTOR = `(p.role = 'custodian' and not ${HAS_FACTOR}
  and exists (select from setting s where s.key = 'custodian-factor' and s.value = 'true'::jsonb))`;

/** What a person comes in with besides a password. */
export async function factorsOf(em: Entities, id: PersonId): Promise<FactorsAnswer> {
  const [codes]: { since: number | null }[] = await em.execute(
    `select ${asInstant('proven_at')} as since from one_time_code where person_id = ?`,
    [id],
  );
  const [spare]: { left: number }[] = await em.execute(
    'select count(*)::int as left from spare_code where person_id = ?',
    [id],
  );
  return {
    asked: (await readSetting<boolean>(em, 'custodian-factor')) === true,
    codesSince: codes?.since ?? null,
    spareCodes: spare!.left,
    passkeys: await em.execute(
      `select id, name, ${asInstant('made_at')} as "madeAt", ${asInstant('used_at')} as "usedAt"
         from passkey where person_id = ? order by made_at`,
      [id],
    ),
  };
}

export async function hasFactor(em: Entities, id: PersonId): Promise<boolean> {
  const [row]: { has: boolean }[] = await em.execute(
    `select ${HAS_FACTOR} as has from person p where p.id = ?`,
    [id],
  );
  return row?.has === true;
}

/** Takes codes, spare codes and passkeys of somebody away. */
export async function endFactors(em: Entities, id: PersonId): Promise<void> {
  await endCodes(em, id);
  await em.execute('delete from passkey where person_id = ?', [id]);
}
