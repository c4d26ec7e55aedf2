import type { RulesAnswer } from '../../contract';
import type { Instant } from '../../core/measure';
import { DEFAULT_PRESET, PRESET_RULES, readRules } from '../../core/rules';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';

/** The newest adopted house rules. A register always has some: the first are laid down when it is opened. */
export async function rulesInForce(em: Entities): Promise<RulesAnswer> {
  const [row]: { version: number; rules: unknown; adopted_at: number }[] = await em.execute(
    `select version, rules, ${asInstant('adopted_at')} as adopted_at from rule_set order by version desc limit 1`,
  );
  if (!row) throw new Error('The register has no house rules; it was never opened.');
  return { version: row.version, rules: readRules(row.rules).rules, adoptedAt: row.adopted_at };
}

/** Gives a new register its first house rules, the middle road. Harmless when it has some. */
export async function layDownFirstRules(em: Entities, now: Instant): Promise<void> {
  await em.execute(
    `insert into rule_set (version, rules, adopted_at, adopted_by, reason) values (1, ?::jsonb, ?, null, ?)
     on conflict (version) do nothing`,
    [JSON.stringify(PRESET_RULES[DEFAULT_PRESET]), timestamp(now), 'The register’s first rules'],
  );
}
