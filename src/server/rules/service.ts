import type { z } from 'zod';
import { rulesAsked } from '../../contract';
import type { adoptRules, RulesHistoryAnswer, RulesVersion } from '../../contract';
import type { Instant, PersonId } from '../../core/measure';
import { changedChecklists, checklistRefusals } from '../../core/inspection';
import { changedFields, readRules, ruleRefusals } from '../../core/rules';
import type { HouseRules } from '../../core/rules';
import { checklistRefusalSentence, ruleRefusalSentence } from '../../core/wording';
import { rulesInForce } from '../ledger';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';

/** Every rule set the register ever had, newest first, and how far the packs have been judged under the newest. */
export async function rulesHistory(em: Entities): Promise<RulesHistoryAnswer> {
  const rows: {
    version: number;
    rules: unknown;
    adoptedAt: Instant;
    adoptedBy: PersonId | null;
    reason: string;
  }[] = await em.execute(
    `select version, rules, ${asInstant('adopted_at')} as "adoptedAt", adopted_by as "adoptedBy", reason
         from rule_set order by version desc`,
  );
  const moves: ({ version: number } & RulesVersion['moved'][number])[] = await em.execute(
    `select rules_version as version, was, became, count(*)::int as packs from verdict_move
      group by rules_version, was, became order by packs desc, was, became`,
  );
  const versions: RulesVersion[] = rows.map((row) => ({
    ...row,
    ...readRules(row.rules),
    moved: moves
      .filter(({ version }) => version === row.version)
      .map(({ was, became, packs }) => ({ was, became, packs })),
  }));
  const [counts]: { packs: number; judged: number }[] = await em.execute(
    `select count(*)::int as packs, count(*) filter (where rules_version >= ?)::int as judged from pack_state`,
    [versions[0]!.version],
  );
  return { versions, ...counts! };
}

/**
 * Adopts new house rules under a name and a reason. Records written from now on are judged under them; the rest of the
 * register follows (see rejudge).
 */
export async function adopt(
  em: Entities,
  asked: z.output<typeof adoptRules>,
  by: PersonId,
  now: Instant,
): Promise<void> {
  await em.transactional(async (tx) => {
    // Two people adopting at once wait for each other here; the second then finds its basis outdated.
    await tx.execute('lock table rule_set in share row exclusive mode');
    const inForce = await rulesInForce(tx);
    if (inForce.version !== asked.basedOn) {
      throw new Refused('changed-meanwhile', { detail: `Version ${inForce.version} was adopted meanwhile.` });
    }
    const rules = rulesAsked(asked, inForce.rules);
    refuseUnsound(rules);
    const listsChanged = changedChecklists(inForce.rules.checklists, rules.checklists).length > 0;
    if (
      !listsChanged &&
      rules.preset === inForce.rules.preset &&
      changedFields(inForce.rules, rules).length === 0
    ) {
      throw new Refused('invalid-input', { detail: 'These are the rules in force already.' });
    }
    await tx.execute(
      `insert into rule_set (version, rules, adopted_at, adopted_by, reason) values (?, ?::jsonb, ?, ?, ?)`,
      [inForce.version + 1, JSON.stringify(rules), timestamp(now), by, asked.reason],
    );
    await announce(tx, { about: 'register' });
  });
}

function refuseUnsound(rules: HouseRules): void {
  const errors = [
    ...ruleRefusals(rules).map((why) => ({
      field: `changes.${why.path}`,
      message: ruleRefusalSentence(why),
    })),
    ...checklistRefusals(rules.checklists).map((why) => ({
      field: `checklists.${why.occasion}${'at' in why ? `.${why.at}` : ''}`,
      message: checklistRefusalSentence(why),
    })),
  ];
  if (errors.length > 0) throw new Refused('invalid-input', { errors });
}
