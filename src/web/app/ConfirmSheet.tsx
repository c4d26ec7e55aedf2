import { useState } from 'react';
import type { FormEvent } from 'react';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Sheet } from '../kit/Sheet';
import { ask, FailedRequest } from './api';

/** Asks for the password of whoever is signed in; what waits for it goes on, or is left as it was. */
export default function ConfirmSheet({ onAnswer }: { onAnswer: (isSure: boolean) => void }) {
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const confirm = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      await ask('POST /session/confirmation', { body: { password } });
      onAnswer(true);
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Sheet
      open
      onClose={() => onAnswer(false)}
      title="Is it you?"
      describe="This changes who can come in. Your password is asked for again when you gave it more than a quarter of an hour ago."
    >
      <form onSubmit={(event) => void confirm(event)} className="grid max-w-sm gap-4" noValidate>
        <TextField
          label="Your password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => {
            setPassword(event.target.value);
            setProblem(null);
          }}
          error={problem ?? undefined}
        />
        <div className="flex gap-3">
          <Button type="submit" weight="main" disabled={isBusy}>
            Go on
          </Button>
          <Button type="button" onClick={() => onAnswer(false)}>
            Leave it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
