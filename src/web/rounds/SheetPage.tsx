import { CHEMISTRY } from '../../core/chemistry';
import { cellsLabel } from '../../core/pack';
import { ROUND_OCCASION } from '../../core/rounds';
import { capacity, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Button, ButtonLink } from '../kit/Button';
import { cellsRange } from './cellsRange';
import { RoundGate } from './RoundGate';
import type { OpenRound } from './RoundGate';
import { useRowViews } from './useRound';

/** The round on paper, for a bench where no screen should lie: what each pack read last, and room to write. */
export default function SheetPage() {
  return <RoundGate>{(open) => <Sheet {...open} />}</RoundGate>;
}

function Sheet({ round, packs, register }: OpenRound) {
  const reader = useReader();
  const rows = useRowViews(round, packs, register);
  const occasion = ROUND_OCCASION[round.kind];
  const items = occasion && round.checklist ? register.rules.rules.checklists[occasion] : [];
  return (
    <>
      <title>{`Bench sheet · ${round.title} · Malle`}</title>
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-3">
        <h1>{round.title}</h1>
        <span className="flex gap-2 print:hidden">
          <ButtonLink to={`/rounds/${round.id}`} weight="quiet">
            Back to the round
          </ButtonLink>
          <Button weight="main" onClick={() => window.print()}>
            Print
          </Button>
        </span>
      </div>
      <p className="mb-2 text-sm text-faint">
        Printed {whenWords(reader.now, reader)}. Look at every item; cross what is not in order.
      </p>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Bench sheet">
        <table className="w-full border-collapse text-sm print:text-xs">
          <thead>
            <tr className="border-b-2 border-ink text-left align-bottom">
              <th scope="col" className="py-1 pr-3">
                Tag
              </th>
              <th scope="col" className="py-1 pr-3">
                Pack
              </th>
              <th scope="col" className="py-1 pr-3">
                Last read
              </th>
              <th scope="col" className="py-1 pr-3">
                Cells now
              </th>
              {items.map(({ key, asks }) => (
                <th key={key} scope="col" className="w-14 px-1 py-1 text-xs font-normal">
                  {asks}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ packId, pack, type }) => (
              <tr key={packId} className="h-9 border-b border-rule break-inside-avoid">
                <th scope="row" className="pr-3 text-left font-mono text-base">
                  {pack?.tag}
                </th>
                <td className="pr-3 whitespace-nowrap">
                  {type &&
                    `${CHEMISTRY[type.chemistry].name} ${cellsLabel(type)} ${capacity(type.capacityMah)}`}
                </td>
                <td className="pr-3 font-mono whitespace-nowrap">
                  {pack?.cellsMv && cellsRange(pack.cellsMv)}
                </td>
                <td className="pr-3 font-mono whitespace-nowrap text-faint">
                  {type &&
                    Array.from({ length: pack?.byCell === false ? 1 : type.series }, () => '_____').join(' ')}
                </td>
                {items.map(({ key }) => (
                  <td key={key} className="px-1">
                    <span className="inline-block size-4 border border-ink" />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
