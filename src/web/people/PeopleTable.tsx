import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { PersonDetails, SignInLinkAnswer } from '../../contract';
import { ROLES } from '../../core/lifecycle';
import { ROLE_WORDS, whenWords } from '../../core/wording';
import { ask, FailedRequest } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { usePerson } from '../domain/Person';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { Loading, Notice } from '../kit/Message';
import { NewSecret } from '../kit/NewSecret';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';

/** Who is let in, and as what. */
export function PeopleTable() {
  const people = useQuery({ queryKey: KEYS.people, queryFn: () => ask('GET /people') });
  if (people.isLoadingError) return <Failure error={people.error} retry={() => void people.refetch()} />;
  if (people.isPending) return <Loading what="the people" />;
  return (
    <NamedTable
      path="people"
      one="person"
      things={people.data}
      action="people.edit"
      describe={standing}
      form={(person) => (
        <>
          <PersonForm person={person} />
          {person?.active && <ComingIn person={person} />}
        </>
      )}
    />
  );
}

function standing({ role, active, hasPassword }: PersonDetails): string {
  if (!active) return `${ROLE_WORDS[role]}, account ended`;
  return hasPassword ? ROLE_WORDS[role] : `${ROLE_WORDS[role]}, no password yet`;
}

/** How somebody gets a password without anybody else knowing it, and how a lost phone is shut out. */
function ComingIn({ person }: { person: PersonDetails }) {
  const own = usePerson();
  const reader = useReader();
  const [made, setMade] = useState<SignInLinkAnswer | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  if (person.id === own.id)
    return (
      <p className="mt-6 text-faint">
        Your password and your devices are on{' '}
        <Link className="font-bold text-accent underline" to="/account">
          your own page
        </Link>
        .
      </p>
    );
  const attempt = async (work: () => Promise<void>) => {
    setProblem(null);
    try {
      await work();
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
    }
  };
  const makeLink = async () => {
    setMade(await ask('POST /people/:id/sign-in-link', { params: { id: person.id } }));
    await queryClient.invalidateQueries({ queryKey: KEYS.people });
  };
  const endSessions = async () => {
    await ask('DELETE /people/:id/sessions', { params: { id: person.id } });
    say(`${person.name} is signed out everywhere.`);
  };
  return (
    <section aria-labelledby="coming-in" className="mt-8">
      <h2 id="coming-in" className="mb-2 border-b-2 border-ink pb-1">
        Letting {person.name} in
      </h2>
      {problem && <Notice title={problem} />}
      {made && (
        <NewSecret of={person.name} what="link" secret={`${window.location.origin}/welcome#${made.secret}`}>
          <p className="text-sm text-faint">
            Give it to {person.name} and nobody else. It works once, until {whenWords(made.endsAt, reader)}.
          </p>
        </NewSecret>
      )}
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => void attempt(makeLink)}>
          {made ? 'Make another link' : 'Make a link to choose a password'}
        </Button>
        {person.hasPassword && (
          <Button weight="quiet" onClick={() => void attempt(endSessions)}>
            Sign them out everywhere
          </Button>
        )}
      </div>
      <p className="mt-2 text-sm text-faint">
        {person.hasPassword
          ? 'For a forgotten password or a lost phone. The old password and every session end as soon as the link is made.'
          : 'Nobody but they will know the password.'}
      </p>
    </section>
  );
}

type PersonValues = Pick<PersonDetails, 'name' | 'login' | 'role' | 'active'> & { password: string };

function PersonForm({ person }: { person: PersonDetails | null }) {
  const initial: PersonValues = person
    ? { name: person.name, login: person.login, role: person.role, active: person.active, password: '' }
    : { name: '', login: '', role: 'pilot', active: true, password: '' };
  const form = useTableForm<PersonValues>('/people', 'people', person, initial, (values) => values);
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <TextField label="Sign-in name" error={errors.login?.message} {...form.register('login')} />
      <FormSelect label="Role" control={form.control} name="role">
        {ROLES.map((role) => (
          <SelectOption key={role} value={role}>
            {ROLE_WORDS[role]}
          </SelectOption>
        ))}
      </FormSelect>
      <TextField
        label={person ? 'New password' : 'First password'}
        type="password"
        autoComplete="new-password"
        hint={
          person
            ? 'Left empty, it stays as it is.'
            : 'Left empty, you make them a link with which they choose it. Else at least 10 characters.'
        }
        error={errors.password?.message}
        {...form.register('password')}
      />
      <FormCheck
        label="Account active"
        hint="Their records stay either way."
        control={form.control}
        name="active"
      />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!person} />
    </form>
  );
}
