import type { z } from 'zod';
import type { ChargingAnswer, JobAnswer, planForm } from '../../contract';
import { demandOf, planFaults } from '../../core/charging';
import type { BenchPack, Equipment as BenchEquipment, RunningJob } from '../../core/charging';
import { MINUTE_MS } from '../../core/measure';
import type { EquipmentId, Instant, PackId } from '../../core/measure';
import type { Actor } from '../../core/lifecycle';
import { rulesInForce } from '../ledger';
import { daysToCome } from '../flying';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';
import { Equipment } from '../register';
import { attendanceToCome } from './attendance';

type PlanForm = z.output<typeof planForm>;

/** Jobs that ended so long ago leave the board. */
const SHOWN_AFTER_HOURS = 12;

const JOB_COLUMNS = `j.id, j.state, j.kind as "do", j.equipment_id as "equipmentId", j.channel, j.board_id as "boardId",
  j.adapter_id as "adapterId", j.setting, ${asInstant('j.start_at')} as start, ${asInstant('j.end_at')} as "end",
  j.peak_w as "peakW", j.locked, j.reason, ${asInstant('j.flight_at')} as "flightAt", j.started_by as "startedBy",
  j.attendant_id as "attendantId", ${asInstant('j.seen_at')} as "seenAt", j.gate,
  (select json_agg(p.pack_id order by p.slot) from charge_job_pack p where p.job_id = j.id) as "packIds"`;

/** Everything a plan is made from, the plan that is kept, and what runs. */
export async function charging(em: Entities, now: Instant): Promise<ChargingAnswer> {
  const [plan]: [Pick<ChargingAnswer, 'version' | 'keptAt' | 'keptBy' | 'leftOutIds'>] = await em.execute(
    `select version, ${asInstant('kept_at')} as "keptAt", kept_by as "keptBy", left_out as "leftOutIds" from charge_plan`,
  );
  return {
    ...plan,
    jobs: await jobs(em, now),
    days: await daysToCome(em, now),
    attended: await attendanceToCome(em, now),
    lastSettings: await em.execute(
      `select equipment_id as "equipmentId", channel, setting from channel_setting order by equipment_id, channel`,
    ),
    packs: await benchPacks(em, now),
  };
}

function jobs(em: Entities, now: Instant): Promise<JobAnswer[]> {
  return em.execute(
    `select ${JOB_COLUMNS} from charge_job j
      where j.state <> 'ended' or j.end_at > ? order by j.start_at, j.id`,
    [timestamp(now - SHOWN_AFTER_HOURS * 60 * MINUTE_MS)],
  );
}

/** What runs now, with the tags of its packs. */
export async function onCharge(em: Entities): Promise<{ job: JobAnswer; tags: string[] }[]> {
  const rows: (JobAnswer & { tags: string[] })[] = await em.execute(
    `select ${JOB_COLUMNS}, (select json_agg(k.tag order by p.slot) from charge_job_pack p join pack k on k.id = p.pack_id
                              where p.job_id = j.id) as tags
       from charge_job j where j.state = 'running' order by j.end_at, j.id`,
  );
  return rows.map(({ tags, ...job }) => ({ job, tags }));
}

/** What runs on one channel, with its packs as the bench knows them; null for nothing. */
export async function runningOn(
  em: Entities,
  equipmentId: EquipmentId,
  channel: string,
  now: Instant,
): Promise<(JobAnswer & { readonly packs: readonly BenchPack[] }) | null> {
  const [job]: JobAnswer[] = await em.execute(
    `select ${JOB_COLUMNS} from charge_job j where j.state = 'running' and j.equipment_id = ? and coalesce(j.channel, '') = ?`,
    [equipmentId, channel],
  );
  return job ? { ...job, packs: await benchPacks(em, now, job.packIds) } : null;
}

/** One job, locked against anybody who would change it at the same time. */
export async function lockedJob(em: Entities, id: string): Promise<JobAnswer> {
  const [job]: JobAnswer[] = await em.execute(
    `select ${JOB_COLUMNS} from charge_job j where j.id = ? for update of j`,
    [id],
  );
  if (!job) throw new Refused('not-found', { detail: 'There is no such job; perhaps a new plan was kept.' });
  return job;
}

/** Packs in service as the bench sees them, or those asked for. */
export async function benchPacks(
  em: Entities,
  now: Instant,
  ids: readonly PackId[] | null = null,
): Promise<BenchPack[]> {
  const which = ids ? ', ?::uuid[]' : '';
  return em.execute(
    `select p.id, p.tag, p.type_id as "typeId", t.chemistry, t.series, t.capacity_mah / 1000.0::float8 as "labelAh",
            coalesce((s.bench ->> 'capacityMah')::float8, t.capacity_mah) / 1000 as "capacityAh", t.charge_c as "chargeC",
            t.connector, case when s.storage = 'unmeasured' then null else s.cells_mv end as "cellsMv",
            coalesce((s.bench ->> 'cellMilliohm')::float8, 20000.0 / t.capacity_mah) as "cellMilliohm",
            coalesce((s.bench ->> 'freeFrom')::float8, 0) as "freeFrom",
            coalesce((s.bench ->> 'gently')::boolean, true) as gently,
            coalesce((s.bench ->> 'balanceDue')::boolean, true) as "balanceDue",
            case when s.verdict not in ('fit', 'watch') then 'out-of-use'
                 when s.holder_id is not null then 'away'
                 when t.chemistry <> 'nimh' and (s.cells_mv is null or s.storage = 'unmeasured') then 'measure-first'
                 when not coalesce((s.bench ->> 'looked')::boolean, false) then 'look-first' end as bar,
            p.field_pack as "fieldPack", s.charged, s.storage, ${asInstant('s.due_at')} as "dueAt",
            s.verdict = 'watch' as "onWatch", coalesce((s.bench ->> 'underFloor')::boolean, false) as "underFloor",
            coalesce((s.bench ->> 'cycle')::boolean, false) as cycle
       from pack p join pack_state_at(?${which}) s on s.pack_id = p.id join pack_type t on t.id = p.type_id
      where s.verdict not in ('retired', 'recycled') order by p.tag_key`,
    [timestamp(now), ...(ids ? [`{${ids.join(',')}}`] : [])],
  );
}

export async function benchEquipment(em: Entities): Promise<BenchEquipment[]> {
  return em.find(Equipment, {}, { orderBy: { name: 'asc' } });
}

/** A running job as a plan counts it: one past its end is taken to end soon. */
export function runningJob(
  { id, do: kind, packIds, equipmentId, channel, boardId, setting, start, end, peakW }: JobAnswer,
  now: Instant,
): RunningJob {
  const expected = Math.max(end, now + 5 * MINUTE_MS);
  return {
    id,
    do: kind,
    packIds,
    equipmentId,
    channel,
    boardId,
    amps: setting.amps,
    start,
    end: expected,
    peakW,
  };
}

/** A plan is sent a little after it was made; its first jobs may have begun by then. */
const SENT_LATE_MS = 15 * MINUTE_MS;

/**
 * Keeps a plan in place of the one it was made from. What the planner promises is checked here once more, by code that is not the
 * planner's, against the register as it is now.
 */
export async function keepPlan(
  em: Entities,
  form: PlanForm,
  actor: Actor,
  now: Instant,
): Promise<ChargingAnswer> {
  await em.transactional(async (tx) => {
    const [{ version }]: [{ version: number }] = await tx.execute(
      'select version from charge_plan for update',
    );
    if (version !== form.version)
      throw new Refused('changed-meanwhile', {
        detail: 'Somebody kept another plan meanwhile. Look at that one first.',
      });
    await refuseFaulty(tx, form.jobs, now);
    await tx.execute(`delete from charge_job where state = 'planned'`);
    for (const job of form.jobs) await insertJob(tx, job);
    await tx.execute('update charge_plan set version = version + 1, kept_at = ?, kept_by = ?, left_out = ?', [
      timestamp(now),
      actor.id,
      JSON.stringify(form.leftOutIds),
    ]);
    await announce(tx, { about: 'charging' });
  });
  return charging(em, now);
}

async function refuseFaulty(
  em: Entities,
  wanted: readonly PlanForm['jobs'][number][],
  now: Instant,
): Promise<void> {
  const answer = await charging(em, now);
  const { rules } = await rulesInForce(em);
  const tags = new Map(answer.packs.map(({ id, tag }) => [id, tag]));
  const { packs } = demandOf(
    answer.packs,
    answer.days.filter(({ cancelled }) => !cancelled),
    answer.attended,
    rules,
  );
  const running = answer.jobs.filter(({ state }) => state === 'running').map((job) => runningJob(job, now));
  const faults = planFaults(
    {
      from: now - SENT_LATE_MS,
      equipment: await benchEquipment(em),
      attended: answer.attended,
      packs,
      running,
      rules,
    },
    wanted.map((job) => ({
      ...job,
      packs: job.packIds.map((id) => ({ id, tag: tags.get(id) ?? 'a pack' })),
    })),
  );
  if (faults.length > 0)
    throw new Refused('invalid-input', {
      detail: `This plan cannot be kept: ${faults[0]}. Plan once more from now.`,
      errors: faults.map((message) => ({ field: 'jobs', message })),
    });
}

type NewJob = Omit<PlanForm['jobs'][number], never>;

export async function insertJob(em: Entities, job: NewJob): Promise<void> {
  const fresh: unknown[] = await em.execute(
    `insert into charge_job (id, state, kind, equipment_id, channel, board_id, adapter_id, setting, start_at, end_at, peak_w,
                             locked, reason, flight_at)
     values (?, 'planned', ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) on conflict (id) do nothing returning id`,
    [
      job.id,
      job.do,
      job.equipmentId,
      job.channel,
      job.boardId,
      job.adapterId,
      JSON.stringify(job.setting),
      timestamp(job.start),
      timestamp(job.end),
      job.peakW,
      job.locked,
      JSON.stringify(job.reason),
      timestamp(job.flightAt),
    ],
  );
  if (fresh.length === 0) throw new Refused('id-taken');
  for (const [slot, packId] of job.packIds.entries())
    await em.execute('insert into charge_job_pack (job_id, slot, pack_id) values (?, ?, ?)', [
      job.id,
      slot + 1,
      packId,
    ]);
}
