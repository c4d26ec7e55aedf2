import { useState } from 'react';
import type { FormEvent } from 'react';
import type { PackDetails } from '../../../contract';
import { oddFigures } from '../../../core/admission';
import type { OddFigure } from '../../../core/admission';
import type { Instant } from '../../../core/measure';
import type { RecordBody } from '../../../core/record';
import { oddFigureQuestion } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useDraft } from '../../app/drafts';
import { useRegister } from '../../app/queries';
import { Button } from '../../kit/Button';
import type { Understood } from '../../domain/entry/gate';
import { RecordPreview } from './RecordPreview';
import type { PackView } from '../../domain/packView';
import { useHandIn } from '../../app/useHandIn';

/** A form whose text must be understood before it is a record. */
interface EntrySpec<Draft, Body extends RecordBody> {
  readonly pack: PackDetails;
  readonly view: PackView;
  readonly kind: Body['kind'];
  readonly empty: Draft;
  readonly understand: (draft: Draft) => Understood<Body['payload'], keyof Draft & string>;
  /** Which form field each field of the record stands in. */
  readonly fields: Readonly<Record<string, keyof Draft & string>>;
}

interface EntryForm<Draft> {
  readonly draft: Draft;
  /** Whether anything was typed. */
  readonly begun: boolean;
  readonly change: (part: Partial<Draft>) => void;
  /** Value, change handler and error of a text field. */
  readonly text: (field: keyof Draft & string) => {
    readonly value: string;
    readonly onChange: (event: { readonly target: { readonly value: string } }) => void;
    readonly error: string | undefined;
  };
  /** The record as typed; null while it cannot be understood. */
  readonly body: RecordBody | null;
  readonly at: Instant | null;
  /** For onSubmit: hands the record in, or names what cannot be understood. */
  readonly save: (event: FormEvent) => void;
  readonly busy: boolean;
  /** Reasons that belong to no field of the form. */
  readonly rest: readonly string[];
}

export function useEntryForm<Draft extends object, Body extends RecordBody>({
  pack,
  view,
  kind,
  empty,
  understand,
  fields,
}: EntrySpec<Draft, Body>): EntryForm<Draft> {
  type Field = keyof Draft & string;
  const [stored, setDraft, clear] = useDraft<Partial<Draft>>(`${kind}.${pack.id}`, empty);
  // A page that leads here may have begun it with what it knows.
  const draft: Draft = stored === empty ? empty : { ...empty, ...stored };
  const [asked, setAsked] = useState(false);
  const { hand, busy, problems } = useHandIn(pack);
  const [questions, setQuestions] = useState<readonly OddFigure[]>([]);
  const rules = useRegister().data?.rules.rules;
  const reader = useReader();
  const understood = understand(draft);
  const change = (part: Partial<Draft>) => {
    setQuestions([]);
    setDraft({ ...draft, ...part });
  };
  const fieldOf = (path: string): Field | undefined =>
    Object.entries(fields).find(([name]) => path === name || path.startsWith(`${name}.`))?.[1];
  const error = (field: Field) =>
    (asked ? understood.errors?.[field] : undefined) ??
    problems.find((problem) => fieldOf(problem.field) === field)?.message ??
    questions.filter((odd) => fieldOf(odd.field) === field).map(oddFigureQuestion)[0];
  const body =
    understood.payload === null
      ? null
      : ({ kind, payload: understood.payload, supersedes: null } as unknown as RecordBody);
  const submit = async () => {
    setAsked(body === null);
    // A figure that cannot be is asked about once, and believed when saved again.
    const odd =
      body && rules && questions.length === 0
        ? oddFigures(view.history, view.records, body, rules, understood.at ?? latestOf(view, reader.now))
        : [];
    setQuestions(odd);
    if (odd.length > 0) return;
    if (body && (await hand(body, `${pack.tag}: ${kind} saved.`, understood.at ?? undefined))) clear();
  };
  return {
    draft,
    begun: draft !== empty,
    change,
    text: (field) => ({
      value: draft[field] as string,
      onChange: (event) => change({ [field]: event.target.value } as Partial<Draft>),
      error: error(field),
    }),
    body,
    at: understood.at,
    save: (event) => {
      event.preventDefault();
      void submit();
    },
    busy,
    rest: problems.filter((problem) => fieldOf(problem.field) === undefined).map(({ message }) => message),
  };
}

/** The page's clock ticks every few seconds; what was kept a moment ago must not lie in its future. */
function latestOf({ history }: PackView, now: Instant): Instant {
  return Math.max(now, history.lastRecordAt ?? 0);
}

/** How every such form ends: what would be said of the pack, what belongs to no field, and the button. */
export function EntryEnd({
  form: { body, at, rest, busy },
  shown = true,
  pack,
  view,
  label,
}: {
  form: Pick<EntryForm<never>, 'body' | 'at' | 'rest' | 'busy'>;
  /** Whether there is anything worth a verdict yet. */
  shown?: boolean;
  pack: PackDetails;
  view: PackView;
  label: string;
}) {
  return (
    <>
      <RecordPreview body={shown ? body : null} at={at} view={view} pack={pack} />
      {rest.map((message) => (
        <p key={message} role="alert" className="font-bold text-red">
          {message}
        </p>
      ))}
      <div>
        <Button type="submit" weight="main" disabled={busy}>
          {label}
        </Button>
      </div>
    </>
  );
}
