import { FELT } from '../../../core/reading';
import type { Felt } from '../../../core/reading';
import { FELT_WORDS } from '../../../core/wording';
import { SelectOption, SelectField } from '../../kit/Select';

/** How warm the pack felt to a bare hand: a scale of its own, for whoever has no thermometer. */
export function FeltField({ value, onChange }: { value: Felt | ''; onChange: (felt: Felt | '') => void }) {
  return (
    <SelectField label="Felt" value={value} onChange={(value) => onChange(value as Felt | '')}>
      <SelectOption value="">not felt</SelectOption>
      {FELT.map((felt) => (
        <SelectOption key={felt} value={felt}>
          {FELT_WORDS[felt]}
        </SelectOption>
      ))}
    </SelectField>
  );
}
