import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import { HISTORY_KINDS, wordKey } from '../../core/importing';
import type { Reading, UnknownWord } from '../../core/importing';
import { KIND_WORDS, plural } from '../../core/wording';
import { useRegister } from '../app/queries';
import { SelectOption, SelectField } from '../kit/Select';

/** Words of the file that nothing here is called by: what each means, said once for all its lines. */
export function UnknownWords({
  words,
  reading,
  onChange,
}: {
  words: readonly UnknownWord[];
  reading: Reading;
  onChange: (words: Reading['words']) => void;
}) {
  const register = useRegister().data;
  if (words.length === 0 || !register) return null;
  return (
    <section aria-label="Words to be matched" className="border-l-4 border-amber pl-4">
      <h3>Words this register does not know</h3>
      <div className="mt-1 flex flex-wrap gap-4">
        {words.map(({ field, word, lines }) => {
          const { otherwise, options } = meaningsOf(field, register);
          return (
            <SelectField
              key={`${field} ${word}`}
              label={`“${word}”`}
              hint={plural(lines, 'line')}
              value={reading.words[wordKey(field, word)] ?? ''}
              onChange={(value) => onChange({ ...reading.words, [wordKey(field, word)]: value })}
            >
              <SelectOption value="">{otherwise}</SelectOption>
              {options.map(({ value, name }) => (
                <SelectOption key={value} value={value}>
                  {name}
                </SelectOption>
              ))}
            </SelectField>
          );
        })}
      </div>
    </section>
  );
}

type Named = readonly { readonly id: string; readonly name: string }[];

/** What a word can mean, and what becomes of its lines when nobody says. */
function meaningsOf(field: UnknownWord['field'], { places, people }: { places: Named; people: Named }) {
  const named = (things: Named) => things.map(({ id, name }) => ({ value: id, name }));
  switch (field) {
    case 'chemistry':
      return {
        otherwise: 'no chemistry: its lines stay out',
        options: CHEMISTRIES.map((value) => ({ value, name: CHEMISTRY[value].name })),
      };
    case 'place':
      return { otherwise: 'a new place', options: named(places) };
    case 'pilot':
      return { otherwise: 'nobody of this register', options: named(people) };
    case 'kind':
      return {
        otherwise: 'nothing: its lines stay out',
        options: HISTORY_KINDS.map((value) => ({ value, name: KIND_WORDS[value] })),
      };
    default:
      return field satisfies never;
  }
}
