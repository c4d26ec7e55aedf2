import { useState } from 'react';
import type { PackDetails } from '../../contract';
import type { Instant } from '../../core/measure';
import type { RecordBody } from '../../core/record';
import { useHandIn } from './useHandIn';

interface EntryForm<Field extends string> {
  /** Hands the record in; true when the form may be cleared. With `body` null it names what is wrong instead. */
  readonly submit: (body: RecordBody | null, done: string, at?: Instant | null) => Promise<boolean>;
  readonly busy: boolean;
  /** What to say at a field: what cannot be understood as typed, once Enter was pressed; or the server's reason. */
  readonly error: (field: Field) => string | undefined;
  /** Reasons that belong to no field of the form. */
  readonly rest: readonly string[];
}

/**
 * For the forms whose text must be understood before it is a record.
 * @param fields which form field each field of the record stands in
 * @param typed what cannot be understood, by form field; null when all can
 */
export function useEntryForm<Field extends string>(
  pack: PackDetails,
  fields: Readonly<Record<string, Field>>,
  typed: Partial<Record<Field, string>> | null,
): EntryForm<Field> {
  const { hand, busy, problems } = useHandIn(pack);
  const [asked, setAsked] = useState(false);
  const fieldOf = (path: string) =>
    Object.entries(fields).find(([name]) => path === name || path.startsWith(`${name}.`))?.[1];
  return {
    busy,
    submit: async (body, done, at) => {
      setAsked(body === null);
      return body !== null && (await hand(body, done, at ?? undefined));
    },
    error: (field) =>
      (asked ? typed?.[field] : undefined) ??
      problems.find((problem) => fieldOf(problem.field) === field)?.message,
    rest: problems.filter((problem) => fieldOf(problem.field) === undefined).map(({ message }) => message),
  };
}

export function FormProblems({ messages }: { messages: readonly string[] }) {
  return messages.map((message) => (
    <p key={message} role="alert" className="font-bold text-red">
      {message}
    </p>
  ));
}
