import { TextField } from '../../kit/fields';
import { countersTyped } from './ownCounters';
import type { TypedCounters } from './ownCounters';

/** What the pack’s own display counts, where it has one: asked before the flight and after. */
export function OwnCounterFields({
  typed,
  onChange,
}: {
  typed: TypedCounters;
  onChange: (part: Partial<TypedCounters>) => void;
}) {
  const { errors } = countersTyped(typed);
  return (
    <div className="mt-1 grid max-w-80 grid-cols-2 gap-3">
      <TextField
        label="Its own cycles"
        inputMode="numeric"
        value={typed.cycles}
        error={errors.cycles}
        onChange={({ target }) => onChange({ cycles: target.value })}
      />
      <TextField
        label="Its own faults"
        inputMode="numeric"
        value={typed.faults}
        error={errors.faults}
        onChange={({ target }) => onChange({ faults: target.value })}
      />
    </div>
  );
}
