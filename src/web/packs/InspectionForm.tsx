import { useState } from 'react';
import type { FormEvent } from 'react';
import type { PackDetails, PackTypeAnswer } from '../../contract';
import { OCCASIONS, SWELLINGS } from '../../core/inspection';
import type { Marks, Occasion, Swelling } from '../../core/inspection';
import { parseFigure } from '../../core/reading';
import type { RecordBody } from '../../core/record';
import { MEANING_WORDS, OCCASION_WORDS, SWELLING_WORDS } from '../../core/wording';
import { readDraft, useDraft } from '../app/drafts';
import { inspectionOf, photoWant } from '../app/inspection/inspectionRecord';
import { ItemAnswers } from '../app/inspection/ItemAnswers';
import { markedWith } from '../app/inspection/marks';
import type { PackView } from '../app/packView';
import { useRegister } from '../app/queries';
import { Button } from '../kit/Button';
import { Choice, SelectField, TextField } from '../kit/fields';
import { blankToNull } from './entryDrafts';
import { RecordPreview } from './RecordPreview';
import { useHandIn } from './useHandIn';

interface InspectionFormDraft {
  readonly occasion: Occasion;
  readonly marks: Marks;
  readonly swelling: Swelling;
  readonly thickness: string;
  readonly mass: string;
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
  const { rules } = useRegister().data!.rules;
  const draftKey = `inspection.${pack.id}`;
  const [draft, setDraft, clear] = useDraft<InspectionFormDraft>(draftKey, {
    occasion: occasionFor(view),
    marks: {},
    swelling: 'soft',
    thickness: '',
    mass: '',
    remarks: '',
  });
  const [asked, setAsked] = useState<string | null>(null);
  const { hand, busy, problems } = useHandIn(pack);
  const change = (part: Partial<InspectionFormDraft>) => {
    setAsked(null);
    setDraft({ ...draft, ...part });
  };
  const items = rules.checklists[draft.occasion];
  const [thicknessMm, massG] = [measured(draft.thickness), measured(draft.mass)];
  const errors = {
    thickness:
      thicknessMm === undefined ? `“${draft.thickness}” is no thickness. Millimetres, like 31.5.` : undefined,
    mass: massG === undefined ? `“${draft.mass}” is no mass. Grams, like 1910.` : undefined,
  };
  const payload = inspectionOf(draft.occasion, items, {
    marks: draft.marks,
    swelling: draft.swelling,
    thicknessMm: thicknessMm ?? null,
    massG: massG ?? null,
    remarks: blankToNull(draft.remarks),
  });
  const body: RecordBody = { kind: 'inspection', payload, supersedes: null };
  const photos = photoWant(items, draft.marks);
  const swollen = draft.marks.swelling?.answer === 'fail';
  const begun = Object.keys(draft.marks).length > 0 || draft.thickness !== '' || draft.mass !== '';

  const save = async (event: FormEvent) => {
    event.preventDefault();
    if (errors.thickness ?? errors.mass) return;
    const [needed] = photos.needed;
    if (needed) return setAsked(`${needed.asks} wants a photo.`);
    const [wanted] = photos.asked;
    const question = wanted ? `${wanted.asks}: no photo yet. Keep it once more to go on without.` : null;
    if (question && asked !== question) return setAsked(question);
    if (await hand(body, `${pack.tag}: inspection kept.`)) clear();
  };
  const refused = (name: string) => problems.find(({ field }) => field === `payload.${name}`)?.message;
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-[minmax(0,1fr)_8rem_8rem]">
        <div className="max-sm:col-span-2">
          <SelectField
            label="Occasion"
            value={draft.occasion}
            onChange={(event) => change({ occasion: event.target.value as Occasion })}
          >
            {OCCASIONS.map((occasion) => (
              <option key={occasion} value={occasion}>
                {OCCASION_WORDS[occasion]}
              </option>
            ))}
          </SelectField>
        </div>
        <TextField
          label="Thickness, mm"
          inputMode="decimal"
          value={draft.thickness}
          error={errors.thickness ?? refused('thicknessMm')}
          onChange={(event) => change({ thickness: event.target.value })}
        />
        <TextField
          label="Mass, g"
          inputMode="decimal"
          value={draft.mass}
          placeholder={type.massG === null ? undefined : `label ${type.massG}`}
          error={errors.mass ?? refused('massG')}
          onChange={(event) => change({ mass: event.target.value })}
        />
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
      <TextField
        label="Remarks"
        value={draft.remarks}
        onChange={(event) => change({ remarks: event.target.value })}
      />
      <RecordPreview body={begun ? body : null} view={view} pack={pack} />
      {asked && (
        <p role="alert" className="bg-wash-amber px-2 py-1 font-bold">
          {asked}
        </p>
      )}
      {problems
        .filter(({ field }) => !['payload.thicknessMm', 'payload.massG'].includes(field))
        .map(({ message }) => (
          <p key={message} role="alert" className="font-bold text-red">
            {message}
          </p>
        ))}
      <p className="flex flex-wrap items-center gap-x-4">
        <Button type="submit" weight="main" disabled={busy}>
          {begun ? 'Keep the inspection' : `All ${items.length} in order, keep`}
        </Button>
        <span className="text-sm text-faint">A failure means: {meaningsOf(items)}.</span>
      </p>
    </form>
  );
}

/** The occasion most likely in hand. */
function occasionFor({ assessment, history }: PackView): Occasion {
  if (assessment.steps.some((step) => step.do === 'complete-baseline')) return 'receipt';
  if (assessment.mayFly === 'inspect-first') return 'season-start';
  if (assessment.steps.some((step) => step.do === 'inspect')) return 'scheduled';
  return history.holderId === null ? 'scheduled' : 'before-use';
}

/** A figure above zero, null for none, undefined for what is no figure. */
function measured(text: string): number | null | undefined {
  const typed = parseFigure(text);
  if (typed.outcome === 'empty') return null;
  return typed.outcome === 'figure' && typed.value > 0 ? typed.value : undefined;
}

function meaningsOf(
  items: readonly { readonly asks: string; readonly failMeans: keyof typeof MEANING_WORDS }[],
): string {
  const holds = items.filter(({ failMeans }) => failMeans === 'hold').length;
  return `${holds} put the pack on hold, the others ${MEANING_WORDS.watch} or less`;
}
