import { useRef } from 'react';
import type { PackRow, PackTypeAnswer, RoundDetails } from '../../contract';
import { CHEMISTRY } from '../../core/chemistry';
import { lettersFor } from '../../core/inspection';
import { ROUND_OCCASION, stopsLooking, unusual } from '../../core/rounds';
import type { RowOutcome } from '../../core/rounds';
import { plural, unusualQuestion, whenWords } from '../../core/wording';
import type { KnownPack } from '../domain/histories';
import { photoWant } from '../domain/inspection/inspectionRecord';
import { MeterLine } from '../domain/meter/MeterLine';
import { stillMeasured, useMeter } from '../domain/meter/useMeter';
import { TextField } from '../kit/fields';
import { useBenchC } from './LoadFields';
import { LookedAt } from './LookedAt';
import type { RoundAction } from './roundDraft';
import { baselineMeans, rowBodies, rowMeans, seenBodies, toldFlight } from './rowDraft';
import type { RowBody, RowDraft } from './rowDraft';
import { RowField } from './RowField';
import { readingOf, RowUse, SwellingFields, unexplainedIn } from './RowUse';
import { RowVerdict } from './RowVerdict';
import { useJudging } from './useJudging';
import type { RowView } from './useRound';

export interface EntryProps {
  readonly round: RoundDetails;
  readonly row: RowView;
  readonly pack: PackRow;
  readonly type: PackTypeAnswer;
  readonly known: KnownPack;
  readonly draft: RowDraft;
  readonly problem: string | null;
  readonly dispatch: (action: RoundAction) => void;
  readonly onMove: (by: 1 | -1) => void;
  readonly onKeep: (bodies: readonly RowBody[], outcome: RowOutcome, reason: string | null) => void;
  /** Keeps records and stays with the row, which is not ended by them. */
  readonly onStay: (bodies: readonly RowBody[]) => void;
}

const NO_ITEMS = [] as const;

/** The row a hand is at: one field for the cells, a key for each item, and what Malle says as it is typed. */
export function RowEntry(props: EntryProps) {
  const { round, row, pack, type, known, draft, problem, dispatch, onMove, onKeep } = props;
  const { rules, reader, instrument, before, judge, nameOf } = useJudging(row.packId, known);
  const benchC = useBenchC();
  const field = useRef<HTMLInputElement>(null);
  const occasion = ROUND_OCCASION[round.kind];
  const items = occasion && round.checklist ? rules.checklists[occasion] : NO_ITEMS;
  const letters = lettersFor(items);

  const means = rowMeans(draft.text, type);
  const volts = means.kind === 'volts' ? means.volts : null;
  const receipt = round.kind === 'receipt';
  const measured = receipt ? baselineMeans(draft, type.series) : { baseline: null, errors: null };
  const stops = stopsLooking(items, draft.marks);
  const flight = toldFlight(draft, rules.restMinutes);
  const bodies: readonly RowBody[] = [
    ...(flight.body ? [flight.body] : []),
    ...rowBodies(round, draft, items, volts, measured.baseline, instrument, benchC),
  ];
  const saysMore = volts !== null || Object.keys(draft.marks).length > 0;
  const view = judge(saysMore ? bodies : NO_ITEMS);

  const photos = photoWant(items, draft.marks);
  const question = () => {
    if (row.outcome === 'done' || row.outcome === 'stopped') {
      return `${nameOf(row.by)} did this pack ${whenWords(row.at!, reader)}. Enter again to save another reading.`;
    }
    const odd = volts?.of === 'cells' ? unusual(before.history, rules, volts.cellsMv, reader.now) : null;
    if (odd) return unusualQuestion(odd, reader);
    const [wanted] = photos.asked;
    return wanted ? `${wanted.asks}: no photo yet. Enter again to save it without.` : null;
  };

  const enter = () => {
    const finished = volts !== null || (stops && means.kind === 'empty');
    if (means.kind === 'missing') return onKeep(NO_ITEMS, 'missing', null);
    if (means.kind === 'skip' && means.reason !== '')
      return onKeep(seenBodies(round, draft, rules.checklists, type, instrument), 'skipped', means.reason);
    const asks = finished ? question() : null;
    const repeated = asks !== null && draft.asked === asks;
    if (!finished || measured.errors || flight.error || photos.needed.length > 0)
      return dispatch({ type: 'typed', packId: row.packId, part: { pressed: true } });
    if (asks && !repeated) return dispatch({ type: 'typed', packId: row.packId, part: { asked: asks } });
    onKeep(bodies, stops ? 'stopped' : 'done', null);
  };

  const error = (): string | undefined => {
    if (problem) return problem;
    if (means.kind === 'refused' && (draft.pressed || !means.typing)) return means.why;
    if (!draft.pressed) return undefined;
    if (means.kind === 'skip') return 'Say after the dash why it is left out.';
    if (means.kind === 'empty' && !stops)
      return 'Type the cells. A dash and a reason leaves it out, ? if it is not here.';
    return photos.needed.length > 0 ? `${photos.needed[0]!.asks} wants a photo.` : undefined;
  };

  const change = (part: Partial<RowDraft>) => dispatch({ type: 'typed', packId: row.packId, part });
  const from = stillMeasured(draft.meter, draft.text);
  const meter = useMeter(
    pack,
    type,
    { text: draft.text, from: draft.meter ?? null, settled: draft.asked !== null },
    (read) => change({ text: read.text, meter: read }),
  );
  return (
    <li className="border-b-2 border-ink bg-sheet px-3 py-3">
      <div className="grid gap-x-6 gap-y-3 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <div className="grid content-start gap-2">
          <RowField
            ref={field}
            tag={pack.tag}
            under={`${CHEMISTRY[type.chemistry].name}, ${plural(type.series, 'cell')}`}
            value={draft.text}
            letters={letters}
            items={items}
            error={error()}
            hint={means.kind === 'refused' && means.typing && !draft.pressed ? means.why : undefined}
            question={draft.asked}
            meter={<MeterLine meter={meter} tag={pack.tag} isFilled={from !== null} />}
            onText={(text) => change({ text })}
            onLetter={(key) => dispatch({ type: 'pressed letter', packId: row.packId, key })}
            onEnter={enter}
            onMove={onMove}
          />
          {receipt && (
            <div className="grid gap-2 sm:grid-cols-[1fr_6rem_6rem]">
              <TextField
                label={`Resistance mΩ, ${type.series} a reading, three readings`}
                inputMode="decimal"
                value={draft.resistances}
                error={draft.pressed ? measured.errors?.resistances : undefined}
                onChange={(event) => change({ resistances: event.target.value })}
                onKeyDown={(event) => event.key === 'Enter' && enter()}
                className="font-mono"
              />
              <TextField
                label="Thick, mm"
                inputMode="decimal"
                value={draft.thickness}
                error={draft.pressed ? measured.errors?.thickness : undefined}
                onChange={(event) => change({ thickness: event.target.value })}
                onKeyDown={(event) => event.key === 'Enter' && enter()}
              />
              <TextField
                label="Mass, g"
                inputMode="decimal"
                value={draft.mass}
                error={draft.pressed ? measured.errors?.mass : undefined}
                onChange={(event) => change({ mass: event.target.value })}
                onKeyDown={(event) => event.key === 'Enter' && enter()}
              />
            </div>
          )}
          <RowUse
            pack={pack}
            draft={draft}
            change={change}
            error={flight.error}
            unexplained={unexplainedIn(judge(volts ? [readingOf(volts)] : NO_ITEMS))}
            onEnter={enter}
          />
          <LookedAt
            packId={row.packId}
            items={items}
            letters={letters}
            marks={draft.marks}
            dispatch={dispatch}
          />
          {!receipt && (draft.marks.swelling?.answer ?? 'ok') !== 'ok' && (
            <SwellingFields draft={draft} change={change} onEnter={enter} />
          )}
        </div>
        <RowVerdict view={view} typed={saysMore} rules={rules} fliesAt={round.fliesAt} />
      </div>
    </li>
  );
}
