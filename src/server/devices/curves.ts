import { deflateSync, inflateSync } from 'node:zlib';
import { v7 as newId } from 'uuid';
import type { CurveAnswer } from '../../contract';
import { capacityFromCurve, packedCurve, resistanceFromCurve, unpackedCurve } from '../../core/charging';
import type { ChargerSetting, CurvePoint } from '../../core/charging';
import { isLithium } from '../../core/chemistry';
import type { CurveId, DeviceId, Instant, JobId, PackId } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { Refused } from '../platform/problems';

/** Keeps what there is of a job's curve; the first time it begins one. */
export async function keepCurve(
  em: Entities,
  { jobId, deviceId }: { readonly jobId: JobId; readonly deviceId: DeviceId },
  points: readonly CurvePoint[],
  now: Instant,
): Promise<void> {
  await em.execute(
    `insert into charge_curve (id, job_id, device_id, began_at, at, points) values (?, ?, ?, ?, ?, ?)
     on conflict (job_id) do update set points = excluded.points, at = excluded.at`,
    [newId(), jobId, deviceId, timestamp(now), timestamp(now), deflateSync(packedCurve(points))],
  );
}

interface CurveRow {
  readonly id: CurveId;
  readonly jobId: JobId | null;
  readonly deviceId: DeviceId | null;
  readonly packId: PackId | null;
  readonly packIds: PackId[] | null;
  readonly name: string | null;
  readonly points: Buffer;
  readonly setting: ChargerSetting | null;
  readonly capacityMah: number | null;
}

const CURVE = `select c.id, c.job_id as "jobId", c.device_id as "deviceId", c.pack_id as "packId", c.name, c.points, j.setting,
  (select json_agg(p.pack_id order by p.slot) from charge_job_pack p where p.job_id = j.id) as "packIds",
  (select coalesce((s.bench ->> 'capacityMah')::float8, t.capacity_mah) from charge_job_pack p join pack k on k.id = p.pack_id
     join pack_type t on t.id = k.type_id join pack_state s on s.pack_id = k.id
    where p.job_id = j.id order by p.slot limit 1) as "capacityMah"
  from charge_curve c left join charge_job j on j.id = c.job_id`;

/** The points of a job's curve so far; none where there is no curve yet. */
export async function pointsOfJob(em: Entities, id: JobId): Promise<CurvePoint[]> {
  const [row]: { points: Buffer }[] = await em.execute('select points from charge_curve where job_id = ?', [
    id,
  ]);
  return row ? unpackedCurve(inflateSync(row.points)) : [];
}

export function curveOfJob(em: Entities, id: JobId): Promise<CurveAnswer> {
  return curveWhere(em, 'c.job_id = ?', id);
}

export function curve(em: Entities, id: CurveId): Promise<CurveAnswer> {
  return curveWhere(em, 'c.id = ?', id);
}

async function curveWhere(em: Entities, where: string, id: string): Promise<CurveAnswer> {
  const [row]: CurveRow[] = await em.execute(`${CURVE} where ${where}`, [id]);
  if (!row) throw new Refused('not-found', { detail: 'No charger has told how this went.' });
  const points = unpackedCurve(inflateSync(row.points));
  const packIds = row.packIds ?? (row.packId ? [row.packId] : []);
  const chemistry = row.setting?.chemistry;
  // On a board the charger sees the packs together, and measures none of them.
  const measures = row.setting !== null && packIds.length === 1 && chemistry && isLithium(chemistry);
  const capacity =
    measures && row.setting?.topMv != null
      ? capacityFromCurve(points, chemistry, row.setting.topMv, null)
      : null;
  return {
    id: row.id,
    jobId: row.jobId,
    deviceId: row.deviceId,
    packIds,
    name: row.name,
    points,
    bytes: row.points.length,
    capacityMah: capacity,
    milliohm:
      measures && points.length > 0 && points[0]!.mv.length === row.setting.cells
        ? resistanceFromCurve(points, chemistry, capacity?.value ?? row.capacityMah ?? 1_000)
        : null,
  };
}
