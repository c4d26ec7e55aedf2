import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { PSEUDONYM } from '../../contract';
import type { PersonDetails, SignInLinkAnswer } from '../../contract';
import { ROLES } from '../../core/lifecycle';
import { ROLE_WORDS, whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { usePerson } from '../domain/Person';
import { useAttempt } from '../app/useAttempt';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { Loading, Notice } from '../kit/Message';
import { NewSecret } from '../kit/NewSecret';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { CustodianFactor } from './CustodianFactor';
import { SharedBenches } from './SharedBenches';

/** Who is let in, and as what. */
export function PeopleTable() {
  const people = useQuery({ queryKey: KEYS.people, queryFn: () => ask('GET /people') });
  if (people.isLoadingError) return <Failure error={people.error} retry={() => void people.refetch()} />;
  if (people.isPending) return <Loading what="the people" />;
  return (
    <>
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
            {person && !person.active && !person.login.startsWith(PSEUDONYM) && <Leaving person={person} />}
          </>
        )}
      />
      <div className="mt-10 grid gap-10 lg:grid-cols-2">
        <CustodianFactor />
        <SharedBenches />
      </div>
    </>
  );
}

function standing({ role, active, hasPassword, hasFactor }: PersonDetails): string {
  if (!active) return `${ROLE_WORDS[role]}, account ended`;
  if (!hasPassword) return `${ROLE_WORDS[role]}, no password yet`;
  return hasFactor ? `${ROLE_WORDS[role]}, with a second factor` : ROLE_WORDS[role];
}

/** How somebody gets a password without anybody else knowing it, and how a lost phone is shut out. */
function ComingIn({ person }: { person: PersonDetails }) {
  const own = usePerson();
  const reader = useReader();
  const [made, setMade] = useState<SignInLinkAnswer | null>(null);
  const { problem, attempt } = useAttempt();
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
  const makeLink = async () => {
    setMade(await ask('POST /people/:id/sign-in-link', { params: { id: person.id } }));
    await queryClient.invalidateQueries({ queryKey: KEYS.people });
  };
  const endSessions = async () => {
    await ask('DELETE /people/:id/sessions', { params: { id: person.id } });
    say(`${person.name} is signed out everywhere.`);
  };
  const endFactors = async () => {
    await ask('DELETE /people/:id/factors', { params: { id: person.id } });
    say(`${person.name} signs in by the password alone again.`);
    await queryClient.invalidateQueries({ queryKey: KEYS.people });
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
        {person.hasFactor && (
          <Button weight="quiet" onClick={() => void attempt(endFactors)}>
            Take their second factor away
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

/** Somebody who has left may ask that their name is not shown any more. */
function Leaving({ person }: { person: PersonDetails }) {
  const navigate = useNavigate();
  const { problem, attempt } = useAttempt();
  const takeOn = async () => {
    const { id, version } = person;
    const { name } = await ask('POST /people/:id/pseudonym', { params: { id }, body: { version } });
    await Promise.all([
      queryClient.invalidateQueries({ queryKey: KEYS.people }),
      queryClient.invalidateQueries({ queryKey: KEYS.register }),
    ]);
    say(`${person.name} is shown as ${name} from now on.`);
    await navigate('/settings/people');
  };
  return (
    <section aria-labelledby="leaving" className="mt-8">
      <h2 id="leaving" className="mb-2 border-b-2 border-ink pb-1">
        Having left
      </h2>
      {problem && <Notice title={problem} />}
      <Button onClick={() => void attempt(takeOn)}>Show a pseudonym in place of the name</Button>
      <p className="mt-2 text-sm text-faint">
        Their records stay, and stay one person’s. What was printed, and words that people typed, keep the
        name; the register’s log, which custodians and the safety officer read, tells who it was.
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
