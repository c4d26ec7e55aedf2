import { ask } from '../app/api';
import { KEYS, queryClient } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Notice } from '../kit/Message';
import { FrontPage } from './FrontPage';

interface Setup {
  readonly name: string;
  readonly login: string;
  readonly password: string;
}

/** The first start of an empty register: its first custodian. */
export default function SetupPage() {
  const form = useServerForm<Setup>('setup', { name: '', login: '', password: '' }, async (values) => {
    await ask('POST /setup', { body: values });
    await queryClient.invalidateQueries({ queryKey: KEYS.session });
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <FrontPage>
      <form onSubmit={(event) => void form.hand(event)} className="grid max-w-sm gap-4" noValidate>
        <div>
          <h2 className="text-lg">This register is empty</h2>
          <p className="text-faint">
            Begin with its custodian: the person who keeps the packs, sets the house rules and lets others in.
          </p>
        </div>
        {form.problem && <Notice title={form.problem} />}
        <TextField
          label="Your name"
          autoComplete="name"
          autoFocus
          error={errors.name?.message}
          {...form.register('name')}
        />
        <TextField
          label="Sign-in name"
          autoComplete="username"
          error={errors.login?.message}
          {...form.register('login')}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="new-password"
          hint="At least 10 characters."
          error={errors.password?.message}
          {...form.register('password')}
        />
        <Button type="submit" weight="main" disabled={isSubmitting}>
          Open the register
        </Button>
      </form>
    </FrontPage>
  );
}
