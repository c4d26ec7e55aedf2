import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 as newId } from 'uuid';
import type { KeyAnswer, NewKeyAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { ROLES } from '../../core/lifecycle';
import type { Role } from '../../core/lifecycle';
import { ROLE_WORDS, whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { currentTime, useReader } from '../app/clock';
import { dayOf, startOfDay } from '../app/days';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useNames } from '../domain/useNames';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { Loading, Notice } from '../kit/Message';
import { NewSecret } from '../kit/NewSecret';
import { FormMoment } from '../domain/moments/MomentField';
import { useServerForm } from '../app/useServerForm';

/** Keys by which a club's own scripts read and write the register. */
export function ScriptsPage() {
  const keys = useQuery({ queryKey: KEYS.keys, queryFn: () => ask('GET /keys') });
  const [made, setMade] = useState<NewKeyAnswer | null>(null);
  if (keys.isLoadingError) return <Failure error={keys.error} retry={() => void keys.refetch()} />;
  if (keys.isPending) return <Loading what="the keys" />;
  return (
    <div className="grid gap-8 lg:grid-cols-2">
      <section aria-labelledby="keys">
        <h2 id="keys" className="border-b-2 border-ink pb-1">
          Keys for scripts
        </h2>
        {keys.data.length === 0 && <p className="py-2 text-faint">No script has a key yet.</p>}
        <ul>
          {keys.data.map((key) => (
            <KeyLine key={key.id} one={key} />
          ))}
        </ul>
        <p className="mt-4 text-sm text-faint">
          What can be asked stands in{' '}
          <a className="font-bold text-accent underline" href="/api/openapi.json">
            the description
          </a>{' '}
          (OpenAPI). A script sends its key with each request:{' '}
          <code className="font-mono">Authorization: Bearer malle_…</code>
        </p>
      </section>
      <div>
        {made && <NewKey made={made} />}
        <KeyForm key={made?.id} onMade={setMade} />
      </div>
    </div>
  );
}

function KeyLine({ one }: { one: KeyAnswer }) {
  const reader = useReader();
  const names = useNames();
  const over = one.endedAt ?? (one.endsAt <= reader.now ? one.endsAt : null);
  const end = async () => {
    await ask('DELETE /keys/:id', { params: { id: one.id } });
    say(`The key of ${one.name} works no longer.`);
    await queryClient.invalidateQueries({ queryKey: KEYS.keys });
  };
  return (
    <li className="ruled flex flex-wrap items-center justify-between gap-x-4 py-1.5">
      <span className={over === null ? '' : 'text-faint'}>
        <b>{one.name}</b>{' '}
        <span className="text-sm text-faint">
          {ROLE_WORDS[one.role]}, in the name of {names.person(one.personId)} ·{' '}
          {over === null ? `ends ${whenWords(one.endsAt, reader)}` : `ended ${whenWords(over, reader)}`} ·{' '}
          {one.usedAt === null ? 'never used' : `used ${whenWords(one.usedAt, reader)}`}
        </span>
      </span>
      {over === null && (
        <Button weight="quiet" onClick={() => void end()}>
          End it
        </Button>
      )}
    </li>
  );
}

/** The key of a script, and how to try it. */
function NewKey({ made }: { made: NewKeyAnswer }) {
  const example = `curl -H "Authorization: Bearer ${made.secret}" ${window.location.origin}/api/packs`;
  return (
    <NewSecret of={made.name} secret={made.secret}>
      <p className="text-sm text-faint">To try it:</p>
      <pre className="overflow-x-auto font-mono text-sm" tabIndex={0}>
        {example}
      </pre>
    </NewSecret>
  );
}

interface KeyValues {
  readonly name: string;
  readonly role: Role;
  readonly endsAt: string;
}

const LASTS_DAYS = 90;

function KeyForm({ onMade }: { onMade: (made: NewKeyAnswer) => void }) {
  // The moment is read once: a form left open over midnight keeps the day it offered.
  const [initial] = useState<KeyValues>(() => ({
    name: '',
    role: 'reader',
    endsAt: dayOf(currentTime() + LASTS_DAYS * DAY_MS),
  }));
  const form = useServerForm<KeyValues>('key', initial, async ({ name, role, endsAt }) => {
    const at = startOfDay(endsAt, 1);
    onMade(
      await ask('POST /keys', { body: { id: newId(), name, role, endsAt: Number.isFinite(at) ? at : null } }),
    );
    await queryClient.invalidateQueries({ queryKey: KEYS.keys });
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid max-w-md gap-4">
      <h2>A new key</h2>
      {form.problem && <Notice title={form.problem} />}
      <TextField label="What it is for" error={errors.name?.message} {...form.register('name')} />
      <FormSelect label="It may do what this role may" control={form.control} name="role">
        {ROLES.filter((role) => role !== 'custodian')
          .reverse()
          .map((role) => (
            <SelectOption key={role} value={role}>
              {ROLE_WORDS[role]}
            </SelectOption>
          ))}
      </FormSelect>
      <FormMoment
        label="Its last day"
        hint="At most a year."
        wanted="day"
        lean="ahead"
        control={form.control}
        name="endsAt"
      />
      <div>
        <Button type="submit" weight="main" disabled={isSubmitting}>
          Make the key
        </Button>
      </div>
    </form>
  );
}
