import type { z } from 'zod';
import type { FieldProblem, FlyingDayAnswer, handOutForm } from '../../contract';
import { fit, fitPackOf, notHandedOut } from '../../core/flying';
import type { FitAdapter, FitCheck } from '../../core/flying';
import type { FlyingDayId, Instant } from '../../core/measure';
import { notHandedOutSentence } from '../../core/wording';
import { rulesInForce } from '../ledger';
import { packRows } from '../packs';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';
import { Equipment, PackType } from '../register';
import { DAY_COLUMNS } from './days';
import { Craft } from './entities';

/** Settles what is taken along on a day. Each line is held against the pack as it is now; what must not be handed out is refused at its line. */
export async function settleHandOut(
  em: Entities,
  id: FlyingDayId,
  { version, lines }: z.output<typeof handOutForm>,
  now: Instant,
): Promise<FlyingDayAnswer> {
  const problems = await problemsOf(em, lines, now);
  if (problems.length > 0) throw new Refused('invalid-input', { errors: problems });
  const [day]: FlyingDayAnswer[] = await em.execute(
    `update flying_day set hand_out = ?, version = version + 1 where id = ? and version = ? returning ${DAY_COLUMNS}`,
    [JSON.stringify(lines), id, version],
  );
  if (!day) {
    const [known]: { id: string }[] = await em.execute('select id from flying_day where id = ?', [id]);
    throw new Refused(known ? 'changed-meanwhile' : 'not-found');
  }
  await announce(em, { about: 'charging' });
  return day;
}

type Line = z.output<typeof handOutForm>['lines'][number];

async function problemsOf(em: Entities, lines: readonly Line[], now: Instant): Promise<FieldProblem[]> {
  const rows = new Map(
    (
      await packRows(
        em,
        now,
        lines.map(({ packId }) => packId),
      )
    ).map((row) => [row.id, row]),
  );
  const types = new Map((await em.find(PackType, {})).map((type) => [type.id, type]));
  const craft = new Map((await em.find(Craft, {})).map((one) => [one.id, one]));
  const people: { id: string; name: string }[] = await em.execute('select id, name from person');
  const adapters: FitAdapter[] = (await em.find(Equipment, { inUse: true })).flatMap(({ name, facts }) =>
    facts.kind === 'adapter' ? [{ name, from: facts.from, to: facts.to }] : [],
  );
  const { rules } = await rulesInForce(em);
  const name = (personId: string) => people.find((one) => one.id === personId)?.name ?? 'somebody';

  const checksOf = (line: Line): readonly FitCheck[] | null => {
    const row = rows.get(line.packId);
    const type = row && types.get(row.typeId);
    const on = line.craftId && craft.get(line.craftId);
    if (!row || !type || !on) return null;
    const pack = fitPackOf(type, { measuredMah: row.capacityMah, onWatch: row.verdict === 'watch' });
    return fit(pack, on.facts, rules, adapters);
  };

  return lines.flatMap((line, i): FieldProblem[] => {
    const row = rows.get(line.packId);
    if (!row) return [{ field: `lines.${i}.packId`, message: 'This pack is not in the register.' }];
    if (line.craftId !== null && !craft.get(line.craftId))
      return [{ field: `lines.${i}.craftId`, message: 'There is no such craft.' }];
    if (line.personId !== null && !people.some((one) => one.id === line.personId))
      return [{ field: `lines.${i}.personId`, message: 'There is no such person.' }];
    // To be read or looked over is done before the day.
    const mayFly = row.mayFly === 'no' ? 'no' : 'yes';
    const why = notHandedOut({ ...row, mayFly, holderId: null }, checksOf(line) ?? [], null);
    return why.map((one) => ({
      field: `lines.${i}.packId`,
      message: `${row.tag}: ${notHandedOutSentence(one, name)}`,
    }));
  });
}
