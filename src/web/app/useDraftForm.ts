import { useEffect, useEffectEvent, useRef } from 'react';
import { useForm } from 'react-hook-form';
import type { DefaultValues, FieldValues, UseFormReturn } from 'react-hook-form';
import { dropDraft, readDraft, saveDraft } from './drafts';

export interface DraftForm<Values extends FieldValues> extends UseFormReturn<Values> {
  /** Empties the form and forgets its draft: what was typed is taken. */
  readonly taken: () => void;
}

/** A form whose typing outlives reload and a lost connection, passwords and their like apart. */
export function useDraftForm<Values extends FieldValues>(
  draftKey: string,
  initial: DefaultValues<Values>,
): DraftForm<Values> {
  const kept = readDraft<Partial<Values> | string>(draftKey);
  // A draft of one line was once kept as the line alone, which is no form's values.
  const form = useForm<Values>({
    defaultValues: typeof kept === 'object' ? { ...initial, ...kept } : initial,
  });
  const { subscribe, reset } = form;
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ values }) => saveDraft(draftKey, withoutSecrets(values)),
      }),
    [subscribe, draftKey],
  );
  // What the form begins from may change while it is typed in, and while it is being sent: a pack is moved, a cause named.
  const begins = JSON.stringify(initial);
  const latest = useRef({ initial, begins });
  const taken = () => {
    reset(latest.current.initial);
    dropDraft(draftKey);
  };
  const follow = useEffectEvent(() => {
    if (latest.current.begins === begins) return;
    latest.current = { initial, begins };
    if (readDraft(draftKey) === undefined) taken();
  });
  useEffect(() => follow(), [begins]);
  return { ...form, taken };
}

/** The fields of forms that hold what somebody comes in with. */
const SECRETS: readonly string[] = ['password', 'current', 'code', 'pin', 'badge'];

/** Passwords and their like are never written to the device. */
function withoutSecrets(values: object): object {
  return Object.fromEntries(Object.entries(values).filter(([field]) => !SECRETS.includes(field)));
}
