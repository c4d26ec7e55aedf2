import { useState } from 'react';
import { Link } from 'react-router';
import { discipline } from '../../core/flying';
import type { Discipline } from '../../core/flying';
import { DAY_MS } from '../../core/measure';
import { plural, volts, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { useNames } from '../domain/useNames';
import { Choice } from '../kit/fields';
import { Fold } from '../kit/Fold';
import { Empty } from '../kit/Message';
import { Scroll } from '../kit/Scroll';
import type { Shown } from './shown';
import { TAG } from '../kit/press';

const PERIODS = [
  { value: '30', label: '30 days' },
  { value: '60', label: '60 days' },
  { value: '120', label: '120 days' },
] as const;
const GROUPS = [
  { value: 'pilot', label: 'by pilot' },
  { value: 'craft', label: 'by craft' },
  { value: 'type', label: 'by type' },
] as const;

type Landings = Shown['flying']['landings'];

/** How packs are landed: above or below the house’s line, how deep, how alike, and how that moves. Counted without blame. */
export function LandingsView({ flying, register }: Shown) {
  const reader = useReader();
  const names = useNames();
  const [days, setDays] = useState<(typeof PERIODS)[number]['value']>('120');
  const [by, setBy] = useState<(typeof GROUPS)[number]['value']>('pilot');
  const shown = flying.landings.filter(({ at }) => at > reader.now - Number(days) * DAY_MS);
  const nameOf = (landing: Landings[number]) => {
    if (by === 'type')
      return register.types.find(({ id }) => id === landing.typeId)?.name ?? 'a type no longer known';
    if (by === 'craft')
      return register.craft.find(({ id }) => id === landing.craftId)?.name ?? landing.craft ?? 'not noted';
    return landing.pilot ? names.person(landing.pilot) : (landing.flownBy ?? 'nobody named');
  };
  const groups = [...new Set(shown.map(nameOf))]
    .map((name) => {
      const landings = shown.filter((landing) => nameOf(landing) === name);
      return { name, landings, told: discipline(landings, register.rules.rules) };
    })
    .sort((a, b) => b.told.flights - a.told.flights);
  const { maxDodPercent } = register.rules.rules.flight;
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap gap-x-8 gap-y-3">
        <Choice label="Of the last" options={PERIODS} value={days} onChange={setDays} />
        <Choice label="Told" options={GROUPS} value={by} onChange={setBy} />
        <Link
          to="/reports?about=handling"
          className="inline-flex min-h-11 items-center self-end font-bold text-accent underline md:min-h-9"
        >
          Any period, with late returns and packs kept full
        </Link>
      </div>
      {groups.length === 0 && (
        <Empty title="No flight in this time.">Flights are written down as packs come back.</Empty>
      )}
      {groups.length > 0 && (
        <Scroll label="Landings" className="max-w-full">
          <table className="w-full min-w-180 border-collapse">
            <thead>
              <tr className="border-b-2 border-ink text-left text-sm align-bottom">
                <th className="py-1 pr-3">{by === 'pilot' ? 'Pilot' : by === 'craft' ? 'Craft' : 'Type'}</th>
                {[
                  'Flights',
                  'Landings read',
                  'Landed low',
                  'Into the reserve',
                  'Middle landing',
                  'Half lie within',
                  'A month',
                ].map((name) => (
                  <th key={name} className="px-2 py-1 text-right">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {groups.map(({ name, told }) => (
                <Row key={name} name={name} told={told} />
              ))}
            </tbody>
          </table>
        </Scroll>
      )}
      {groups.some(({ told }) => told.low + told.deep > 0) && (
        <section aria-label="The records behind it">
          <h2 className="border-b-2 border-ink pb-1">The records behind it</h2>
          {groups
            .filter(({ told }) => told.low + told.deep > 0)
            .map(({ name, landings, told }) => (
              <Fold
                key={name}
                className="ruled"
                line={
                  <>
                    <b>{name}</b>: {told.low > 0 && `${plural(told.low, 'landing')} low`}
                    {told.low > 0 && told.deep > 0 && ', '}
                    {told.deep > 0 && `${plural(told.deep, 'flight')} deeper than ${maxDodPercent} %`}
                  </>
                }
                ask="show"
              >
                <ul className="pb-2 pl-4 text-sm">
                  {landings
                    .filter(
                      ({ recordId }) =>
                        told.lowRecords.includes(recordId) || told.deepRecords.includes(recordId),
                    )
                    .map((landing) => (
                      <li key={landing.recordId}>
                        <Link to={`/packs/${landing.packId}`} className={TAG}>
                          {landing.tag}
                        </Link>{' '}
                        {whenWords(landing.at, reader)}
                        {landing.loadedMv !== null &&
                          `, ${volts(Math.round(landing.loadedMv))} V a cell in the air`}
                        {landing.restedMv !== null && `, ${volts(Math.round(landing.restedMv))} V rested`}
                        {landing.depthPercent !== null && `, ${Math.round(landing.depthPercent)} % taken out`}
                      </li>
                    ))}
                </ul>
              </Fold>
            ))}
        </section>
      )}
      <p className="max-w-prose text-sm text-faint">
        A landing is low when its lowest cell, read at a steady hover, is under the house’s line for its
        chemistry. The middle landing is told above that line. Packs that land within 0.05 V of each other can
        be charged together.
      </p>
    </div>
  );
}

function Row({ name, told }: { name: string; told: Discipline }) {
  const { flights, read, low, deep, deepPoints, aboveLineMv, alikeMv, perMonthMv } = told;
  const signed = (mv: number) => `${mv < 0 ? '−' : '+'}${(Math.abs(mv) / 1000).toFixed(2)} V`;
  const cells: readonly [string, string][] = [
    [String(flights), ''],
    [String(read), ''],
    [read === 0 ? '' : String(low), low > 0 ? 'font-bold text-amber' : ''],
    [
      deep === 0 ? (told.measured === 0 ? '' : '0') : `${deep}, by ${Math.ceil(deepPoints!)} points`,
      deep > 0 ? 'font-bold text-amber' : '',
    ],
    [
      aboveLineMv === null ? '' : signed(Math.round(aboveLineMv)),
      aboveLineMv !== null && aboveLineMv < 0 ? 'font-bold text-amber' : '',
    ],
    [alikeMv === null ? '' : `${(alikeMv / 1000).toFixed(2)} V`, ''],
    [perMonthMv === null ? '' : signed(Math.round(perMonthMv)), ''],
  ];
  return (
    <tr className="ruled">
      <th scope="row" className="py-1.5 pr-3 text-left">
        {name}
      </th>
      {cells.map(([text, look], i) => (
        <td key={i} className={`px-2 py-1.5 text-right font-mono whitespace-nowrap ${look}`}>
          {text}
        </td>
      ))}
    </tr>
  );
}
