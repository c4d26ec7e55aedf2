import { useRef } from 'react';
import { CHEMISTRY, isLithium } from '../../core/chemistry';
import { lettersFor } from '../../core/inspection';
import type { ChecklistItem } from '../../core/inspection';
import { BLANK_CHARGE } from '../../core/record';
import type { ReadVolts, RecordBody } from '../../core/record';
import { lookSteps, seasonState, stopsLooking, unusual } from '../../core/rounds';
import type { LookStep, SeasonState } from '../../core/rounds';
import { amps, plural, seasonWords, unusualQuestion } from '../../core/wording';
import { photoWant } from '../domain/inspection/inspectionRecord';
import { MeterLine } from '../domain/meter/MeterLine';
import { stillMeasured, useMeter } from '../domain/meter/useMeter';
import { LookedAt } from './LookedAt';
import { rowBodies, rowMeans, seenBodies } from './rowDraft';
import type { RowDraft } from './rowDraft';
import type { EntryProps } from './RowEntry';
import { RowField } from './RowField';
import { RowVerdict } from './RowVerdict';
import { useJudging } from './useJudging';

const STEP_NAMES: Readonly<Record<LookStep, string>> = {
  look: 'Look',
  leads: 'Leads and connector',
  'balance-port': 'Balance port',
};
const NOTHING: readonly never[] = [];
/** Not on any checklist: the charger gave up. */
const TIMED_OUT: ChecklistItem = { key: 'timed-out', asks: 'Timed out', failMeans: 'watch', photo: 'never' };

/**
 * A pack's season start, strictly in order: look, leads and connector, balance port, cells, then a first charge at 1C and
 * balanced, again until the cells close or the house has seen enough. What takes a pack out of use ends it there.
 */
export function SeasonEntry(props: EntryProps) {
  const { round, row, known } = props;
  const { rules, before } = useJudging(row.packId, known);
  const state = seasonState(before.history, round.startedAt, rules);
  switch (state.step) {
    case 'look-over':
      return <LookOver {...props} />;
    case 'charge':
      return <FirstCharge {...props} state={state} />;
    case 'stopped':
    case 'done':
      return <Ended {...props} state={state} />;
    default:
      return state satisfies never;
  }
}

function LookOver({
  round,
  row,
  pack,
  type,
  known,
  draft,
  problem,
  dispatch,
  onMove,
  onKeep,
  onStay,
}: EntryProps) {
  const { rules, reader, instrument, before, judge } = useJudging(row.packId, known);
  const field = useRef<HTMLInputElement>(null);
  const steps = lookSteps(rules.checklists['season-start']);
  const at = Math.min(draft.step, steps.length);
  const looking = steps[at] ?? null;
  const looked = steps.slice(0, at + 1).flatMap(({ items }) => items);
  const items = looking?.items ?? NOTHING;
  const letters = lettersFor(items);
  const stops = stopsLooking(looked, draft.marks);
  const means = rowMeans(draft.text, type);
  const volts: ReadVolts | null = means.kind === 'volts' && !looking ? means.volts : null;
  const bodies = rowBodies(round, draft, looked, volts, null, instrument);
  const view = judge(volts || stops ? bodies : NOTHING);
  const photos = photoWant(looked, draft.marks);
  const change = (part: Partial<RowDraft>) => dispatch({ type: 'typed', packId: row.packId, part });

  const from = stillMeasured(draft.meter, draft.text);
  // Before the cells are asked for, the field waits for an Enter of its own.
  const meter = useMeter(
    pack,
    type,
    { text: draft.text, from: draft.meter ?? null, settled: looking !== null || draft.asked !== null },
    (read) => change({ text: read.text, meter: read }),
  );

  const question = (): string | null => {
    const [wanted] = photos.asked;
    if (wanted) return `${wanted.asks}: no photo yet. Enter again to save it without.`;
    const odd = volts?.of === 'cells' ? unusual(before.history, rules, volts.cellsMv, reader.now) : null;
    return odd && unusualQuestion(odd, reader);
  };
  const enter = () => {
    if (means.kind === 'missing') return onKeep(NOTHING, 'missing', null);
    if (means.kind === 'skip' && means.reason !== '')
      return onKeep(seenBodies(round, draft, rules.checklists, type, instrument), 'skipped', means.reason);
    const ready = stops || volts !== null || (looking && means.kind === 'empty');
    if (!ready || photos.needed.length > 0) return change({ pressed: true });
    if (looking && !stops) return change({ step: at + 1 });
    const asks = question();
    if (asks && draft.asked !== asks) return change({ asked: asks });
    const after = seasonState(judge(bodies).history, round.startedAt, rules);
    if (after.step === 'charge' || after.step === 'look-over') return onStay(bodies);
    onKeep(bodies, after.step === 'done' ? 'done' : 'stopped', null);
  };
  const error = (): string | undefined => {
    if (problem) return problem;
    if (looking && means.kind !== 'empty' && means.kind !== 'skip' && means.kind !== 'missing')
      return `First ${STEP_NAMES[looking.step].toLowerCase()}: press Enter when that is in order, then type the cells.`;
    if (means.kind === 'refused' && (draft.pressed || !means.typing)) return means.why;
    if (!draft.pressed) return undefined;
    if (photos.needed.length > 0) return `${photos.needed[0]!.asks} wants a photo.`;
    if (means.kind === 'skip') return 'Say after the dash why it is left out.';
    return means.kind === 'empty' && !looking ? 'Type the cells.' : undefined;
  };
  return (
    <li className="border-b-2 border-ink bg-sheet px-3 py-3">
      <Steps now={looking?.step ?? 'cells'} />
      <div className="grid gap-x-6 gap-y-3 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <div className="grid content-start gap-2">
          <RowField
            key={at}
            ref={field}
            tag={pack.tag}
            under={`${CHEMISTRY[type.chemistry].name}, ${plural(type.series, 'cell')}`}
            value={draft.text}
            items={items}
            letters={letters}
            error={error()}
            hint={
              stops
                ? 'Enter ends it here: it is not read and not charged.'
                : looking
                  ? `Enter: ${STEP_NAMES[looking.step].toLowerCase()} in order, go on`
                  : means.kind === 'refused' && means.typing
                    ? means.why
                    : undefined
            }
            question={draft.asked}
            placeholder={looking ? 'look, then Enter' : 'cells in order'}
            meter={!looking && <MeterLine meter={meter} tag={pack.tag} isFilled={from !== null} />}
            onText={(text) => change({ text })}
            onLetter={(key) => dispatch({ type: 'pressed letter', packId: row.packId, key })}
            onEnter={enter}
            onMove={onMove}
          />
          <LookedAt
            packId={row.packId}
            items={items}
            letters={letters}
            before={looked}
            marks={draft.marks}
            dispatch={dispatch}
          />
        </div>
        <RowVerdict view={view} typed={volts !== null || stops} rules={rules} fliesAt={round.fliesAt} />
      </div>
    </li>
  );
}

function FirstCharge({
  round,
  row,
  pack,
  type,
  known,
  draft,
  problem,
  dispatch,
  onMove,
  onKeep,
  onStay,
  state,
}: EntryProps & { state: Extract<SeasonState, { step: 'charge' }> }) {
  const { rules, judge } = useJudging(row.packId, known);
  const field = useRef<HTMLInputElement>(null);
  const means = rowMeans(draft.text, type);
  const ends = means.kind === 'volts' && means.volts.of === 'cells' ? means.volts.cellsMv : null;
  const timedOut = (draft.marks[TIMED_OUT.key]?.answer ?? 'ok') !== 'ok';
  const currentA = Math.min(1, type.chargeC ?? 1) * (type.capacityMah / 1000);
  const spreadMv = ends ? Math.max(...ends) - Math.min(...ends) : null;
  const charge: RecordBody | null = ends && {
    kind: 'charge',
    supersedes: null,
    payload: {
      ...BLANK_CHARGE,
      mode: 'balance',
      settings: {
        chemistry: type.chemistry,
        cells: type.series,
        topMv: isLithium(type.chemistry) ? rules.topMv[type.chemistry] : null,
        currentA,
      },
      endCellsMv: ends,
      balanced: !timedOut && spreadMv! <= rules.spread.toleranceMv,
      ending: timedOut ? 'timed-out' : 'complete',
      remarks: `Season start, pass ${state.pass}`,
    },
  };
  const bodies = charge ? [charge] : NOTHING;
  const view = judge(bodies);
  const change = (part: Partial<RowDraft>) => dispatch({ type: 'typed', packId: row.packId, part });
  const enter = () => {
    if (!charge) return change({ pressed: true });
    const after = seasonState(view.history, round.startedAt, rules);
    if (after.step === 'charge') {
      onStay(bodies);
      return;
    }
    onKeep(bodies, after.step === 'done' ? 'done' : 'stopped', null);
  };
  const error = () => {
    if (problem) return problem;
    if (means.kind === 'refused' && (draft.pressed || !means.typing)) return means.why;
    return draft.pressed && !charge ? 'Type the cells as the charger shows them at the end.' : undefined;
  };
  return (
    <li className="border-b-2 border-ink bg-sheet px-3 py-3">
      <Steps now="charge" />
      <p className="mb-2 text-lg">
        <b>{seasonWords(state)}</b> At {amps(currentA)}, with the balance plug connected, not left alone.
      </p>
      <div className="grid gap-x-6 gap-y-3 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <div className="grid content-start gap-2">
          <RowField
            key={state.pass}
            ref={field}
            tag={pack.tag}
            under={`pass ${state.pass} of ${state.of}`}
            value={draft.text}
            items={[TIMED_OUT]}
            letters={['t']}
            error={error()}
            hint="Cells at the end of the charge · t: the charger timed out · ↑ ↓ other rows meanwhile"
            question={null}
            placeholder="cells at the end"
            onText={(text) => change({ text })}
            onLetter={(key) =>
              change({ marks: timedOut ? {} : { [key]: { answer: 'fail', note: '', photoIds: [] } } })
            }
            onEnter={enter}
            onMove={onMove}
          />
          {timedOut && <p className="font-bold text-amber">The charger timed out.</p>}
          {spreadMv !== null && (
            <p
              className={spreadMv > rules.spread.toleranceMv ? 'font-bold text-amber' : 'font-bold text-leaf'}
            >
              {spreadMv} mV apart; up to {rules.spread.toleranceMv} mV is in tolerance.
            </p>
          )}
        </div>
        <RowVerdict view={view} typed={charge !== null} rules={rules} fliesAt={round.fliesAt} />
      </div>
    </li>
  );
}

function Ended({ row, pack, known, onKeep, onMove, state }: EntryProps & { state: SeasonState }) {
  const { rules, before: view } = useJudging(row.packId, known);
  const field = useRef<HTMLInputElement>(null);
  const outcome = state.step === 'done' ? 'done' : 'stopped';
  return (
    <li className="border-b-2 border-ink bg-sheet px-3 py-3">
      <p className={`mb-2 text-lg font-bold ${state.step === 'stopped' ? 'text-red' : 'text-leaf'}`}>
        {seasonWords(state)}
      </p>
      <div className="grid gap-x-6 gap-y-3 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <RowField
          ref={field}
          tag={pack.tag}
          under=""
          value=""
          items={NOTHING}
          letters={NOTHING}
          error={undefined}
          hint="Enter goes on"
          question={null}
          placeholder="nothing more to type here"
          onText={() => undefined}
          onLetter={() => undefined}
          onEnter={() => (row.outcome === null ? onKeep(NOTHING, outcome, null) : onMove(1))}
          onMove={onMove}
        />
        <RowVerdict view={view} typed={false} rules={rules} fliesAt={null} />
      </div>
    </li>
  );
}

const STEPS = [
  ['look', 'Look'],
  ['leads', 'Leads and connector'],
  ['balance-port', 'Balance port'],
  ['cells', 'Cells'],
  ['charge', 'First charge, 1C, balanced'],
] as const;

function Steps({ now }: { now: (typeof STEPS)[number][0] }) {
  const at = STEPS.findIndex(([step]) => step === now);
  return (
    <ol aria-label="Steps" className="mb-3 flex flex-wrap gap-x-4 border-b border-line pb-1 text-sm">
      {STEPS.map(([step, name], i) => (
        <li
          key={step}
          aria-current={i === at ? 'step' : undefined}
          className={i === at ? 'font-bold' : i < at ? 'text-leaf' : 'text-faint'}
        >
          {i < at ? '✓ ' : `${i + 1} `}
          {name}
        </li>
      ))}
    </ol>
  );
}
