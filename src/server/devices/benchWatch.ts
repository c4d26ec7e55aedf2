import type { DeviceAnswer, DeviceLine } from '../../contract';
import { chargeNow, curveWith, EMPTY_CURVE, pointsOf } from '../../core/charging';
import type { Alarm, CurvePoint, Expected, KeptCurve } from '../../core/charging';
import { socPercent, isLithium } from '../../core/chemistry';
import type { DeviceId, EquipmentId, Instant, JobId } from '../../core/measure';
import { MINUTE_MS } from '../../core/measure';
import type { HouseRules } from '../../core/rules';
import { alarmSentence } from '../../core/wording';
import { runningOn } from '../charging';
import { rulesInForce } from '../ledger';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import type { Surroundings } from './conversation';
import { keepCurve, pointsOfJob } from './curves';

export type ChargeLine = Extract<DeviceLine, { type: 'charge' }>;
type ChannelShows = DeviceAnswer['channels'][number];

/** A channel as it is followed. */
interface Followed {
  readonly jobId: JobId | null;
  readonly expected: Expected | null;
  readonly rules: HouseRules;
  readonly curve: KeptCurve;
  /** What the charger's count lacks of the curve's: it begins again at nought when somebody starts it again. */
  readonly countedBefore: number;
  readonly lastCount: number;
  readonly lookedAt: number;
  readonly toldAt: number;
  readonly shows: ChannelShows | null;
  /** Why the register stopped it; null while it has not. What stands here does not go away because the current is gone. */
  readonly stoppedFor: readonly Alarm[] | null;
}

/** Whether a job runs on a channel is asked again this often, and a channel is told to browsers and kept no more often. */
const EVERY_MS = 2_000;
/** A charger that measures something holds its current back for a moment; after so long without one it has ended. */
const PAUSE_MS = 60_000;
const NOTHING_AMPS = 0.03;

/** What the channels of one charger do: each running job's curve grows, is kept, and is watched. */
export class BenchWatch {
  readonly #channels = new Map<string, Followed>();
  readonly #firstSeen = new Map<string, number>();
  readonly #flowedAt = new Map<string, number>();

  /** @param stop tells the charger to stop a channel; false where it cannot be told */
  constructor(
    private readonly here: Surroundings,
    private readonly deviceId: DeviceId,
    private readonly equipmentId: EquipmentId,
    private readonly stop: (channel: string, why: string) => boolean,
  ) {}

  /**
   * Takes a line. Most lines only make the curve grow; the others are written by `write`, together with their number.
   * @returns whether it was written
   */
  async take(
    line: ChargeLine,
    at: Instant,
    write: (n: number, work: (em: Entities) => Promise<void>) => Promise<void>,
  ): Promise<boolean> {
    const now = this.here.elapsed();
    const before = await this.#followed(line.channel, now);
    // A count that went back is a charger that was started again.
    const again = line.seconds < before.lastCount;
    const countedBefore = again ? before.countedBefore + before.lastCount : before.countedBefore;
    const point = pointOf(line, countedBefore);
    const curve = point && before.jobId ? curveWith(before.curve, point) : before.curve;
    const shows = this.#showsOf(line, at, before, curve, point);
    const newAlarm = shows.alarms.length > 0 && shows.alarms.length !== (before.shows?.alarms.length ?? 0);
    const mustStop = shows.alarms.find(({ asks }) => asks === 'stop');
    const stops =
      mustStop !== undefined &&
      line.state === 'running' &&
      before.stoppedFor === null &&
      before.jobId !== null;
    const stoppedFor =
      before.stoppedFor ?? (stops && this.stop(line.channel, alarmSentence(mustStop)) ? shows.alarms : null);
    const since = shows.alarms.filter(({ code }) => !stoppedFor?.some((alarm) => alarm.code === code));
    const told = { ...shows, alarms: [...(stoppedFor ?? []), ...since], stopped: stoppedFor !== null };
    const due = stops || newAlarm || line.state !== before.shows?.state || now - before.toldAt >= EVERY_MS;
    this.#channels.set(line.channel, {
      ...before,
      curve,
      countedBefore,
      lastCount: line.seconds,
      toldAt: due ? now : before.toldAt,
      shows: told,
      stoppedFor,
    });
    if (!due) return false;
    await write(line.n, async (tx) => {
      const { jobId } = before;
      if (jobId !== null && curve !== EMPTY_CURVE)
        await keepCurve(tx, { jobId, deviceId: this.deviceId }, pointsOf(curve), at);
      await tx.execute(
        `update device_state set channels = channels || jsonb_build_object(?::text, ?::jsonb) where device_id = ?`,
        [line.channel, JSON.stringify(told), this.deviceId],
      );
      await announce(tx, { about: 'device', deviceId: this.deviceId, channel: told });
    });
    return true;
  }

  /** What a charger that only prints figures is doing. */
  stateOf(channel: string, amps: number, phase: string | null): ChargeLine['state'] {
    if (phase !== null && /end|done|full|fin|stop|compl/i.test(phase)) return 'ended';
    const now = this.here.elapsed();
    if (amps > NOTHING_AMPS) this.#flowedAt.set(channel, now);
    const flowedAt = this.#flowedAt.get(channel);
    if (flowedAt === undefined) return 'idle';
    return now - flowedAt <= PAUSE_MS ? 'running' : 'ended';
  }

  /** Seconds since a channel was first heard of, for a charger that prints no time. */
  secondsOf(channel: string, elapsed: number): number {
    const first = this.#firstSeen.get(channel) ?? elapsed;
    this.#firstSeen.set(channel, first);
    return Math.round((elapsed - first) / 1000);
  }

  async #followed(channel: string, now: number): Promise<Followed> {
    const known = this.#channels.get(channel);
    if (known && now - known.lookedAt < EVERY_MS) return known;
    const em = this.here.entities();
    const { rules } = await rulesInForce(em);
    const job = await runningOn(em, this.equipmentId, channel, this.here.now());
    if (known?.jobId === (job?.id ?? null)) return { ...known, rules, lookedAt: now };
    // A curve goes on where a connection or a process before this one has left it.
    const points = job ? await pointsOfJob(em, job.id) : [];
    const told = job ? await this.#toldBefore(em, channel) : null;
    return {
      jobId: job?.id ?? null,
      expected: job && expectedOf(job),
      rules,
      curve: points.length > 0 ? { ...EMPTY_CURVE, points } : EMPTY_CURVE,
      countedBefore: 0,
      lastCount: points.at(-1)?.seconds ?? 0,
      lookedAt: now,
      toldAt: -Infinity,
      shows: null,
      stoppedFor: told !== null && told.stopped && told.jobId === job?.id ? told.alarms : null,
    };
  }

  /** What was last told of a channel, by a connection before this one of the same run. */
  async #toldBefore(em: Entities, channel: string): Promise<ChannelShows | null> {
    const [row]: { shows: ChannelShows | null }[] = await em.execute(
      'select channels -> ? as shows from device_state where device_id = ?',
      [channel, this.deviceId],
    );
    return row?.shows ?? null;
  }

  #showsOf(
    line: ChargeLine,
    at: Instant,
    { jobId, expected, rules }: Followed,
    curve: KeptCurve,
    point: CurvePoint | null,
  ): ChannelShows {
    const says = {
      setting: line.setting ?? null,
      ended: line.state === 'ended',
      error: line.error ?? null,
    };
    const points = jobId === null ? (point ? [point] : []) : pointsOf(curve);
    const seen = expected ? chargeNow(points, expected, says, rules) : null;
    return {
      channel: line.channel,
      at,
      state: line.state,
      jobId,
      setting: line.setting ?? null,
      point,
      phase: seen?.phase ?? (line.state === 'ended' ? 'ended' : line.amps > NOTHING_AMPS ? 'quick' : 'rest'),
      alarms: line.state === 'idle' ? [] : (seen?.alarms ?? []),
      milliohm: line.milliohm ?? null,
      stopped: false,
    };
  }
}

function pointOf(
  { cellsMv, packMv, seconds, amps, movedMah, celsius }: ChargeLine,
  countedBefore: number,
): CurvePoint | null {
  const mv = cellsMv ?? (packMv === undefined ? null : [packMv]);
  return mv && { seconds: countedBefore + seconds, mv, amps, movedMah, celsius: celsius ?? null };
}

/** What the curve is held against: the job as it was started, and what the packs had room for then. */
function expectedOf({
  do: kind,
  setting,
  start,
  end,
  packs,
}: NonNullable<Awaited<ReturnType<typeof runningOn>>>): Expected {
  const rooms = packs.map(({ chemistry, capacityAh, cellsMv }) =>
    cellsMv && isLithium(chemistry)
      ? capacityAh *
        1000 *
        (1 - cellsMv.reduce((sum, mv) => sum + socPercent(chemistry, mv), 0) / cellsMv.length / 100)
      : null,
  );
  const known = rooms.every((room) => room !== null);
  return {
    do: kind,
    setting,
    minutes: (end - start) / MINUTE_MS,
    // On a series board each cell of the charger is a pack, and the charge goes through all of them.
    room: known && packs.length === 1 ? { mah: rooms[0]!, capacityMah: packs[0]!.capacityAh * 1000 } : null,
  };
}
