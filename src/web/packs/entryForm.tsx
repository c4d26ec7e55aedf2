import { useState } from 'react';
import type { FormEvent } from 'react';
import type { PackDetails } from '../../contract';
import type { Instant } from '../../core/measure';
import type { RecordBody } from '../../core/record';
import { useDraft } from '../app/drafts';
import { Button } from '../kit/Button';
import type { Understood } from './entryDrafts';
import { RecordPreview } from './RecordPreview';
import type { PackView } from '../app/packView';
import { useHandIn } from '../app/useHandIn';

/** A form whose text must be understood before it is a record. */
interface EntrySpec<Draft, Body extends RecordBody> {
  readonly pack: PackDetails;
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
  kind,
  empty,
  understand,
  fields,
}: EntrySpec<Draft, Body>): EntryForm<Draft> {
  type Field = keyof Draft & string;
  const [draft, setDraft, clear] = useDraft<Draft>(`${kind}.${pack.id}`, empty);
  const [asked, setAsked] = useState(false);
  const { hand, busy, problems } = useHandIn(pack);
  const understood = understand(draft);
  const change = (part: Partial<Draft>) => setDraft({ ...draft, ...part });
  const fieldOf = (path: string): Field | undefined =>
    Object.entries(fields).find(([name]) => path === name || path.startsWith(`${name}.`))?.[1];
  const error = (field: Field) =>
    (asked ? understood.errors?.[field] : undefined) ??
    problems.find((problem) => fieldOf(problem.field) === field)?.message;
  const body =
    understood.payload === null
      ? null
      : ({ kind, payload: understood.payload, supersedes: null } as unknown as RecordBody);
  const submit = async () => {
    setAsked(body === null);
    if (body && (await hand(body, `${pack.tag}: ${kind} kept.`, understood.at ?? undefined))) clear();
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
