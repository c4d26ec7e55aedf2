import type { ReactNode } from 'react';
import { useController } from 'react-hook-form';
import type { Control, FieldPathByValue, FieldValues } from 'react-hook-form';
import { Tick, withOrWithout } from '../kit/fields';

/** Several of a list, ticked; those typed before that the list does not know stay in it. */
export function FormTicks<Values extends FieldValues, Item extends string>({
  legend,
  control,
  name,
  items,
  words,
  error,
}: {
  legend: string;
  control: Control<Values>;
  name: FieldPathByValue<Values, readonly Item[]>;
  items: readonly Item[];
  words: (item: Item) => ReactNode;
  error?: string | undefined;
}) {
  const { field } = useController({ control, name });
  const chosen = field.value as readonly Item[];
  return (
    <fieldset>
      <legend className="mb-0.5 text-sm font-bold">{legend}</legend>
      <div className="flex flex-wrap gap-x-5">
        {[...new Set([...items, ...chosen])].map((item) => (
          <Tick
            key={item}
            plain
            label={words(item)}
            checked={chosen.includes(item)}
            onChange={(ticked) => field.onChange(withOrWithout(chosen, item, ticked))}
          />
        ))}
      </div>
      {error && (
        <p role="alert" className="text-sm font-bold text-red">
          {error}
        </p>
      )}
    </fieldset>
  );
}

/** What was refused below a field of the facts, wherever below it stands. */
export function refusedAt(errors: object, path: string): string | undefined {
  let at: unknown = errors;
  for (const part of path.split('.')) at = (at as Record<string, unknown> | undefined)?.[part];
  return firstMessage(at);
}

function firstMessage(at: unknown): string | undefined {
  if (typeof at !== 'object' || at === null) return undefined;
  if ('message' in at && typeof at.message === 'string') return at.message;
  for (const inner of Object.values(at)) {
    const found = firstMessage(inner);
    if (found) return found;
  }
  return undefined;
}
