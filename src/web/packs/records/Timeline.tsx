import { useState } from 'react';
import type { PackDetails, PackTypeAnswer } from '../../../contract';
import { isCorrectable } from '../../../core/admission';
import { latestCorrections } from '../../../core/record';
import type { CorrectionRecord, PackRecord } from '../../../core/record';
import { KIND_WORDS, recordLine, whenWords, writtenLater } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { discard, sendAgain, useOwnItems } from '../../app/outbox';
import { useMay, usePerson } from '../../domain/Person';
import { Photo } from '../../domain/inspection/PhotoStrip';
import { Button } from '../../kit/Button';
import { CorrectionSheet } from './CorrectionSheet';
import type { RecordLine } from '../../../core/wording';
import { useNames } from '../../domain/useNames';
import { CurveOfRecord } from '../../domain/curve/Curve';
import { Fold } from '../../kit/Fold';
import { Hint } from '../../kit/Hint';

const SHOWN_AT_FIRST = 40;

/** The pack's ledger, newest first, each record with what has put it right since. */
export function Timeline({
  pack,
  type,
  records,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  records: readonly PackRecord[];
}) {
  const [shown, setShown] = useState(SHOWN_AT_FIRST);
  const [correcting, setCorrecting] = useState<PackRecord | null>(null);
  const corrections = latestCorrections(records);
  const stored = new Set(pack.records.map(({ id }) => id));
  const newestFirst = records
    .filter((record) => record.kind !== 'correction')
    .sort((a, b) => b.at - a.at || b.seq - a.seq);
  // A finding's link to an old record must find it on the page.
  const wanted = newestFirst.findIndex(({ id }) => window.location.hash === `#record-${id}`);
  const visible = newestFirst.slice(0, Math.max(shown, wanted + 1));
  return (
    <section aria-label="Timeline">
      <h2 className="border-b-2 border-ink pb-1">
        Timeline <span className="font-normal text-faint">{pack.records.length} records</span>
      </h2>
      <RefusedItems pack={pack} />
      <ol>
        {visible.map((record) => (
          <TimelineRow
            key={record.id}
            record={record}
            correction={corrections.get(record.id) ?? null}
            waiting={!stored.has(record.id)}
            onCorrect={() => setCorrecting(record)}
          />
        ))}
      </ol>
      {visible.length < newestFirst.length && (
        <Button weight="quiet" onClick={() => setShown(newestFirst.length)}>
          Show {newestFirst.length - visible.length} older
        </Button>
      )}
      {correcting && (
        <CorrectionSheet pack={pack} type={type} record={correcting} onClose={() => setCorrecting(null)} />
      )}
    </section>
  );
}

interface TimelineRowProps {
  readonly record: PackRecord;
  readonly correction: CorrectionRecord | null;
  readonly waiting: boolean;
  readonly onCorrect: () => void;
}

function TimelineRow({ record, correction, waiting, onCorrect }: TimelineRowProps) {
  const reader = useReader();
  const names = useNames();
  const person = usePerson();
  const mayOwn = useMay('record.correction');
  const mayAny = useMay('record.correct.any');
  const mayCorrect = !waiting && isCorrectable(record) && (mayAny || (mayOwn && record.by === person.id));
  if (record.kind === 'correction') return null;
  const replacement = correction?.payload.replacement ?? null;
  const late = waiting ? null : writtenLater(record);
  return (
    <li
      id={`record-${record.id}`}
      className="ruled scroll-mt-28 py-1.5 text-sm target:bg-wash-amber md:flex md:items-baseline md:gap-4"
    >
      <span className="flex shrink-0 gap-3 text-faint md:w-56">
        <span className="w-8 text-right font-mono">{waiting ? '–' : record.seq}</span>
        <time dateTime={new Date(record.at).toISOString()}>{whenWords(record.at, reader)}</time>
      </span>
      <span className="min-w-0 flex-1">
        <b>{KIND_WORDS[record.kind]}</b>{' '}
        <span className={correction ? 'text-faint line-through' : ''}>
          <Line {...recordLine(record, names)} />
        </span>
        {late && <span className="text-faint"> · {late}</span>}
        {record.kind === 'charge' && record.payload.curveId && (
          <Fold line="Its curve">
            <CurveOfRecord id={record.payload.curveId} topMv={record.payload.settings.topMv} />
          </Fold>
        )}
        {record.kind === 'inspection' && <InspectionPhotos record={record} />}
        {correction && (
          <span className="block">
            <b>{replacement ? 'Corrected to' : 'Withdrawn'}</b>{' '}
            {replacement && <Line {...recordLine(replacement, names)} />}
            <span className="text-faint">
              {' '}
              {names.person(correction.by)}, {whenWords(correction.at, reader)}: {correction.payload.reason}
            </span>
          </span>
        )}
      </span>
      <span className="flex items-baseline justify-between gap-4 md:w-64 md:justify-end">
        <span className="text-faint">
          {waiting ? (
            <b className="text-amber">waiting to be sent</b>
          ) : (
            <Hint says={`Written under version ${record.rulesVersion} of the house rules.`}>
              {names.person(record.by)}
            </Hint>
          )}
        </span>
        {mayCorrect && (
          <button
            type="button"
            onClick={onCorrect}
            className="min-h-11 font-bold text-accent underline-offset-3 hover:underline md:min-h-6"
            aria-label={`Correct record ${record.seq}`}
          >
            correct
          </button>
        )}
      </span>
    </li>
  );
}

function InspectionPhotos({ record: { payload } }: { record: Extract<PackRecord, { kind: 'inspection' }> }) {
  const photos = payload.items.flatMap(({ asks, photoIds }) => photoIds.map((id) => ({ id, asks })));
  if (photos.length === 0) return null;
  return (
    <span className="flex flex-wrap gap-2 py-1">
      {photos.map(({ id, asks }) => (
        <Photo key={id} id={id} label={asks} />
      ))}
    </span>
  );
}

function Line({ figures, words }: RecordLine) {
  return (
    <>
      {figures && <span className="font-mono">{figures} </span>}
      <span className="break-words">{words}</span>
    </>
  );
}

/** Records written without a connection that the ledger would not take when they arrived. */
function RefusedItems({ pack }: { pack: PackDetails }) {
  const names = useNames();
  const refused = useOwnItems().filter((item) => item.packId === pack.id && item.state === 'refused');
  return refused.map(({ id, drafts, problem }) => (
    <div key={id} role="alert" className="my-2 border-l-4 border-red bg-wash-red px-3 py-2 text-sm">
      <b>Not taken: </b>
      {drafts.map((draft) =>
        draft.kind === 'correction' ? (
          draft.payload.reason
        ) : (
          <Line key={draft.id} {...recordLine(draft, names)} />
        ),
      )}
      <p>{problem?.errors?.map(({ message }) => message).join(' ') ?? problem?.title}</p>
      <Button weight="quiet" onClick={() => sendAgain(id)}>
        Send it again
      </Button>
      <Button weight="quiet" onClick={() => discard(id)}>
        I have noted it, discard
      </Button>
    </div>
  ));
}
