import { useState } from 'react';
import type { DefaultValues, FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { parseFigure } from '../../core/reading';
import { FailedRequest } from './api';
import { dropDraft } from './drafts';
import { useDraftForm } from './useDraftForm';

export interface ServerForm<Values extends FieldValues> extends UseFormReturn<Values> {
  /** What is wrong with the whole rather than with one field. */
  readonly problem: string | null;
  /** For a form's onSubmit: hands the values in, drops the draft when they were taken, puts each refusal at its field. */
  readonly hand: (event?: React.BaseSyntheticEvent) => Promise<void>;
}

/**
 * A form whose typing outlives reload, and whose errors come from the server's field-by-field answer, so that there is
 * one judge of what is sound.
 * @param submit sends the values; throws {@link FailedRequest} when refused
 */
export function useServerForm<Values extends FieldValues>(
  draftKey: string,
  initial: DefaultValues<Values>,
  submit: (values: Values) => Promise<void>,
): ServerForm<Values> {
  const form = useDraftForm<Values>(draftKey, initial);
  const [problem, setProblem] = useState<string | null>(null);
  const { setError, clearErrors, handleSubmit } = form;

  const send = handleSubmit(async (values) => {
    setProblem(null);
    try {
      await submit(values);
      dropDraft(draftKey);
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      for (const { field, message } of error.fields) setError(field as Path<Values>, { message });
      setProblem(summary(error, Object.keys(form.getValues())));
    }
  });
  const hand = (event?: React.BaseSyntheticEvent) => {
    // A refusal at something that is no field of the form would else keep it from ever being sent again.
    clearErrors();
    return send(event);
  };
  return { ...form, problem, hand };
}

function summary(error: FailedRequest, shown: readonly string[]): string {
  if (error.problem === null)
    return 'No connection. What you typed is kept here; send it again when it is back.';
  const elsewhere = error.fields.filter(({ field }) => !shown.includes(field.split('.')[0] ?? ''));
  return [error.problem.detail ?? error.message, ...elsewhere.map(({ message }) => message)].join(' ');
}

/** A figure as typed into a form: comma or point, blank for none. What is no number stays text, for the server to name. */
export function figureTyped(text: string | null | undefined): number | null | string {
  const typed = parseFigure(text ?? '');
  if (typed.outcome === 'empty') return null;
  return typed.outcome === 'figure' ? typed.value : (text ?? '');
}
