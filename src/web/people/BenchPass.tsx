import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { problemOf } from '../../contract';
import { ask, FailedRequest } from '../app/api';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useAttempt } from '../app/useAttempt';
import { useServerForm } from '../app/useServerForm';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Notice } from '../kit/Message';

/** A PIN and a badge, with which one comes in at shared benches and nowhere else. */
export function BenchPass() {
  const [changes, setChanges] = useState(0);
  // Another form after each change: nothing of what was typed stays in it.
  return <BenchPassForm key={changes} onChanged={() => setChanges(changes + 1)} />;
}

const NOTHING_TYPED = new FailedRequest(
  problemOf('invalid-input', { errors: [{ field: 'pin', message: 'Type a PIN, or scan a badge below.' }] }),
);

function BenchPassForm({ onChanged }: { onChanged: () => void }) {
  const pass = useQuery({ queryKey: KEYS.benchPass, queryFn: () => ask('GET /session/bench-pass') });
  const { problem, attempt } = useAttempt();
  const initial = { pin: '', badge: '' };
  const form = useServerForm<typeof initial>('bench-pass', initial, async ({ pin, badge }) => {
    if (!pin && !badge) throw NOTHING_TYPED;
    await ask('PUT /session/bench-pass', { body: { ...(pin && { pin }), ...(badge && { badge }) } });
    say('At a shared bench you come in by it from now on.');
    onChanged();
    await queryClient.invalidateQueries({ queryKey: KEYS.benchPass });
  });
  const end = async (what: 'pin' | 'badge') => {
    await ask('PUT /session/bench-pass', { body: { [what]: null } });
    await queryClient.invalidateQueries({ queryKey: KEYS.benchPass });
  };
  const { errors, isSubmitting } = form.formState;
  return (
    <section aria-labelledby="bench-pass" className="max-w-md">
      <h2 id="bench-pass" className="mb-3 border-b-2 border-ink pb-1">
        At a shared bench
      </h2>
      <p className="mb-3">
        Where several people use one browser, you take over by PIN or badge. Neither lets you in anywhere
        else.
      </p>
      {problem && <Notice title={problem} />}
      <form onSubmit={(event) => void form.hand(event)} className="grid max-w-sm gap-4" noValidate>
        {form.problem && <Notice title={form.problem} />}
        <TextField
          label={pass.data?.hasPin ? 'Another PIN' : 'PIN'}
          type="password"
          inputMode="numeric"
          autoComplete="off"
          hint={pass.data?.hasPin ? 'You have one. Left empty, it stays.' : 'Four to eight figures.'}
          error={errors.pin?.message}
          {...form.register('pin')}
        />
        <TextField
          label={pass.data?.hasBadge ? 'Another badge' : 'Badge'}
          type="password"
          autoComplete="off"
          hint={
            pass.data?.hasBadge
              ? 'You have one. Left empty, it stays.'
              : 'Go into this field and scan it: whatever code it carries.'
          }
          error={errors.badge?.message}
          {...form.register('badge')}
        />
        <div className="flex flex-wrap gap-2">
          <Button type="submit" disabled={isSubmitting}>
            Keep it
          </Button>
          {pass.data?.hasPin && (
            <Button weight="quiet" onClick={() => void attempt(() => end('pin'))}>
              Take the PIN away
            </Button>
          )}
          {pass.data?.hasBadge && (
            <Button weight="quiet" onClick={() => void attempt(() => end('badge'))}>
              Take the badge away
            </Button>
          )}
        </div>
      </form>
    </section>
  );
}
