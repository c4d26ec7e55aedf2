import { useState } from 'react';
import type { PersonAnswer } from '../../contract';
import { ask, FailedRequest, sendFile } from '../app/api';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { FileButton } from '../kit/FileButton';
import { Notice } from '../kit/Message';
import { FrontPage } from './FrontPage';
import { NewPasswordField } from './NewPasswordField';
import { useServerForm } from '../app/useServerForm';

interface Setup {
  readonly name: string;
  readonly login: string;
  readonly password: string;
}

/** The first start of a register: its first custodian, or one of an archive that was read into it. */
export default function SetupPage({ custodians }: { custodians: readonly PersonAnswer[] }) {
  return (
    <FrontPage>
      {custodians.length > 0 ? (
        <ClaimForm custodians={custodians} />
      ) : (
        <div className="grid gap-10 sm:grid-cols-2">
          <FirstCustodian />
          <FromArchive />
        </div>
      )}
    </FrontPage>
  );
}

function FirstCustodian() {
  const form = useServerForm<Setup>('setup', { name: '', login: '', password: '' }, async (values) => {
    await ask('POST /setup', { body: values });
    await queryClient.invalidateQueries({ queryKey: KEYS.session });
  });
  const { errors, isSubmitting } = form.formState;
  return (
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
      <NewPasswordField error={errors.password?.message} {...form.register('password')} />
      <Button type="submit" weight="main" disabled={isSubmitting}>
        Open the register
      </Button>
    </form>
  );
}

/** A register that stood elsewhere, read from its archive. */
function FromArchive() {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const read = async (file: File) => {
    setBusy(true);
    setProblem(null);
    try {
      await sendFile('/archive', file, 'application/gzip');
      await queryClient.invalidateQueries({ queryKey: KEYS.session });
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-labelledby="archive" className="grid content-start gap-4">
      <div>
        <h2 id="archive" className="text-lg">
          Or read an archive
        </h2>
        <p className="text-faint">
          A whole register as another Malle saved it, with its packs, ledgers and house rules.
        </p>
      </div>
      {problem && <Notice title="The archive was not read.">{problem}</Notice>}
      <div>
        <FileButton
          name="The archive"
          accept=".gz,application/gzip"
          disabled={busy}
          onFile={(file) => void read(file)}
        >
          {busy ? 'Reading it …' : 'Choose an archive'}
        </FileButton>
      </div>
      {busy && (
        <p role="status" className="text-faint">
          Every line is checked and every pack judged anew. A large register takes minutes.
        </p>
      )}
    </section>
  );
}

/** Nobody’s password stands in an archive, so one of its custodians gives the first. */
function ClaimForm({ custodians }: { custodians: readonly PersonAnswer[] }) {
  const initial = { personId: custodians[0]!.id as string, password: '' };
  const form = useServerForm<typeof initial>('claim', initial, async ({ personId, password }) => {
    await ask('POST /setup/claim', { body: { personId, password } });
    await queryClient.invalidateQueries({ queryKey: KEYS.session });
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} className="grid max-w-sm gap-4" noValidate>
      <div>
        <h2 className="text-lg">The archive is read</h2>
        <p className="text-faint">
          No passwords stand in it. Say which custodian you are and choose one; then let the others in under
          Settings.
        </p>
      </div>
      {form.problem && <Notice title={form.problem} />}
      <FormSelect label="You are" control={form.control} name="personId">
        {custodians.map(({ id, name }) => (
          <SelectOption key={id} value={id}>
            {name}
          </SelectOption>
        ))}
      </FormSelect>
      <NewPasswordField error={errors.password?.message} {...form.register('password')} />
      <Button type="submit" weight="main" disabled={isSubmitting}>
        Open the register
      </Button>
    </form>
  );
}
