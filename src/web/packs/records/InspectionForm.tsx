import { useState } from 'react';
import type { FormEvent } from 'react';
import type { InstrumentAnswer, PackDetails, PackTypeAnswer } from '../../../contract';
import { OCCASIONS, SWELLINGS } from '../../../core/inspection';
import type { Marks, Occasion, Swelling } from '../../../core/inspection';
import type { RecordBody } from '../../../core/record';
import { FELT_WORDS, MEANING_WORDS, OCCASION_WORDS, SWELLING_WORDS } from '../../../core/wording';
import { readDraft, useDraft } from '../../app/drafts';
import { inspectionOf, photoWant } from '../../domain/inspection/inspectionRecord';
import { ItemAnswers } from '../../domain/inspection/ItemAnswers';
import { markedWith } from '../../domain/inspection/marks';
import type { PackView } from '../../domain/packView';
import { useRegister } from '../../app/queries';
import { LAST_INSTRUMENT, plainReading } from '../../domain/typedReading';
import { Button } from '../../kit/Button';
import { Choice, TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import { blankToNull } from '../../domain/entry/gate';
import { measuresTyped, NO_MEASURES } from './entryDrafts';
import type { Measures, MeasuresDraft } from './entryDrafts';
import { RecordPreview } from './RecordPreview';
import { useHandIn } from '../../app/useHandIn';

interface InspectionFormDraft {
  readonly occasion: Occasion;
  readonly marks: Marks;
  readonly swelling: Swelling;
  readonly felt: 'warm' | 'hot';
  readonly measures: MeasuresDraft;
  readonly remarks: string;
}

/** A look over one pack by the house's checklist, judged while it is pressed through. */
export function InspectionForm({
  pack,
  type,
  view,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  view: PackView;
}) {
  const register = useRegister().data!;
  const { rules } = register.rules;
  const draftKey = `inspection.${pack.id}`;
  const [draft, setDraft, clear] = useDraft<InspectionFormDraft>(draftKey, {
    occasion: occasionFor(view),
    marks: {},
    swelling: 'soft',
    felt: 'warm',
    measures: NO_MEASURES,
    remarks: '',
  });
  const [lastInstrument] = useDraft<string>(LAST_INSTRUMENT, '');
  const instrument = register.instruments.find(({ name }) => name === lastInstrument) ?? null;
  const [asked, setAsked] = useState<string | null>(null);
  const [pressed, setPressed] = useState(false);
  const { hand, busy, problems } = useHandIn(pack);
  const change = (part: Partial<InspectionFormDraft>) => {
    setAsked(null);
    setDraft({ ...draft, ...part });
  };
  const items = rules.checklists[draft.occasion];
  const { payload: measures, errors } = measuresTyped(draft.measures, type);
  const { thicknessMm = null, massG = null } = measures ?? {};
  const { marks, swelling } = draft;
  const remarks = blankToNull(draft.remarks);
  const warm = marks.warm?.answer === 'fail';
  const felt = warm ? draft.felt : null;
  const payload = {
    ...inspectionOf(draft.occasion, items, { marks, swelling, thicknessMm, massG, remarks }),
    felt,
  };
  const body: RecordBody = { kind: 'inspection', payload, supersedes: null };
  const also = measures ? measuredAlong(measures, instrument) : [];
  const photos = photoWant(items, draft.marks);
  const swollen = draft.marks.swelling?.answer === 'fail';
  const begun =
    Object.keys(draft.marks).length > 0 || Object.values(draft.measures).some((text) => text !== '');

  const save = async (event: FormEvent) => {
    event.preventDefault();
    setPressed(true);
    if (errors) return;
    const [needed] = photos.needed;
    if (needed) return setAsked(`${needed.asks} wants a photo.`);
    const [wanted] = photos.asked;
    const question = wanted ? `${wanted.asks}: no photo yet. Save once more to go on without.` : null;
    if (question && asked !== question) return setAsked(question);
    if (await hand([body, ...also], `${pack.tag}: inspection saved.`)) {
      clear();
      setPressed(false);
    }
  };
  const measure = (field: keyof MeasuresDraft, label: string, name: string, placeholder?: string) => (
    <TextField
      label={label}
      inputMode={field === 'cells' ? 'text' : 'decimal'}
      value={draft.measures[field]}
      placeholder={placeholder}
      error={(pressed ? errors?.[field] : undefined) ?? refused(name)}
      onChange={(event) => change({ measures: { ...draft.measures, [field]: event.target.value } })}
    />
  );
  const refused = (name: string) =>
    problems.find(({ field }) => field.startsWith(`payload.${name}`))?.message;
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-[minmax(0,1fr)_8rem_8rem]">
        <div className="max-sm:col-span-2">
          <SelectField
            label="Occasion"
            value={draft.occasion}
            onChange={(value) => change({ occasion: value as Occasion })}
          >
            {OCCASIONS.map((occasion) => (
              <SelectOption key={occasion} value={occasion}>
                {OCCASION_WORDS[occasion]}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        {measure('thickness', 'Thickness, mm', 'thicknessMm')}
        {measure('mass', 'Mass, g', 'massG', type.massG === null ? undefined : `label ${type.massG}`)}
      </div>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_8rem]">
        {measure('cells', 'Cells in order, if read', 'volts', '384 383 …')}
        {measure('ir', 'Resistance, mΩ a cell', 'irMilliohm')}
        {measure('celsius', 'Pack °C', 'temperatureC')}
      </div>
      <ItemAnswers
        items={items}
        marks={draft.marks}
        onMark={(key, changed) => {
          const now = readDraft<InspectionFormDraft>(draftKey) ?? draft;
          setAsked(null);
          setDraft({ ...now, marks: markedWith(now.marks, key, changed) });
        }}
      />
      {swollen && (
        <>
          <Choice
            label="Pressed with a thumb it is"
            options={SWELLINGS.filter((one) => one !== 'none').map((value) => ({
              value,
              label: SWELLING_WORDS[value],
            }))}
            value={draft.swelling === 'none' ? 'soft' : draft.swelling}
            onChange={(swelling) => change({ swelling })}
          />
          <p className="font-bold text-red">Do not charge, press or pierce it. Outdoors, at a distance.</p>
        </>
      )}
      {warm && (
        <Choice
          label="To a bare hand it is"
          options={WARMTH}
          value={draft.felt}
          onChange={(felt) => change({ felt })}
        />
      )}
      <TextField
        label="Remarks"
        value={draft.remarks}
        onChange={(event) => change({ remarks: event.target.value })}
      />
      <RecordPreview body={begun ? body : null} also={also} view={view} pack={pack} />
      {asked && (
        <p role="alert" className="bg-wash-amber px-2 py-1 font-bold">
          {asked}
        </p>
      )}
      {problems
        .filter(({ field }) => !MEASURED.some((name) => field.startsWith(`payload.${name}`)))
        .map(({ message }) => (
          <p key={message} role="alert" className="font-bold text-red">
            {message}
          </p>
        ))}
      <p className="flex flex-wrap items-center gap-x-4">
        <Button type="submit" weight="main" disabled={busy}>
          {begun ? 'Save the inspection' : `All ${items.length} in order, save`}
        </Button>
        <span className="text-sm text-faint">A failure means: {meaningsOf(items)}.</span>
      </p>
    </form>
  );
}

const WARMTH = [
  { value: 'warm', label: FELT_WORDS.warm },
  { value: 'hot', label: FELT_WORDS.hot },
] as const;

/** The occasion most likely in hand. */
function occasionFor({ assessment, history }: PackView): Occasion {
  if (assessment.needs.some((need) => need.need === 'inspection' && need.afterCrash)) return 'after-crash';
  if (assessment.needs.some(({ need }) => need === 'inspection')) return 'scheduled';
  if (assessment.steps.some((step) => step.do === 'complete-baseline')) return 'receipt';
  if (assessment.steps.some((step) => step.do === 'feel-again')) return 'after-use';
  if (assessment.mayFly === 'inspect-first') return 'season-start';
  if (assessment.steps.some((step) => step.do === 'inspect')) return 'scheduled';
  return history.holderId === null ? 'scheduled' : 'before-use';
}

const MEASURED = ['thicknessMm', 'massG', 'volts', 'irMilliohm', 'temperatureC'];

/** The reading and the resistance taken along with a look. */
function measuredAlong(
  { volts, irMilliohm, temperatureC }: Measures,
  instrument: InstrumentAnswer | null,
): readonly RecordBody[] {
  const bodies: RecordBody[] = [];
  if (volts)
    bodies.push({
      kind: 'reading',
      payload: { ...plainReading(volts, instrument), temperatureC },
      supersedes: null,
    });
  if (irMilliohm && temperatureC !== null) {
    const payload = { irMilliohm, temperatureC, instrument: instrument?.name ?? null, remarks: null };
    bodies.push({ kind: 'resistance', payload, supersedes: null });
  }
  return bodies;
}

function meaningsOf(
  items: readonly { readonly asks: string; readonly failMeans: keyof typeof MEANING_WORDS }[],
): string {
  const holds = items.filter(({ failMeans }) => failMeans === 'hold').length;
  return `${holds} put the pack on hold, the others ${MEANING_WORDS.watch} or less`;
}
