import type { PackDetails } from '../../../contract';
import type { PersonId, PlaceId } from '../../../core/measure';
import { useRegister } from '../../app/queries';
import { Button } from '../../kit/Button';
import { FormSelect } from '../../kit/formFields';
import { SelectOption } from '../../kit/Select';
import type { PackView } from '../../domain/packView';
import { useHandIn } from '../../app/useHandIn';
import { useDraftForm } from '../../app/useDraftForm';

interface MoveDraft {
  readonly placeId: string;
  readonly holderId: string;
}

/** Where the pack lies now and who has it. */
export function MoveForm({ pack, view }: { pack: PackDetails; view: PackView }) {
  const { placeId, holderId } = view.history;
  const form = useDraftForm<MoveDraft>(`move.${pack.id}`, {
    placeId: placeId ?? '',
    holderId: holderId ?? '',
  });
  const register = useRegister().data;
  const { hand, busy, problems } = useHandIn(pack);

  const save = form.handleSubmit(async (draft) => {
    const payload = {
      placeId: (draft.placeId || null) as PlaceId | null,
      holderId: (draft.holderId || null) as PersonId | null,
    };
    if (await hand({ kind: 'moved', payload, supersedes: null }, `${pack.tag}: moved.`)) form.taken();
  });
  const refused = (name: string) => problems.find(({ field }) => field.endsWith(name))?.message;

  return (
    <form onSubmit={(event) => void save(event)} className="flex flex-wrap items-end gap-3">
      <div className="min-w-48 flex-1">
        <FormSelect
          label="Place"
          autoFocus
          control={form.control}
          name="placeId"
          refused={refused('placeId')}
        >
          <SelectOption value="">no fixed place</SelectOption>
          {register?.places.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
      </div>
      <div className="min-w-48 flex-1">
        <FormSelect
          label="In whose hands"
          control={form.control}
          name="holderId"
          refused={refused('holderId')}
        >
          <SelectOption value="">nobody’s, it lies there</SelectOption>
          {register?.people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
      </div>
      <Button type="submit" weight="main" disabled={busy}>
        Save move
      </Button>
    </form>
  );
}
