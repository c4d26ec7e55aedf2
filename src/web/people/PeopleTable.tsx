import { useQuery } from '@tanstack/react-query';
import type { PersonDetails } from '../../contract';
import { ROLES } from '../../core/lifecycle';
import { ROLE_WORDS } from '../../core/wording';
import { ask } from '../app/api';
import { Failure } from '../app/Failure';
import { KEYS } from '../app/queries';
import { TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { Loading } from '../kit/Message';
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
      describe={({ role, active }) => (active ? ROLE_WORDS[role] : `${ROLE_WORDS[role]}, account ended`)}
      form={(person) => <PersonForm person={person} />}
    />
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
        hint={person ? 'Left empty, it stays as it is.' : 'At least 10 characters.'}
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
