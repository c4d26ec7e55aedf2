import type { RulesAnswer } from '../../contract';
import type { Instant } from '../../core/measure';
import { DEFAULT_PRESET, PRESET_RULES, readRules } from '../../core/rules';
import type { HouseRules } from '../../core/rules';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';

/** The row of the newest adopted house rules, as SQL; its rules as text, so that a text known already is not read again. */
export const NEWEST_RULES = `select version, rules::text as rules, ${asInstant('adopted_at')} as adopted_at
  from rule_set order by version desc limit 1`;

export interface RulesRow {
  readonly version: number;
  readonly rules: string;
  readonly adopted_at: number;
}

/** The newest adopted house rules. A register always has some: the first are laid down when it is opened. */
export async function rulesInForce(em: Entities): Promise<RulesAnswer> {
  const [row]: RulesRow[] = await em.execute(NEWEST_RULES);
  return rulesFrom(row);
}

/** Rules are read value by value, and the same ones are asked for at every record. */
let lastRead: { readonly text: string; readonly rules: HouseRules } | null = null;

export function rulesFrom(row: RulesRow | null | undefined): RulesAnswer {
  if (!row) throw new Error('The register has no house rules; it was never opened.');
  if (lastRead?.text !== row.rules)
    lastRead = { text: row.rules, rules: readRules(JSON.parse(row.rules)).rules };
  return { version: row.version, rules: lastRead.rules, adoptedAt: row.adopted_at };
}

/** Gives a new register its first house rules, the middle road. Harmless when it has some. */
export async function layDownFirstRules(em: Entities, now: Instant): Promise<void> {
  await em.execute(
    `insert into rule_set (version, rules, adopted_at, adopted_by, reason) values (1, ?::jsonb, ?, null, ?)
     on conflict (version) do nothing`,
    [JSON.stringify(PRESET_RULES[DEFAULT_PRESET]), timestamp(now), 'The register’s first rules'],
  );
}
