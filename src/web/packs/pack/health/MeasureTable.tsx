import type { Measure } from '../../../../core/health';
import type { RecordId } from '../../../../core/measure';
import { measureValue, whenWords } from '../../../../core/wording';
import { useReader } from '../../../app/clock';
import { Fold } from '../../../kit/Fold';

const SHOWN = 60;

/** The values behind a chart as figures, newest first, each with the record it came from. */
export function MeasureTable({
  measure,
  seqOf,
}: {
  measure: Measure;
  seqOf: (id: RecordId) => number | null;
}) {
  const reader = useReader();
  const { points, cells } = measure;
  const newest = points
    .map((point, i) => ({ point, i }))
    .reverse()
    .slice(0, SHOWN);
  return (
    <Fold line={<span className="text-sm text-accent underline underline-offset-3">As figures</span>}>
      <div className="max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="Values">
        <table className="w-full text-sm">
          <thead>
            <tr className="border-b-2 border-ink text-left">
              <th scope="col" className="py-1 pr-3">
                When
              </th>
              <th scope="col" className="py-1 pr-3">
                Value
              </th>
              {cells.length > 1 &&
                cells.map((_, cell) => (
                  <th key={cell} scope="col" className="py-1 pr-3">
                    {cell + 1}
                  </th>
                ))}
              <th scope="col" className="py-1">
                Record
              </th>
            </tr>
          </thead>
          <tbody>
            {newest.map(({ point, i }) => (
              <tr key={`${point.at} ${i}`} className="border-b border-line font-mono">
                <td className="py-0.5 pr-3 font-sans">{whenWords(point.at, reader)}</td>
                <td className="py-0.5 pr-3">{measureValue(measure, point.value)}</td>
                {cells.length > 1 &&
                  cells.map((series, cell) => (
                    <td key={cell} className="py-0.5 pr-3">
                      {series[i]?.value.toFixed(2)}
                    </td>
                  ))}
                <td className="py-0.5">
                  {point.records.slice(-1).map((id) => (
                    <a key={id} href={`#record-${id}`} className="inline-block min-h-6 text-accent underline">
                      {seqOf(id) ?? 'waiting'}
                    </a>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Fold>
  );
}
