import type { CellStanding } from '../../../../core/health';
import { ohms } from '../../../../core/wording';

/** The cells of the pack beside each other: which is lowest, how often, and how its resistance has grown. */
export function CellsCompared({ cells }: { cells: readonly CellStanding[] }) {
  if (cells.length === 0) return null;
  const worst = cells.reduce((most, one) => (one.lowestTimes > most.lowestTimes ? one : most));
  return (
    <section aria-label="Cells compared">
      <h3 className="font-bold">Cells compared</h3>
      <p className="mb-1 text-sm text-faint">
        Over the last {cells[0]!.ofReadings} rested readings; resistance at 25 °C against its own baseline.
      </p>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b-2 border-ink text-left">
            <th scope="col" className="py-1 pr-3">
              Cell
            </th>
            <th scope="col" className="py-1 pr-3">
              Deviation
            </th>
            <th scope="col" className="py-1 pr-3">
              Lowest
            </th>
            <th scope="col" className="py-1 pr-3">
              Resistance
            </th>
            <th scope="col" className="py-1">
              Grown
            </th>
          </tr>
        </thead>
        <tbody>
          {cells.map(({ cell, offMv, lowestTimes, irMilliohm, irGrowth }) => (
            <tr
              key={cell}
              className={`border-b border-line font-mono ${cell === worst.cell && worst.lowestTimes > 0 ? 'font-bold' : ''}`}
            >
              <th scope="row" className="py-0.5 pr-3 text-left">
                {cell}
              </th>
              <td className="py-0.5 pr-3">{offMv === null ? '–' : `${offMv > 0 ? '+' : ''}${offMv} mV`}</td>
              <td className="py-0.5 pr-3">{lowestTimes}×</td>
              <td className="py-0.5 pr-3">{irMilliohm === null ? '–' : ohms(irMilliohm)}</td>
              <td className="py-0.5">{irGrowth === null ? '–' : `× ${irGrowth.toFixed(2)}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
