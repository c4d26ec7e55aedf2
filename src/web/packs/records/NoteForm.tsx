import type { PackDetails } from '../../../contract';
import { useDraftForm } from '../../app/useDraftForm';
import { Button } from '../../kit/Button';
import { TextArea } from '../../kit/fields';
import { useHandIn } from '../../app/useHandIn';

/** Anything worth keeping that is no measurement. */
export function NoteForm({ pack }: { pack: PackDetails }) {
  const form = useDraftForm(`note.${pack.id}`, { text: '' });
  const { hand, busy, problems } = useHandIn(pack);
  const save = form.handleSubmit(async (payload) => {
    if (await hand({ kind: 'note', payload, supersedes: null }, `${pack.tag}: note saved.`)) form.taken();
  });
  return (
    <form onSubmit={(event) => void save(event)} className="grid justify-items-start gap-3">
      <div className="w-full">
        <TextArea label="Note" autoFocus error={problems[0]?.message} {...form.register('text')} />
      </div>
      <Button type="submit" weight="main" disabled={busy}>
        Save note
      </Button>
    </form>
  );
}
