import type { DeviceAnswer, JobAnswer } from '../../contract';
import { MINUTE_MS } from '../../core/measure';
import { alarmSentence, PHASE_WORDS } from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { useDevices } from '../app/devices';
import { say } from '../app/notices';
import { CurveChart, useCurveOfJob } from '../domain/curve/Curve';
import { useMay } from '../domain/Person';
import { Button } from '../kit/Button';

/** A shorter curve shows nothing. */
const LEAST_SECONDS = 30;

type ChannelShows = DeviceAnswer['channels'][number];

/** What a charger says of one channel now, if a device speaks for it. */
export interface Spoken {
  readonly device: DeviceAnswer;
  readonly shows: ChannelShows;
}

/** What is said of a channel; null where no device speaks for its charger, or it is not connected. */
export function spokenOf(
  devices: readonly DeviceAnswer[],
  equipmentId: string,
  channel: string | null,
): Spoken | null {
  const device = devices.find((one) => one.equipmentId === equipmentId && one.isOpen);
  const shows = device?.channels.find((one) => one.channel === channel);
  return device && shows ? { device, shows } : null;
}

/** A running charge as its charger tells it: what it does, what is wrong with it, and its curve. */
export function LiveCharge({ job, spoken }: { job: JobAnswer; spoken: Spoken | null }) {
  const curve = useCurveOfJob(job.id, spoken !== null);
  const devices = useDevices();
  const isSpokenFor = devices.some((one) => one.equipmentId === job.equipmentId && one.endedAt === null);
  if (!spoken)
    return isSpokenFor ? (
      <p role="status" className="mt-1 font-bold text-amber">
        The charger is not heard. Go and look: nobody but you sees now what it does.
      </p>
    ) : null;
  const { shows, device } = spoken;
  const { point, phase } = shows;
  return (
    <div className="mt-2">
      <Alarms shows={shows} device={device} />
      {point && (
        <p className="flex flex-wrap items-baseline gap-x-4">
          <b className="font-mono text-lg">{point.mv.map((mv) => (mv / 1000).toFixed(2)).join(' ')}</b>
          <span>
            {point.amps.toFixed(1)} A · {Math.round(point.movedMah)} mAh
            {point.celsius !== null && ` · ${Math.round(point.celsius)} °C`}
          </span>
          <span className="text-faint">{PHASE_WORDS[phase]}</span>
        </p>
      )}
      {curve && (curve.points.at(-1)?.seconds ?? 0) >= LEAST_SECONDS && (
        <CurveChart
          points={curve.points}
          topMv={job.setting.topMv}
          expectedMinutes={(job.end - job.start) / MINUTE_MS}
        />
      )}
    </div>
  );
}

function Alarms({ shows, device }: { shows: ChannelShows; device: DeviceAnswer }) {
  const mayCharge = useMay('bench.charge');
  if (shows.alarms.length === 0) return null;
  const mustStop = shows.alarms.some(({ asks }) => asks === 'stop');
  const stop = async () => {
    try {
      await ask('POST /devices/:id/stop', { params: { id: device.id }, body: { channel: shows.channel } });
      say('The charger was told to stop. See that it did.');
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      say(error.problem?.detail ?? error.says);
    }
  };
  return (
    <div
      role="alert"
      className={`mb-2 border-l-8 px-3 py-2 ${mustStop ? 'border-red bg-wash-red' : 'border-amber bg-wash-amber'}`}
    >
      <p className="text-lg font-bold">
        {!mustStop
          ? 'Come and look.'
          : shows.stopped
            ? shows.state === 'running'
              ? 'Malle told the charger to stop, and it still runs. Pull the plug.'
              : 'Malle stopped it.'
            : 'Stop it at the charger now.'}
      </p>
      <ul>
        {shows.alarms.map((alarm) => (
          <li key={alarm.code}>{alarmSentence(alarm)}</li>
        ))}
      </ul>
      {mustStop && !shows.stopped && device.canStop && mayCharge && (
        <Button weight="main" className="mt-2" onClick={() => void stop()}>
          Stop channel {shows.channel}
        </Button>
      )}
    </div>
  );
}
