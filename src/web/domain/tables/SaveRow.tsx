import { Button } from '../../kit/Button';
import { Notice } from '../../kit/Message';

/** What is wrong with the whole form, and the button that sends it. */
export function SaveRow({ problem, busy, isNew }: { problem: string | null; busy: boolean; isNew: boolean }) {
  return (
    <div className="border-t-2 border-ink pt-3">
      {problem && <Notice title={problem} />}
      <Button type="submit" weight="main" disabled={busy}>
        {isNew ? 'Add it' : 'Save'}
      </Button>
    </div>
  );
}
