import type { HeldExposure } from '../../../../core/storage';
import { useNames } from '../../../domain/useNames';

/** Days spent full, and in whose hands: ten separate days harm as ten in a row do. */
export function ExposureTable({ exposure }: { exposure: readonly HeldExposure[] }) {
  const names = useNames();
  const total = exposure.reduce((sum, { days }) => sum + days, 0);
  if (total === 0) return null;
  return (
    <section aria-label="Full-charge days">
      <h3 className="font-bold">Full-charge days: {total.toFixed(1)}</h3>
      <p className="mb-1 text-sm text-faint">
        A day counts whole at full charge and 25 °C, less below, nothing in the band.
      </p>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b-2 border-ink text-left">
            <th scope="col" className="w-48 py-1 pr-3">
              In whose hands
            </th>
            <th scope="col" className="w-20 py-1 pr-3">
              Days
            </th>
            <th scope="col" className="py-1">
              <span className="sr-only">Share</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {exposure.map(({ holderId, days }) => (
            <tr key={holderId ?? 'store'} className="border-b border-line">
              <th scope="row" className="py-0.5 pr-3 text-left font-normal">
                {holderId ? names.person(holderId) : 'in storage'}
              </th>
              <td className="py-0.5 pr-3 font-mono">{days.toFixed(1)}</td>
              <td className="py-0.5">
                <svg className="block h-3 w-full" role="presentation">
                  <rect width={`${(days / total) * 100}%`} height="100%" fill="var(--used)" />
                </svg>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
