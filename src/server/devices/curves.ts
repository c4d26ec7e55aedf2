import { deflateSync, inflateSync } from 'node:zlib';
import { v7 as newId } from 'uuid';
import type { z } from 'zod';
import type { CurveAnswer, curveForm, LogReadingAnswer } from '../../contract';
import {
  capacityFromCurve,
  MOST_POINTS,
  packedCurve,
  resistanceFromCurve,
  unpackedCurve,
} from '../../core/charging';
import type { ChargerSetting, CurvePoint, LogForm } from '../../core/charging';
import { isLithium } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import type { CurveId, DeviceId, Instant, JobId, PackId } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { Refused, refusedField } from '../platform/problems';

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

/** Keeps a charge as a log told it; sent twice it is kept once. */
export async function keepLog(
  em: Entities,
  { id, packId, name, columnsKey, reading, packed }: z.output<typeof curveForm>,
  now: Instant,
): Promise<CurveAnswer> {
  refuseOddCurve(Buffer.from(packed, 'base64'));
  const [pack]: unknown[] = await em.execute('select id from pack where id = ?', [packId]);
  if (!pack) throw refusedField('packId', 'There is no such pack.');
  await em.execute(
    `insert into charge_curve (id, pack_id, name, began_at, at, points, columns_key, reading) values (?, ?, ?, ?, ?, ?, ?, ?)
     on conflict (id) do nothing`,
    [
      id,
      packId,
      name,
      timestamp(now),
      timestamp(now),
      deflateSync(Buffer.from(packed, 'base64')),
      columnsKey,
      JSON.stringify(reading),
    ],
  );
  const kept = await curve(em, id);
  if (kept.packIds[0] !== packId) throw new Refused('id-taken');
  return kept;
}

/** What is kept must be a curve that can be drawn: times that go on, as many cells in every point, no more than a charge has. */
function refuseOddCurve(bytes: Uint8Array): void {
  const points = unpacked(bytes);
  const isOdd =
    points === null ||
    points.length === 0 ||
    points.length > MOST_POINTS ||
    points[0]!.mv.length > MOST_CELLS ||
    points.some(
      ({ seconds, mv, amps, movedMah }, i) =>
        seconds < 0 ||
        amps < 0 ||
        movedMah < 0 ||
        mv.some((one) => one < 0) ||
        (i > 0 && seconds <= points[i - 1]!.seconds),
    );
  if (isOdd) throw refusedField('packed', 'This is no curve that can be kept. Read the log again.');
}

function unpacked(bytes: Uint8Array): CurvePoint[] | null {
  try {
    return unpackedCurve(bytes);
  } catch {
    return null;
  }
}

const MOST_CELLS = 24;

/** How the last log with these columns was read. */
export async function logReading(em: Entities, columnsKey: string): Promise<LogReadingAnswer> {
  const [last]: { reading: LogForm }[] = await em.execute(
    'select reading from charge_curve where columns_key = ? order by at desc, id desc limit 1',
    [columnsKey],
  );
  return { reading: last?.reading ?? null };
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
  /** Of the pack whose log it is; null for a curve of a job. */
  readonly packChemistry: Chemistry | null;
  readonly packSeries: number | null;
  readonly packMah: number | null;
}

const CURVE = `select c.id, c.job_id as "jobId", c.device_id as "deviceId", c.pack_id as "packId", c.name, c.points, j.setting,
  own.chemistry as "packChemistry", own.series as "packSeries", own.capacity_mah as "packMah",
  (select json_agg(p.pack_id order by p.slot) from charge_job_pack p where p.job_id = j.id) as "packIds",
  (select coalesce((s.bench ->> 'capacityMah')::float8, t.capacity_mah) from charge_job_pack p join pack k on k.id = p.pack_id
     join pack_type t on t.id = k.type_id join pack_state s on s.pack_id = k.id
    where p.job_id = j.id order by p.slot limit 1) as "capacityMah"
  from charge_curve c left join charge_job j on j.id = c.job_id
  left join pack o on o.id = c.pack_id left join pack_type own on own.id = o.type_id`;

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
  const chemistry = row.setting?.chemistry ?? row.packChemistry;
  // On a board the charger sees the packs together, and measures none of them.
  const measures = packIds.length === 1 && chemistry && isLithium(chemistry);
  // A log does not say what the charger was set to: how high it went tells as much.
  const topMv = row.setting ? row.setting.topMv : points.reduce((top, { mv }) => Math.max(top, ...mv), 0);
  const byCell = points[0]?.mv.length === (row.setting?.cells ?? row.packSeries);
  const capacity =
    measures && byCell && topMv !== null ? capacityFromCurve(points, chemistry, topMv, null) : null;
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
      measures && byCell
        ? resistanceFromCurve(points, chemistry, capacity?.value ?? row.capacityMah ?? row.packMah ?? 1_000)
        : null,
  };
}
