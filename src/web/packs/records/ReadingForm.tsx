import { useEffect, useRef } from 'react';
import type { FormEvent, RefObject } from 'react';
import type { InstrumentAnswer, PackDetails, PackTypeAnswer } from '../../../contract';
import { CHEMISTRY, DEFAULT_METER_ERROR_MV } from '../../../core/chemistry';
import { parseVolts } from '../../../core/reading';
import type { ReadingCondition, TypedVolts } from '../../../core/reading';
import type { ReadingPayload } from '../../../core/record';
import { plural, voltsRefusalSentence } from '../../../core/wording';
import { useDraft } from '../../app/drafts';
import { useRegister } from '../../app/queries';
import { MeterLine } from '../../domain/meter/MeterLine';
import { savedWithMeter, stillMeasured, useMeter } from '../../domain/meter/useMeter';
import type { FromMeter } from '../../domain/meter/useMeter';
import { LAST_INSTRUMENT, plainReading, voltsOf } from '../../domain/typedReading';
import { figureTyped } from '../../app/useServerForm';
import { Button } from '../../kit/Button';
import { Choice, TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import { RecordPreview } from './RecordPreview';
import { blankToNull } from '../../domain/entry/gate';
import { useHandIn } from '../../app/useHandIn';
import type { PackView } from '../../domain/packView';

/** What has been typed of a reading. */
interface ReadingDraft {
  readonly text: string;
  readonly condition?: ReadingCondition;
  readonly instrument?: string;
  readonly temperature?: string;
  readonly remarks?: string;
  /** Enter was pressed on something unfinished: from here on it is named as an error, not as typing in progress. */
  readonly asked?: boolean;
  /** What a meter put into the field. */
  readonly meter?: FromMeter;
}

export const CONDITIONS = [
  { value: 'rested', label: 'rested' },
  { value: 'settling', label: 'settling' },
  { value: 'loaded', label: 'under load' },
] as const;

/** One field for the cells, understood as it is typed, judged before it is saved. Enter saves. */
export function ReadingForm({
  pack,
  type,
  view,
  field,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  view: PackView;
  field: RefObject<HTMLInputElement | null>;
}) {
  const [draft, setDraft, clear] = useDraft<ReadingDraft>(`reading.${pack.id}`, { text: '' });
  const [lastInstrument, setLastInstrument] = useDraft<string>(LAST_INSTRUMENT, '');
  const instruments = useRegister().data?.instruments ?? [];
  const { hand, busy, problems } = useHandIn(pack);
  const change = (part: Partial<ReadingDraft>) => setDraft({ ...draft, ...part });

  const from = stillMeasured(draft.meter, draft.text);
  const meter = useMeter(
    pack,
    type,
    { text: draft.text, from: draft.meter ?? null, settled: false },
    (read) => change({ text: read.text, meter: read, asked: false }),
  );
  const typed = parseVolts(draft.text, type);
  const instrument = draft.instrument ?? lastInstrument;
  const payload = payloadOf(typed, draft, instruments.find(({ name }) => name === instrument) ?? null);
  const refusal =
    typed.outcome === 'refused' && (draft.asked || !isTyping(typed))
      ? voltsRefusalSentence(typed.why)
      : undefined;
  const refused = (name: string) => problems.find((problem) => problem.field.startsWith(name))?.message;

  const save = async (event: FormEvent) => {
    event.preventDefault();
    if (!payload) {
      change({ asked: true });
      field.current?.focus();
      return;
    }
    if (await hand({ kind: 'reading', payload, supersedes: null }, `${pack.tag}: reading saved.`)) {
      savedWithMeter(pack.tag);
      clear();
      if (draft.instrument) setLastInstrument(draft.instrument);
      field.current?.focus();
    }
  };

  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-3">
      <TextField
        ref={field}
        label={
          CHEMISTRY[type.chemistry].cellTaps
            ? `Cells in order, ${plural(type.series, 'cell')}`
            : `The pack’s volts, or ${plural(type.series, 'cell')} in order`
        }
        inputMode="text"
        spellCheck={false}
        placeholder={placeholderFor(type)}
        value={draft.text}
        onChange={(event) => change({ text: event.target.value, asked: false })}
        error={
          refusal ??
          refused('payload.volts') ??
          (draft.asked && typed.outcome === 'empty' ? 'Type the volts first.' : undefined)
        }
        hint={typed.outcome === 'refused' && !refusal ? voltsRefusalSentence(typed.why) : ignoredHint(typed)}
        className="font-mono text-xl font-bold tracking-wide md:min-h-12"
      />
      <MeterLine meter={meter} tag={pack.tag} isFilled={from !== null} />
      <RecordPreview
        body={payload && { kind: 'reading', payload, supersedes: null }}
        view={view}
        pack={pack}
      />
      <div className="grid grid-cols-2 gap-3 sm:flex sm:flex-wrap sm:items-end">
        <div className="max-sm:col-span-2">
          <Choice
            label="Condition"
            options={CONDITIONS}
            value={draft.condition ?? 'rested'}
            onChange={(condition) => change({ condition })}
          />
        </div>
        <SelectField
          label="Meter"
          value={from?.instrument.name ?? instrument}
          onChange={(value) => change({ instrument: value })}
          className="sm:w-44"
        >
          <SelectOption value="">not said (± {DEFAULT_METER_ERROR_MV} mV)</SelectOption>
          {instruments.map(({ id, name, errorMv }) => (
            <SelectOption key={id} value={name}>
              {name} (± {errorMv} mV)
            </SelectOption>
          ))}
        </SelectField>
        <TextField
          label="Pack °C"
          inputMode="decimal"
          value={draft.temperature ?? ''}
          onChange={(event) => change({ temperature: event.target.value })}
          error={refused('payload.temperatureC')}
          className="sm:w-20"
        />
        <div className="max-sm:col-span-2 sm:min-w-40 sm:flex-1">
          <TextField
            label="Remarks"
            value={draft.remarks ?? ''}
            onChange={(event) => change({ remarks: event.target.value })}
            error={refused('payload.remarks')}
          />
        </div>
        <Button type="submit" weight="main" disabled={busy} className="max-sm:col-span-2 md:min-h-9">
          Save reading
        </Button>
      </div>
      {problems
        .filter(({ field: name }) => !name.startsWith('payload.'))
        .map(({ message }) => (
          <p key={message} role="alert" className="font-bold text-red">
            {message}
          </p>
        ))}
    </form>
  );
}

/** A hand is not finished: fewer cells than wanted, or a last figure still being typed. Said quietly. */
function isTyping(typed: TypedVolts): boolean {
  return typed.outcome === 'refused' && (typed.why.code === 'too-few' || typed.why.code === 'too-coarse');
}

function payloadOf(
  typed: TypedVolts,
  draft: ReadingDraft,
  instrument: InstrumentAnswer | null,
): ReadingPayload | null {
  const volts = voltsOf(typed);
  if (!volts) return null;
  return {
    ...plainReading(volts, instrument, draft.condition, stillMeasured(draft.meter, draft.text)),
    // What is no number goes to the server as typed, which names the field.
    temperatureC: figureTyped(draft.temperature) as number | null,
    remarks: blankToNull(draft.remarks),
  };
}

function ignoredHint(typed: TypedVolts): string | undefined {
  return 'ignored' in typed && typed.ignored.length > 0
    ? `Left out, not cell volts: ${typed.ignored.join(', ')}.`
    : undefined;
}

function placeholderFor(type: PackTypeAnswer): string {
  const { nominalMv, cellTaps } = CHEMISTRY[type.chemistry];
  if (!cellTaps) return ((nominalMv * type.series) / 1000).toFixed(1);
  return (
    Array.from({ length: Math.min(type.series, 4) }, () => Math.round((nominalMv + 100) / 10)).join(' ') +
    (type.series > 4 ? ' …' : '')
  );
}

/** Puts the cursor into a field when told to. It never opens a phone's keyboard unasked, nor scrolls the verdict away. */
export function useBenchFocus(field: RefObject<HTMLElement | null>, key: string): void {
  const last = useRef<string | null>(null);
  useEffect(() => {
    if (last.current === key) return;
    last.current = key;
    if (matchMedia('(pointer: fine)').matches) field.current?.focus({ preventScroll: true });
  }, [field, key]);
}
