import type { z } from 'zod';
import type {
  ChargingAnswer,
  JobAnswer,
  endJob as endForm,
  jobForm,
  startJob as startForm,
  watchJob as watchForm,
} from '../../contract';
import { gateRefusals } from '../../core/charging';
import type {
  Adapter,
  AtTheStart,
  BenchPack,
  Board,
  Charger,
  ChargerSetting,
  Equipment,
  ExternalLoad,
} from '../../core/charging';
import type { CurveId, Instant, JobId, PackId } from '../../core/measure';
import { MINUTE_MS } from '../../core/measure';
import type { Actor } from '../../core/lifecycle';
import { CHEMISTRY } from '../../core/chemistry';
import { fieldShareMah } from '../../core/fleet';
import { BLANK_CHARGE } from '../../core/record';
import type { ChargePayload, RecordDraft } from '../../core/record';
import { gateRefusalSentence } from '../../core/wording';
import { append } from '../ledger';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { isUniqueViolation, Refused, refusedField } from '../platform/problems';
import { attendanceToCome } from './attendance';
import { benchEquipment, benchPacks, charging, insertJob, lockedJob } from './service';

/** Puts a job on the board that no plan has: somebody charges one pack. It starts through the same gate. */
export async function placeJob(
  em: Entities,
  form: z.output<typeof jobForm>,
  now: Instant,
): Promise<ChargingAnswer> {
  await em.transactional(async (tx) => {
    const output = (await benchEquipment(tx)).find(({ id }) => id === form.equipmentId);
    if (output?.facts.kind !== 'charger' && output?.facts.kind !== 'load')
      throw refusedField('equipmentId', 'There is no such charger on this bench.');
    const packs = await benchPacks(tx, now, form.packIds);
    if (packs.length !== form.packIds.length)
      throw refusedField('packIds', 'There is no such pack in service.');
    const { chemistry, cells, topMv, amps } = form.setting;
    const puts = form.do === 'charge' || form.do === 'raise';
    const peakW = puts ? (amps * cells * (topMv ?? (chemistry === 'nimh' ? 1_500 : 0))) / 1000 : 0;
    await insertJob(tx, { ...form, peakW, locked: true, reason: { because: 'locked' }, flightAt: null });
    await announce(tx, { about: 'charging' });
  });
  return charging(em, now);
}

/** What the gate knows of a job by itself. */
async function atTheStart(em: Entities, job: JobAnswer, now: Instant): Promise<AtTheStart> {
  const equipment = await benchEquipment(em);
  const output = equipment.find(({ id }) => id === job.equipmentId) as
    Equipment<Charger> | Equipment<ExternalLoad>;
  const packs = await benchPacks(em, now, job.packIds);
  const [last]: { setting: ChargerSetting }[] = await em.execute(
    'select setting from channel_setting where equipment_id = ? and channel = ?',
    [job.equipmentId, job.channel ?? ''],
  );
  if (packs.length !== job.packIds.length)
    throw new Refused('changed-meanwhile', { detail: 'A pack of this job is no longer in service.' });
  return {
    do: job.do,
    setting: job.setting,
    packs: job.packIds.map((id) => packs.find((pack) => pack.id === id)!),
    output,
    channel: job.channel,
    board: (equipment.find(({ id }) => id === job.boardId) as Equipment<Board> | undefined) ?? null,
    adapters: equipment.filter(({ facts }) => facts.kind === 'adapter') as Equipment<Adapter>[],
    last: last?.setting ?? null,
    now,
    end: now + (job.end - job.start),
    attended: await attendanceToCome(em, now),
  };
}

/** Starts a job: the gate is asked here, whatever the browser has asked before. Sending it again is harmless. */
export async function startJob(
  em: Entities,
  id: JobId,
  { gate }: z.output<typeof startForm>,
  actor: Actor,
  now: Instant,
): Promise<ChargingAnswer> {
  try {
    await em.transactional(async (tx) => {
      const job = await lockedJob(tx, id);
      if (job.state === 'running' && job.startedBy === actor.id) return;
      if (job.state !== 'planned')
        throw new Refused('changed-meanwhile', { detail: 'Somebody has started or ended this job.' });
      const start = await atTheStart(tx, job, now);
      const refusals = gateRefusals(start, gate);
      if (refusals.length > 0)
        throw new Refused('invalid-input', {
          detail: gateRefusalSentence(refusals[0]!, now),
          errors: refusals.map((refusal) => ({
            field: `gate.${refusal.code}`,
            message: gateRefusalSentence(refusal, now),
          })),
        });
      await refuseUnknownPerson(tx, gate.attendantId!);
      await tx.execute(
        `update charge_job set state = 'running', start_at = ?, end_at = ?, gate = ?, started_by = ?, attendant_id = ?, seen_at = ?
          where id = ?`,
        [
          timestamp(now),
          timestamp(start.end),
          JSON.stringify(gate),
          actor.id,
          gate.attendantId,
          timestamp(now),
          id,
        ],
      );
      await tx.execute('update charge_job_pack set running = true where job_id = ?', [id]);
      if (job.channel !== null)
        await tx.execute(
          `insert into channel_setting (equipment_id, channel, setting, set_at) values (?, ?, ?, ?)
           on conflict (equipment_id, channel) do update set setting = excluded.setting, set_at = excluded.set_at`,
          [job.equipmentId, job.channel, JSON.stringify(job.setting), timestamp(now)],
        );
      await announce(tx, { about: 'charging' });
    });
  } catch (error) {
    if (isUniqueViolation(error))
      throw new Refused('changed-meanwhile', {
        detail: 'Another job runs with this pack, on this channel or on this board. End that one first.',
      });
    throw error;
  }
  return charging(em, now);
}

async function refuseUnknownPerson(em: Entities, id: string): Promise<void> {
  const [known]: { active: boolean }[] = await em.execute('select active from person where id = ?', [id]);
  if (!known?.active) throw refusedField('attendantId', 'There is nobody of this name here any more.');
}

/** Somebody is still there, or has taken over. */
export async function watchJob(
  em: Entities,
  id: JobId,
  { attendantId }: z.output<typeof watchForm>,
  now: Instant,
): Promise<ChargingAnswer> {
  await em.transactional(async (tx) => {
    const job = await lockedJob(tx, id);
    if (job.state !== 'running')
      throw new Refused('changed-meanwhile', { detail: 'This job is not running any more.' });
    await refuseUnknownPerson(tx, attendantId);
    await tx.execute('update charge_job set attendant_id = ?, seen_at = ? where id = ?', [
      attendantId,
      timestamp(now),
      id,
    ]);
    await announce(tx, { about: 'charging' });
  });
  return charging(em, now);
}

/** Ends a job. Each pack's charge record and the job's end are written together or not at all; sending it again is harmless. */
export async function endJob(
  em: Entities,
  id: JobId,
  form: z.output<typeof endForm>,
  actor: Actor,
  now: Instant,
): Promise<ChargingAnswer> {
  await em.transactional(async (tx) => {
    const job = await lockedJob(tx, id);
    if (job.state === 'planned')
      throw new Refused('changed-meanwhile', { detail: 'This job was not started.' });
    if (job.state === 'running') refuseOddEnd(job, form, now);
    const equipment = await benchEquipment(tx);
    const output = equipment.find((one) => one.id === job.equipmentId)!;
    const board = equipment.find((one) => one.id === job.boardId)?.facts;
    const packs = await benchPacks(tx, now, job.packIds);
    const [curve]: { id: CurveId }[] = await tx.execute('select id from charge_curve where job_id = ?', [id]);
    for (const { packId, id: recordId, endCellsMv } of form.records) {
      const pack = packs.find((one) => one.id === packId);
      const sumAh = packs.reduce((sum, one) => sum + one.capacityAh, 0);
      const inParallel = board?.kind === 'board' && board.wiring === 'parallel';
      const share =
        inParallel && pack && form.movedMah !== null
          ? Math.round((form.movedMah * pack.capacityAh) / sumAh)
          : null;
      const draft: RecordDraft = {
        id: recordId,
        at: form.at,
        kind: 'charge',
        supersedes: null,
        payload: payloadOf(
          job,
          form,
          `${output.name}${job.channel === null ? '' : `, channel ${job.channel}`}`,
          endCellsMv,
          share,
          inParallel,
          curve?.id ?? null,
        ),
      };
      await append(tx, packId, [draft], () => ({ actor, recordedAt: now }));
    }
    if (form.fieldPack) await bookFieldPack(tx, job, form, packs, output.name, actor, now);
    if (job.state === 'ended') return;
    await tx.execute(`update charge_job set state = 'ended', end_at = ?, ended_by = ? where id = ?`, [
      timestamp(form.at),
      actor.id,
      id,
    ]);
    await tx.execute('update charge_job_pack set running = false where job_id = ?', [id]);
    await announce(tx, { about: 'charging' });
  });
  return charging(em, now);
}

/** What a field pack gave for this job, or took back of it, in a record of its own: an estimate, since nobody counted at the field pack. */
async function bookFieldPack(
  tx: Entities,
  job: JobAnswer,
  { at, movedMah, minutes, ending, fieldPack }: z.output<typeof endForm>,
  packs: readonly BenchPack[],
  charger: string,
  actor: Actor,
  now: Instant,
): Promise<void> {
  const { packId, recordId } = fieldPack!;
  const [field] = await benchPacks(tx, now, [packId]);
  if (!field?.fieldPack) throw refusedField('fieldPack', 'There is no such field pack in service.');
  if (job.packIds.includes(packId)) throw refusedField('fieldPack', 'A field pack does not fill itself.');
  const tags = packs.map(({ tag }) => tag).join(', ');
  const empties = job.do === 'lower' || job.do === 'discharge';
  const { nominalMv } = CHEMISTRY[job.setting.chemistry];
  const shareMah =
    movedMah === null
      ? null
      : fieldShareMah(
          movedMah,
          nominalMv * job.setting.cells,
          CHEMISTRY[field.chemistry].nominalMv * field.series,
          empties ? 'got' : 'gave',
        );
  const payload: ChargePayload = {
    ...BLANK_CHARGE,
    mode: empties ? 'fast' : 'discharge',
    charger: `${empties ? 'given back from' : 'filled'} ${tags}, ${charger}`.slice(0, 60),
    minutes,
    ending: ending === 'complete' && empties ? 'stopped' : ending,
    remarks: `${empties ? 'Took back' : 'Gave'} what ${tags} ${empties ? 'gave' : 'took'}, by estimate.`,
    bench: { equipmentId: job.equipmentId, channel: job.channel, jobId: job.id, shareMah },
  };
  const draft: RecordDraft = { id: recordId, at, kind: 'charge', supersedes: null, payload };
  await append(tx, packId, [draft], () => ({ actor, recordedAt: now }));
}

function refuseOddEnd(job: JobAnswer, { at, records }: z.output<typeof endForm>, now: Instant): void {
  if (at < job.start) throw refusedField('at', 'It cannot have ended before it was started.');
  if (at > now + 5 * MINUTE_MS) throw refusedField('at', 'This time lies ahead.');
  const told = new Set<PackId>(records.map(({ packId }) => packId));
  if (told.size !== job.packIds.length || !job.packIds.every((id) => told.has(id)))
    throw refusedField('records', 'The end of a job is told of each of its packs.');
}

function payloadOf(
  job: JobAnswer,
  form: z.output<typeof endForm>,
  charger: string,
  endCellsMv: readonly number[] | null,
  shareMah: number | null,
  shared: boolean,
  curveId: CurveId | null,
): ChargePayload {
  const { chemistry, cells, topMv, amps } = job.setting;
  const stores = job.do === 'raise' || job.do === 'lower';
  return {
    mode: stores ? 'storage' : job.do === 'discharge' ? 'discharge' : job.setting.mode,
    charger,
    // On a board the charger is set to the whole; what it is set to is no slip of the pack's.
    settings:
      job.boardId === null
        ? { chemistry, cells, topMv, currentA: amps }
        : { chemistry, cells: null, topMv, currentA: shared ? null : amps },
    startCellsMv: null,
    endCellsMv,
    movedMah: shared ? null : form.movedMah,
    minutes: form.minutes,
    temperatureC: form.temperatureC,
    felt: form.felt,
    balanced: form.balanced,
    ending: form.ending,
    remarks: remarksOf(job, form),
    bench: { equipmentId: job.equipmentId, channel: job.channel, jobId: job.id, shareMah },
    ...(curveId === null ? {} : { curveId }),
  };
}

/** A pack that waits full on its charger is taken off late after this long. */
const LATE_MINUTES = 15;

/** What was remarked, and how late the pack came off the charger. */
function remarksOf({ end }: JobAnswer, { at, remarks }: z.output<typeof endForm>): string | null {
  const late = Math.round((at - end) / MINUTE_MS);
  const told = [remarks, late > LATE_MINUTES && `taken off ${late} min after its expected end`].filter(
    Boolean,
  );
  return told.length > 0 ? told.join('; ') : null;
}
