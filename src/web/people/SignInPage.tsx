import type { PersonAnswer } from '../../contract';
import { useState } from 'react';
import { ROLES } from '../../core/lifecycle';
import { ROLE_WORDS } from '../../core/wording';
import { ask, FailedRequest } from '../app/api';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Notice } from '../kit/Message';
import { FrontPage } from './FrontPage';
import { useServerForm } from '../app/useServerForm';

/** The way in; a made-up register shows its people, so that a visitor is in with one press. */
export default function SignInPage({ demoPeople }: { demoPeople: readonly PersonAnswer[] }) {
  return <FrontPage>{demoPeople.length > 0 ? <DemoPeople people={demoPeople} /> : <SignInForm />}</FrontPage>;
}

function entered(): void {
  void queryClient.invalidateQueries({ queryKey: KEYS.session });
}

function DemoPeople({ people }: { people: readonly PersonAnswer[] }) {
  const [problem, setProblem] = useState<string | null>(null);
  const enter = async (person: PersonAnswer) => {
    setProblem(null);
    try {
      await ask('POST /session/demo', { body: { personId: person.id } });
      entered();
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
    }
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
                  onClick={() => void enter(person)}
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
}

function SignInForm() {
  const form = useServerForm<SignIn>('sign-in', { login: '', password: '' }, async (values) => {
    await ask('POST /session', { body: values });
    entered();
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} className="grid max-w-sm gap-4" noValidate>
      <h2 className="text-lg">Sign in</h2>
      {form.problem && <Notice title={form.problem} />}
      <TextField
        label="Sign-in name"
        autoComplete="username"
        autoFocus
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
      <Button type="submit" weight="main" disabled={isSubmitting}>
        Sign in
      </Button>
    </form>
  );
}
