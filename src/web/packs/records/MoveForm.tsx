import type { FormEvent } from 'react';
import type { PackDetails } from '../../../contract';
import type { PersonId, PlaceId } from '../../../core/measure';
import { useDraft } from '../../app/drafts';
import { useRegister } from '../../app/queries';
import { Button } from '../../kit/Button';
import { SelectField } from '../../kit/fields';
import type { PackView } from '../../domain/packView';
import { useHandIn } from '../../app/useHandIn';

interface MoveDraft {
  readonly placeId: string;
  readonly holderId: string;
}

/** Where the pack lies now and who has it. */
export function MoveForm({ pack, view }: { pack: PackDetails; view: PackView }) {
  const { placeId, holderId } = view.history;
  const [draft, setDraft, clear] = useDraft<MoveDraft>(`move.${pack.id}`, {
    placeId: placeId ?? '',
    holderId: holderId ?? '',
  });
  const register = useRegister().data;
  const { hand, busy, problems } = useHandIn(pack);

  const save = async (event: FormEvent) => {
    event.preventDefault();
    const payload = {
      placeId: (draft.placeId || null) as PlaceId | null,
      holderId: (draft.holderId || null) as PersonId | null,
    };
    if (await hand({ kind: 'moved', payload, supersedes: null }, `${pack.tag}: moved.`)) clear();
  };
  const refused = (name: string) => problems.find(({ field }) => field.endsWith(name))?.message;

  return (
    <form onSubmit={(event) => void save(event)} className="flex flex-wrap items-end gap-3">
      <div className="min-w-48 flex-1">
        <SelectField
          label="Place"
          autoFocus
          value={draft.placeId}
          onChange={(event) => setDraft({ ...draft, placeId: event.target.value })}
          error={refused('placeId')}
        >
          <option value="">no fixed place</option>
          {register?.places.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      </div>
      <div className="min-w-48 flex-1">
        <SelectField
          label="In whose hands"
          value={draft.holderId}
          onChange={(event) => setDraft({ ...draft, holderId: event.target.value })}
          error={refused('holderId')}
        >
          <option value="">nobody’s, it lies there</option>
          {register?.people.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      </div>
      <Button type="submit" weight="main" disabled={busy}>
        Save move
      </Button>
    </form>
  );
}
