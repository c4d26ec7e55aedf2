import type { CraftAnswer } from '../../../contract';
import { TextField } from '../../kit/fields';
import { SelectField, SelectOption } from '../../kit/Select';

interface Typed {
  readonly craftId: string;
  readonly craft: string;
}

/** On what it was flown: a craft of the register, or one that is typed where the register does not have it. */
export function CraftField({
  craft,
  draft,
  change,
  error,
}: {
  craft: readonly CraftAnswer[];
  draft: Typed;
  change: (part: Partial<Typed>) => void;
  error?: string | undefined;
}) {
  const offered = craft.filter(({ inUse, id }) => inUse || id === draft.craftId);
  const typed = (
    <TextField
      label={offered.length === 0 ? 'Craft' : 'Its name'}
      value={draft.craft}
      onChange={({ target }) => change({ craft: target.value })}
      error={error}
    />
  );
  if (offered.length === 0) return typed;
  return (
    <div className="grid gap-2">
      <SelectField
        label="Craft"
        value={draft.craftId}
        onChange={(craftId) => change({ craftId, craft: craftId === '' ? draft.craft : '' })}
        error={draft.craftId === '' ? undefined : error}
      >
        {offered.map(({ id, name }) => (
          <SelectOption key={id} value={id}>
            {name}
          </SelectOption>
        ))}
        <SelectOption value="">another, or not noted</SelectOption>
      </SelectField>
      {draft.craftId === '' && typed}
    </div>
  );
}
