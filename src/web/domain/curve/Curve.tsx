import { useQuery } from '@tanstack/react-query';
import type { CurveAnswer } from '../../../contract';
import type { CurveId, JobId } from '../../../core/measure';
import { FailedRequest, ask } from '../../app/api';
import { KEYS } from '../../app/queries';
import { lazyPart } from '../../kit/lazyPart';
import { Loading } from '../../kit/Message';

const CurveChart = lazyPart(() => import('./CurveChart'));

/** A job's curve so far, kept up by what its charger says; null while no charger has told anything. */
export function useCurveOfJob(id: JobId, isWanted: boolean): CurveAnswer | null {
  return (
    useQuery({
      queryKey: KEYS.curveOf(id),
      queryFn: () => ask('GET /charging/jobs/:id/curve', { params: { id } }),
      enabled: isWanted,
      retry: (failures, error) =>
        failures < 2 && !(error instanceof FailedRequest && error.code === 'not-found'),
    }).data ?? null
  );
}

/** A charge that is over, as its charger told it, with what it measured. */
export function CurveOfRecord({ id, topMv }: { id: CurveId; topMv: number | null }) {
  const curve = useQuery({
    queryKey: ['curve', id],
    queryFn: () => ask('GET /curves/:id', { params: { id } }),
  });
  if (curve.isPending) return <Loading what="the curve" />;
  if (curve.isError)
    return <p className="text-sm text-faint">The curve cannot be shown now: it is kept at the register.</p>;
  const { points, capacityMah, milliohm, bytes } = curve.data;
  return (
    <div className="max-w-2xl py-2">
      <CurveChart points={points} topMv={topMv} expectedMinutes={null} />
      {(capacityMah !== null || milliohm !== null) && (
        <p className="text-sm">
          {capacityMah && (
            <>
              It measured a capacity of{' '}
              <b>
                {(capacityMah.value / 1000).toFixed(2)} ± {(capacityMah.error / 1000).toFixed(2)} Ah
              </b>
              .{' '}
            </>
          )}
          {milliohm && (
            <>
              Resistance{' '}
              <b>
                {milliohm.map(({ value }) => value.toFixed(1)).join(' ')} ±{' '}
                {Math.max(...milliohm.map(({ error }) => error)).toFixed(1)} mΩ
              </b>
              .
            </>
          )}
        </p>
      )}
      <p className="text-sm text-faint">
        {points.length} points in {(bytes / 1000).toFixed(1)} kB.
      </p>
    </div>
  );
}

export { CurveChart };
