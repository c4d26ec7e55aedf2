import { useEffect, useState } from 'react';
import type { FormEvent } from 'react';
import type { PersonAnswer, SessionAnswer } from '../../contract';
import { ROLE_WORDS } from '../../core/wording';
import { FailedRequest } from '../app/api';
import { comeInAtBench } from '../app/changePerson';
import type { BenchPass } from '../app/changePerson';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';

/** Who stands at a shared bench now: a badge, or a name and its PIN. */
export function BenchPeople({ bench }: { bench: NonNullable<SessionAnswer['bench']> }) {
  const [chosen, setChosen] = useState<PersonAnswer | null>(null);
  // Somebody may have chosen a PIN since the page was opened.
  useEffect(() => void queryClient.invalidateQueries({ queryKey: KEYS.session }), []);
  return (
    <section aria-labelledby="bench-people" className="mb-10">
      <h2 id="bench-people" className="text-lg">
        {bench.name}: who are you?
      </h2>
      {chosen ? (
        <PassForm
          key={chosen.id}
          label={`The PIN of ${chosen.name}`}
          inputMode="numeric"
          pass={(pin) => ({ personId: chosen.id, pin })}
          onLeave={() => setChosen(null)}
        />
      ) : (
        <>
          <PassForm key="badge" label="Scan your badge" pass={(badge) => ({ badge })} />
          {bench.people.length > 0 && <p className="mt-4 mb-2 text-faint">Or press your name.</p>}
          <ul className="flex flex-wrap gap-2">
            {bench.people.map((person) => (
              <li key={person.id}>
                <Button onClick={() => setChosen(person)} className="flex-col gap-0 px-5 py-2 leading-tight">
                  {person.name}
                  <span className="text-sm font-normal text-faint">{ROLE_WORDS[person.role]}</span>
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function PassForm({
  label,
  inputMode,
  pass,
  onLeave,
}: {
  label: string;
  inputMode?: 'numeric';
  pass: (typed: string) => BenchPass;
  onLeave?: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const comeIn = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      await comeInAtBench(pass(typed));
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
      // A wrong PIN is typed anew, not mended.
      setTyped('');
    } finally {
      setBusy(false);
    }
  };
  return (
    <form onSubmit={(event) => void comeIn(event)} className="mt-3 flex max-w-xl flex-wrap gap-3" noValidate>
      <div className="w-56">
        <TextField
          label={label}
          type="password"
          inputMode={inputMode}
          autoFocus
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setProblem(null);
          }}
          error={problem ?? undefined}
        />
      </div>
      <div className="flex items-start gap-2 pt-5.5">
        <Button type="submit" weight="main" disabled={isBusy}>
          Come in
        </Button>
        {onLeave && <Button onClick={onLeave}>Another name</Button>}
      </div>
    </form>
  );
}
