import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SignInAnswer } from '../../contract';
import { ROLE_WORDS, whenWords } from '../../core/wording';
import { ask, FailedRequest } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient, useSession } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { usePerson } from '../domain/Person';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Loading, Notice } from '../kit/Message';
import { AccessLine } from './AccessLine';
import { BenchPass } from './BenchPass';
import { NewPasswordField } from './NewPasswordField';
import { Passkeys } from './Passkeys';
import { SecondFactor } from './SecondFactor';

/** What belongs to the person who is signed in: their password, and the devices they are signed in on. */
export default function AccountPage() {
  const person = usePerson();
  const session = useSession().data;
  const heldBy = session?.state === 'signed-in' ? session.heldBy : null;
  const [changes, setChanges] = useState(0);
  return (
    <>
      <title>Your account · Malle</title>
      <h1>Your account</h1>
      <p className="mb-6 text-faint">
        {person.name}, {ROLE_WORDS[person.role]}. A custodian changes names and roles.
        {heldBy === 'bench' &&
          ' You came in by PIN or badge, with which a custodian may do what a deputy may. For more, sign out and sign in by your password.'}
      </p>
      <div className="grid gap-10 lg:grid-cols-2">
        {/* Another form after each change: nothing of the old password stays in it. */}
        <OwnPassword key={changes} onChanged={() => setChanges(changes + 1)} />
        <SignIns />
        <SecondFactor />
        <Passkeys />
        <BenchPass />
        <OwnData />
      </div>
    </>
  );
}

function OwnData() {
  return (
    <section aria-label="What is kept about you" className="max-w-md">
      <h2 className="mb-3 border-b-2 border-ink pb-1">What is kept about you</h2>
      <p className="mb-2">
        Records keep who wrote them, for good: they are the evidence of what a pack went through. This file
        has everything that names you.
      </p>
      <a
        href="/api/session/data"
        download
        className="inline-flex min-h-11 items-center font-bold text-accent underline underline-offset-3 md:min-h-8"
      >
        Save it
      </a>
    </section>
  );
}

function OwnPassword({ onChanged }: { onChanged: () => void }) {
  const initial = { current: '', password: '' };
  const form = useServerForm<typeof initial>('own-password', initial, async (values) => {
    await ask('PUT /session/password', { body: values });
    say('Your password is changed. Everywhere else you are signed out.');
    onChanged();
    await queryClient.invalidateQueries({ queryKey: KEYS.signIns });
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} className="max-w-md" noValidate>
      <h2 className="mb-3 border-b-2 border-ink pb-1">Your password</h2>
      <div className="grid max-w-sm gap-4">
        {form.problem && <Notice title={form.problem} />}
        <TextField
          label="The password you have now"
          type="password"
          autoComplete="current-password"
          error={errors.current?.message}
          {...form.register('current')}
        />
        <NewPasswordField
          label="New password"
          error={errors.password?.message}
          {...form.register('password')}
        />
        <div>
          <Button type="submit" weight="main" disabled={isSubmitting}>
            Change it
          </Button>
        </div>
        <p className="text-sm text-faint">Every other device of yours is signed out by it.</p>
      </div>
    </form>
  );
}

function SignIns() {
  const signIns = useQuery({ queryKey: KEYS.signIns, queryFn: () => ask('GET /sessions') });
  return (
    <section aria-labelledby="sign-ins" className="max-w-md">
      <h2 id="sign-ins" className="border-b-2 border-ink pb-1">
        Where you are signed in
      </h2>
      {signIns.isLoadingError && <Failure error={signIns.error} retry={() => void signIns.refetch()} />}
      {signIns.isPending && <Loading what="your devices" />}
      <ul>
        {signIns.data?.map((one) => (
          <SignInLine key={one.id} one={one} />
        ))}
      </ul>
      {signIns.data && (
        <p className="mt-3 text-sm text-faint">
          A device that is not used for two weeks is signed out by itself. If you do not know one of these,
          sign it out and change your password.
        </p>
      )}
    </section>
  );
}

function SignInLine({ one }: { one: SignInAnswer }) {
  const reader = useReader();
  const end = async () => {
    try {
      await ask('DELETE /sessions/:id', { params: { id: one.id } });
      say(`${one.device} is signed out.`);
    } catch (error) {
      // It ended by itself meanwhile: the list says so when it is asked for again.
      if (!(error instanceof FailedRequest) || error.code !== 'not-found') throw error;
    } finally {
      await queryClient.invalidateQueries({ queryKey: KEYS.signIns });
    }
  };
  const said = [
    one.startedAt !== null && `signed in ${whenWords(one.startedAt, reader)}`,
    one.isThis ? 'in use' : `last used about ${whenWords(one.seenAt, reader)}`,
  ];
  return (
    <AccessLine
      name={one.device}
      mark={one.isThis ? 'this device' : null}
      said={said.filter(Boolean).join(' · ')}
      press={one.isThis ? null : 'Sign it out'}
      onEnd={end}
    />
  );
}
