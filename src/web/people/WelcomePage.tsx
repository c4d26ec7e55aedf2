import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, FailedRequest } from '../app/api';
import { useServerForm } from '../app/useServerForm';
import { Failure } from '../app/Failure';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Loading, Notice } from '../kit/Message';
import { FrontPage } from './FrontPage';
import { NewPasswordField } from './NewPasswordField';

/** Where a link of a custodian's leads: whoever has it chooses a password and is in. The secret stays in the browser until then. */
export default function WelcomePage() {
  const [secret] = useState(() => window.location.hash.slice(1));
  const invited = useQuery({
    queryKey: ['invited', secret],
    queryFn: () => ask('POST /session/link', { body: { secret } }),
    retry: (failures, error) => failures < 3 && error instanceof FailedRequest && error.mayPass,
  });
  const isOver = invited.error instanceof FailedRequest && !invited.error.mayPass;
  return (
    <FrontPage>
      {invited.isPending && <Loading what="your link" />}
      {isOver && (
        <Notice title="This link leads nowhere any more.">
          <p>
            It was used already, is more than three days old, or a newer one was made for you. Ask a custodian
            for another.
          </p>
          <a className="font-bold text-accent underline" href="/">
            To the sign-in
          </a>
        </Notice>
      )}
      {invited.isLoadingError && !isOver && (
        <Failure error={invited.error} retry={() => void invited.refetch()} />
      )}
      {invited.data && <ChoosePassword secret={secret} {...invited.data} />}
    </FrontPage>
  );
}

function ChoosePassword({ secret, name, login }: { secret: string; name: string; login: string }) {
  const initial = { password: '' };
  const form = useServerForm<typeof initial>('welcome', initial, async ({ password }) => {
    await ask('POST /session/link/password', { body: { secret, password } });
    // The page begins anew, as somebody who is signed in, and the link is no more in its address.
    window.location.replace('/');
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} className="grid max-w-sm gap-4" noValidate>
      <div>
        <h2 className="text-lg">Welcome, {name}</h2>
        <p className="text-faint">Choose the password you will sign in with.</p>
      </div>
      {form.problem && <Notice title={form.problem} />}
      <TextField label="Sign-in name" autoComplete="username" readOnly value={login} />
      <NewPasswordField autoFocus error={errors.password?.message} {...form.register('password')} />
      <Button type="submit" weight="main" disabled={isSubmitting}>
        Keep it and come in
      </Button>
    </form>
  );
}
