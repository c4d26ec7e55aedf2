import type { FlyingAnswer } from '../../contract';
import { hoverStep } from '../../core/flying';
import type { Landing } from '../../core/flying';
import { DAY_MS } from '../../core/measure';
import type { CraftId, Instant } from '../../core/measure';
import type { Entities } from '../platform/database';

/** How far back landings are told one by one, and how many at most. */
const TOLD_DAYS = 120;
const MOST_TOLD = 2_000;

/** The landings of late, the latest first. */
export async function recentLandings(em: Entities, now: Instant): Promise<FlyingAnswer['landings']> {
  const rows: (Omit<FlyingAnswer['landings'][number], keyof Landing> & { landing: Landing })[] =
    await em.execute(
      `select p.id as "packId", p.tag, p.type_id as "typeId", t.chemistry, landing
       from pack_state s join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id
      cross join lateral jsonb_array_elements(coalesce(s.flying -> 'landings', '[]')) landing
      where (landing ->> 'at')::float8 >= ? order by (landing ->> 'at')::float8 desc, p.tag_key limit ${MOST_TOLD}`,
      [now - TOLD_DAYS * DAY_MS],
    );
  return rows.map(({ landing, ...pack }) => ({ ...pack, ...landing }));
}

/** What each craft's returns have shown of its step from hover to rested volts. */
export async function hoverSteps(em: Entities): Promise<FlyingAnswer['steps']> {
  const rows: { craftId: CraftId; landings: Landing[] }[] = await em.execute(
    `select landing ->> 'craftId' as "craftId", json_agg(landing) as landings
       from pack_state s cross join lateral jsonb_array_elements(coalesce(s.flying -> 'landings', '[]')) landing
      where landing ->> 'craftId' is not null and landing ->> 'loadedMv' is not null and landing ->> 'restedMv' is not null
      group by 1 order by 1`,
  );
  return rows.flatMap(({ craftId, landings }) => {
    const step = hoverStep(landings);
    return step ? [{ craftId, ...step }] : [];
  });
}
