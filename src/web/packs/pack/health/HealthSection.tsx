import { useMemo } from 'react';
import type { PackDetails } from '../../../../contract';
import { restedReadings } from '../../../../core/assess';
import { cellsCompared, healthReport } from '../../../../core/health';
import type { Measure } from '../../../../core/health';
import type { HouseRules } from '../../../../core/rules';
import { carriedForward, exposureByHolder, storageEvidence } from '../../../../core/storage';
import { MEASURE_TITLES, measureValue, retirementSentence, trendSentence } from '../../../../core/wording';
import { useReader } from '../../../app/clock';
import type { PackView } from '../../../domain/packView';
import { CellsCompared } from './CellsCompared';
import { ExposureTable } from './ExposureTable';
import { MeasureChart } from './MeasureChart';
import { MeasureTable } from './MeasureTable';

/** Where the pack is going: every measure with its lines and its forecast, its cells beside each other, who kept it full. */
export default function HealthSection({
  pack,
  view,
  rules,
}: {
  pack: PackDetails;
  view: PackView;
  rules: HouseRules;
}) {
  const reader = useReader();
  const { history } = view;
  // Records change seldom, the clock every quarter minute: trends follow the records and the hour.
  const hour = Math.floor(reader.now / 3_600_000) * 3_600_000;
  const { report, cells, exposure } = useMemo(() => {
    const { rested } = restedReadings(history, rules);
    const stretches = carriedForward(history.pack, storageEvidence(history, rested), rules, hour);
    return {
      report: healthReport(history, rested, rules, hour, pack.siblings),
      cells: cellsCompared(history, rested),
      exposure: exposureByHolder(history, stretches, rules),
    };
  }, [history, rules, hour, pack.siblings]);
  const seqs = useMemo(() => new Map(pack.records.map(({ id, seq }) => [id, seq])), [pack.records]);
  const charted = report.measures.filter(
    ({ id, points }) => id !== 'age' && id !== 'cycles' && points.length > 1,
  );
  return (
    <section aria-label="Health and trends">
      <h2 className="border-b-2 border-ink pb-1">Health and trends</h2>
      <p className="my-2 text-lg">
        {view.assessment.verdict === 'retire-advised'
          ? 'Its retirement is advised already, whatever its trends say.'
          : retirementSentence(report, reader)}
      </p>
      <Wear measures={report.measures} />
      {charted.length === 0 && (
        <p className="text-faint">
          Trends appear here once readings, charges, flights and resistance have been written down.
        </p>
      )}
      <div className="mt-3 grid gap-x-8 gap-y-6 xl:grid-cols-2">
        {charted.map((measure) => (
          <figure key={measure.id} aria-label={MEASURE_TITLES[measure.id]}>
            <figcaption>
              <b>{MEASURE_TITLES[measure.id]}</b>
              <span className="text-faint">{comparedWords(measure)}</span>
              <p className="text-sm text-faint">{trendSentence(measure, reader)}</p>
            </figcaption>
            <MeasureChart measure={measure} now={hour} />
            <MeasureTable measure={measure} seqOf={(id) => seqs.get(id) ?? null} />
          </figure>
        ))}
      </div>
      <div className="mt-6 grid gap-x-8 gap-y-6 xl:grid-cols-2">
        <CellsCompared cells={cells} />
        <ExposureTable exposure={exposure} />
      </div>
    </section>
  );
}

/** What the values are limited to, so that like is compared with like. */
function comparedWords({ compared, id }: Measure): string {
  if (compared && 'craft' in compared) return `, on ${compared.craft}, not in the cold`;
  if (compared && 'cell' in compared) return `, cell ${compared.cell} against its own baseline`;
  return id === 'spread' ? ', after use' : '';
}

/** What wears without being measured: cycles and years, each against its review line. */
function Wear({ measures }: { measures: readonly Measure[] }) {
  const reader = useReader();
  return (
    <ul className="grid gap-x-8 text-sm md:grid-cols-2">
      {measures
        .filter(({ id }) => id === 'cycles' || id === 'age')
        .map((measure) => (
          <li key={measure.id}>
            <b>{MEASURE_TITLES[measure.id]}:</b> {measureValue(measure, measure.points.at(-1)?.value ?? 0)}
            {measure.watch !== null && ` of ${measureValue(measure, measure.watch)}`}.{' '}
            <span className="text-faint">{trendSentence(measure, reader)}</span>
          </li>
        ))}
    </ul>
  );
}
