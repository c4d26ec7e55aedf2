import { FELT } from '../../../core/reading';
import type { Felt } from '../../../core/reading';
import { FELT_WORDS } from '../../../core/wording';
import { SelectField } from '../../kit/fields';

/** How warm the pack felt to a bare hand: a scale of its own, for whoever has no thermometer. */
export function FeltField({ value, onChange }: { value: Felt | ''; onChange: (felt: Felt | '') => void }) {
  return (
    <SelectField label="Felt" value={value} onChange={(event) => onChange(event.target.value as Felt | '')}>
      <option value="">not felt</option>
      {FELT.map((felt) => (
        <option key={felt} value={felt}>
          {FELT_WORDS[felt]}
        </option>
      ))}
    </SelectField>
  );
}
