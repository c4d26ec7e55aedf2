import type { FormEvent } from 'react';
import type { PackDetails } from '../../../contract';
import type { PersonId, PlaceId } from '../../../core/measure';
import { useDraft } from '../../app/drafts';
import { useRegister } from '../../app/queries';
import { Button } from '../../kit/Button';
import { SelectOption, SelectField } from '../../kit/Select';
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
          onChange={(value) => setDraft({ ...draft, placeId: value })}
          error={refused('placeId')}
        >
          <SelectOption value="">no fixed place</SelectOption>
          {register?.places.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      <div className="min-w-48 flex-1">
        <SelectField
          label="In whose hands"
          value={draft.holderId}
          onChange={(value) => setDraft({ ...draft, holderId: value })}
          error={refused('holderId')}
        >
          <SelectOption value="">nobody’s, it lies there</SelectOption>
          {register?.people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      <Button type="submit" weight="main" disabled={busy}>
        Save move
      </Button>
    </form>
  );
}
