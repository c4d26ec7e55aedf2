import type { PersonAnswer, SessionAnswer } from '../../contract';
import { useState } from 'react';
import { problemOf } from '../../contract';
import { ROLES } from '../../core/lifecycle';
import { ROLE_WORDS } from '../../core/wording';
import { ask, FailedRequest } from '../app/api';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Notice } from '../kit/Message';
import { BenchPeople } from './BenchPeople';
import { FrontPage } from './FrontPage';
import { mayHavePasskeys, signByPasskey, whyNoPasskey } from './webauthn';
import { useAttempt } from '../app/useAttempt';
import { useServerForm } from '../app/useServerForm';

/** The way in; a made-up register shows its people, so that a visitor is in with one press. */
export default function SignInPage({
  demoPeople,
  bench,
}: {
  demoPeople: readonly PersonAnswer[];
  bench: SessionAnswer['bench'];
}) {
  return (
    <FrontPage>
      {bench && <BenchPeople bench={bench} />}
      {demoPeople.length > 0 ? <DemoPeople people={demoPeople} /> : <SignInForm isFirst={!bench} />}
    </FrontPage>
  );
}

function entered(): void {
  void queryClient.invalidateQueries({ queryKey: KEYS.session });
}

function DemoPeople({ people }: { people: readonly PersonAnswer[] }) {
  const { problem, attempt } = useAttempt();
  const enter = async (person: PersonAnswer) => {
    await ask('POST /session/demo', { body: { personId: person.id } });
    entered();
  };
  return (
    <section aria-labelledby="who">
      <h2 id="who" className="text-lg">
        Who are you today?
      </h2>
      <p className="text-faint">
        An estuary survey cooperative, made up from end to end. Press a name to come in.
      </p>
      {problem && <Notice title="You are not signed in yet.">{problem} Press the name again.</Notice>}
      {ROLES.map((role) => (
        <div key={role} className="ruled py-2 sm:flex sm:gap-4">
          <h3 className="w-32 shrink-0 pt-1.5 text-faint">{ROLE_WORDS[role]}</h3>
          <div className="flex flex-wrap gap-2">
            {people
              .filter((person) => person.role === role)
              .map((person) => (
                <Button
                  key={person.id}
                  weight={role === 'custodian' ? 'main' : 'plain'}
                  onClick={() => void attempt(() => enter(person))}
                >
                  {person.name}
                </Button>
              ))}
          </div>
        </div>
      ))}
    </section>
  );
}

interface SignIn {
  readonly login: string;
  readonly password: string;
  readonly code: string;
}

const NO_CODE_TYPED = new FailedRequest(
  problemOf('code-needed', {
    errors: [{ field: 'code', message: 'Type the code that your phone shows now.' }],
  }),
);

/** @param isFirst whether typing begins here: nothing else on the page waits for it */
function SignInForm({ isFirst }: { isFirst: boolean }) {
  const [wantsCode, setWantsCode] = useState(false);
  const initial = { login: '', password: '', code: '' };
  const form = useServerForm<SignIn>('sign-in', initial, async ({ code, ...known }) => {
    try {
      await ask('POST /session', { body: { ...known, ...(code ? { code } : {}) } });
      entered();
    } catch (error) {
      if (!(error instanceof FailedRequest) || error.code !== 'code-needed') throw error;
      if (wantsCode) throw NO_CODE_TYPED;
      setWantsCode(true);
    }
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <div className="max-w-sm">
      <form onSubmit={(event) => void form.hand(event)} className="grid gap-4" noValidate>
        <h2 className="text-lg">{isFirst ? 'Sign in' : 'By name and password'}</h2>
        {form.problem && <Notice title={form.problem} />}
        <TextField
          label="Sign-in name"
          autoComplete="username"
          autoFocus={isFirst}
          error={errors.login?.message}
          {...form.register('login')}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          error={errors.password?.message}
          {...form.register('password')}
        />
        {wantsCode && (
          <TextField
            label="Code"
            inputMode="numeric"
            autoComplete="one-time-code"
            autoFocus
            hint="The six figures your phone shows now, or one of your spare codes."
            error={errors.code?.message}
            {...form.register('code')}
          />
        )}
        <Button type="submit" weight="main" disabled={isSubmitting}>
          {wantsCode ? 'Come in' : 'Sign in'}
        </Button>
      </form>
      {mayHavePasskeys() && <ByPasskey />}
    </div>
  );
}

function ByPasskey() {
  const [problem, setProblem] = useState<string | null>(null);
  const comeIn = async () => {
    setProblem(null);
    try {
      await signByPasskey();
      entered();
    } catch (error) {
      setProblem(whyNoPasskey(error));
    }
  };
  return (
    <div className="mt-4 border-t border-rule pt-3">
      <Button onClick={() => void comeIn()}>Sign in by a passkey</Button>
      {problem && (
        <p className="mt-2 font-bold text-red" role="alert">
          {problem}
        </p>
      )}
    </div>
  );
}
