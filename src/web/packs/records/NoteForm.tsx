import type { FormEvent } from 'react';
import type { PackDetails } from '../../../contract';
import { useDraft } from '../../app/drafts';
import { Button } from '../../kit/Button';
import { TextArea } from '../../kit/fields';
import { useHandIn } from '../../app/useHandIn';

/** Anything worth keeping that is no measurement. */
export function NoteForm({ pack }: { pack: PackDetails }) {
  const [text, setText, clear] = useDraft(`note.${pack.id}`, '');
  const { hand, busy, problems } = useHandIn(pack);
  const save = async (event: FormEvent) => {
    event.preventDefault();
    if (await hand({ kind: 'note', payload: { text }, supersedes: null }, `${pack.tag}: note saved.`))
      clear();
  };
  return (
    <form onSubmit={(event) => void save(event)} className="grid justify-items-start gap-3">
      <div className="w-full">
        <TextArea
          label="Note"
          autoFocus
          value={text}
          onChange={(event) => setText(event.target.value)}
          error={problems[0]?.message}
        />
      </div>
      <Button type="submit" weight="main" disabled={busy}>
        Save note
      </Button>
    </form>
  );
}
