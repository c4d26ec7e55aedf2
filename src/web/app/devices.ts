import { queryOptions, useQuery } from '@tanstack/react-query';
import type { CurveAnswer, DeviceAnswer, LiveMessage } from '../../contract';
import { ask } from './api';
import { useMayAsk } from './offlineCopy';
import { KEYS, queryClient } from './queries';

/** A device whose server died says no farewell: it is asked after this often. */
const ASK_AFTER_MS = 30_000;

const DEVICES = queryOptions({
  queryKey: KEYS.devices,
  queryFn: () => ask('GET /devices'),
  refetchInterval: ({ state }) => (state.data?.some(({ isOpen }) => isOpen) ? ASK_AFTER_MS : false),
});

/** The instruments that speak for themselves, as they are now; none while nobody has told of them. */
export function useDevices(): readonly DeviceAnswer[] {
  return useQuery({ ...DEVICES, enabled: useMayAsk(KEYS.devices[0]) }).data ?? NONE;
}

const NONE: readonly DeviceAnswer[] = [];

/** Puts what a device shows in place of what it showed before, and a running charge's newest point behind its curve. */
export function deviceShows({
  deviceId,
  meter,
  memory,
  channel,
}: Extract<LiveMessage, { about: 'device' }>): void {
  queryClient.setQueryData(DEVICES.queryKey, (devices) =>
    devices?.map((device) =>
      device.id !== deviceId
        ? device
        : {
            ...device,
            ...(meter === undefined ? {} : { meter }),
            ...(memory === undefined ? {} : { memory }),
            ...(channel === undefined
              ? {}
              : {
                  channels: [
                    ...device.channels.filter((one) => one.channel !== channel.channel),
                    channel,
                  ].sort((a, b) => (a.channel < b.channel ? -1 : 1)),
                }),
          },
    ),
  );
  if (channel?.jobId == null || channel.point === null) return;
  const { point } = channel;
  // The first point of a curve nobody has asked for with success yet.
  if (!queryClient.getQueryData(KEYS.curveOf(channel.jobId)))
    void queryClient.invalidateQueries({ queryKey: KEYS.curveOf(channel.jobId) });
  queryClient.setQueryData<CurveAnswer>(KEYS.curveOf(channel.jobId), (curve) => {
    const last = curve?.points.at(-1);
    if (!curve || (last && last.seconds >= point.seconds)) return curve;
    return { ...curve, points: [...curve.points, point] };
  });
}
