import type { PackDetails } from '../../../contract';
import { isOutOfUse } from '../../../core/assess';
import type { Instant, RecordId } from '../../../core/measure';
import type { RecordBody } from '../../../core/record';
import { dueWords, sentence, STEP_WORDS } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { usePerson } from '../../domain/Person';
import { useRegister } from '../../app/queries';
import { LargeCellLadder } from '../../kit/CellLadder';
import { VerdictMark } from '../../kit/VerdictMark';
import { answersOf, MayFlyMark } from '../../domain/MayFlyMark';
import { packView, provisional } from '../../domain/packView';
import type { PackView } from '../../domain/packView';

/** Sorts after every real id. */
const previewId = (i: number) => `ffffffff-ffff-7fff-bfff-fffffffffff${i}` as RecordId;

/** Whether this pack was out of its band until now. */
function stopsClock(view: PackView): boolean {
  const { state } = view.assessment.storage;
  return state === 'high' || state === 'low';
}

/** What Malle would say once this record is kept: shown while it is typed. */
export function RecordPreview({
  body,
  also = [],
  at,
  view,
  pack,
}: {
  body: RecordBody | null;
  /** What is kept along with it. */
  also?: readonly RecordBody[];
  at?: Instant | null;
  view: PackView;
  pack: PackDetails;
}) {
  const reader = useReader();
  const person = usePerson();
  const rules = useRegister().data?.rules.rules;
  if (!body || !rules) return null;
  const typed = [body, ...also].map((one, i) =>
    provisional(
      pack,
      { ...one, id: previewId(i), at: at ?? reader.now },
      person.id,
      view.records.length + 1 + i,
      reader.now,
    ),
  );
  const records = [...view.records, ...typed];
  const { assessment } = packView(view.facts, records, rules, reader.now);
  const step = assessment.steps[0];
  const volts = body.kind === 'reading' ? body.payload.volts : null;
  return (
    <div
      role="status"
      aria-label="Verdict before save"
      className="grid gap-x-8 gap-y-3 border-l-4 border-accent bg-sheet px-4 py-3 md:grid-cols-2"
    >
      {volts && (
        <LargeCellLadder
          chemistry={view.facts.chemistry}
          cellsMv={volts.of === 'cells' ? volts.cellsMv : [Math.round(volts.packMv / view.facts.series)]}
          rules={rules}
          byCell={volts.of === 'cells'}
        />
      )}
      <div className="text-sm">
        <p className="flex flex-wrap items-center gap-x-4 text-base">
          <VerdictMark verdict={assessment.verdict} charged={assessment.charged} />
          <MayFlyMark {...answersOf(assessment)} />
        </p>
        {assessment.findings.slice(0, 3).map((finding, i) => (
          <p key={`${finding.rule} ${i}`} className="mt-1">
            {sentence(finding, reader, isOutOfUse(assessment.verdict))}
          </p>
        ))}
        {assessment.storage.state === 'in-band' && (
          <p className="mt-1">In its storage band{stopsClock(view) ? ': the clock stops' : ''}.</p>
        )}
        {step && (
          <p className="mt-1 font-bold">
            Then: {STEP_WORDS[step.do].toLowerCase()}
            {step.dueAt !== null && `, ${dueWords(step.dueAt, reader)}`}
          </p>
        )}
      </div>
    </div>
  );
}
