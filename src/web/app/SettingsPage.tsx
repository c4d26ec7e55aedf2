import { NavLink, useParams } from 'react-router';
import type { RegisterAnswer } from '../../contract';
import { Failure } from './Failure';
import { useMay } from '../domain/Person';
import { useRegister } from './queries';
import { Empty, Loading } from '../kit/Message';
import { ExportPage } from '../exchange/ExportPage';
import { ImportPage } from '../exchange/ImportPage';
import { ScriptsPage } from '../exchange/ScriptsPage';
import { CalendarSettings } from '../people/CalendarSettings';
import { InstrumentsTable } from '../register/InstrumentsTable';
import { PackTypesTable } from '../register/PackTypesTable';
import { PeopleTable } from '../people/PeopleTable';
import { RecyclersTable } from '../register/RecyclersTable';
import { PlacesTable } from '../register/PlacesTable';

/** What the register is made of besides packs. */
export default function SettingsPage() {
  const { table = 'types' } = useParams();
  const register = useRegister();
  const mayPeople = useMay('people.edit');
  const mayImport = useMay('register.import');
  const mayKeys = useMay('key.edit');
  const tables = [
    { path: 'types', name: 'Pack types' },
    { path: 'places', name: 'Places' },
    { path: 'instruments', name: 'Meters' },
    { path: 'recyclers', name: 'Recyclers' },
    ...(mayPeople ? [{ path: 'people', name: 'People' }] : []),
    ...(mayImport ? [{ path: 'import', name: 'Import' }] : []),
    { path: 'export', name: 'Export' },
    ...(mayKeys ? [{ path: 'scripts', name: 'Scripts' }] : []),
    { path: 'calendar', name: 'Your calendar' },
  ];
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (register.isPending) return <Loading what="the settings" />;
  return (
    <>
      <title>Settings · Malle</title>
      <h1 className="mb-3">Settings</h1>
      <nav aria-label="Settings" className="mb-5 flex flex-wrap gap-x-5 border-b border-rule">
        {tables.map(({ path, name }) => (
          <NavLink
            key={path}
            to={`/settings/${path}`}
            className="-mb-px inline-flex min-h-11 items-center border-b-3 border-transparent aria-[current=page]:border-accent aria-[current=page]:font-bold md:min-h-9"
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <TableOf
        table={table}
        register={register.data}
        mayPeople={mayPeople}
        mayImport={mayImport}
        mayKeys={mayKeys}
      />
    </>
  );
}

function TableOf({
  table,
  register,
  mayPeople,
  mayImport,
  mayKeys,
}: {
  table: string;
  register: RegisterAnswer;
  mayPeople: boolean;
  mayImport: boolean;
  mayKeys: boolean;
}) {
  if (table === 'types') return <PackTypesTable types={register.types} />;
  if (table === 'places') return <PlacesTable places={register.places} />;
  if (table === 'recyclers') return <RecyclersTable recyclers={register.recyclers} />;
  if (table === 'instruments') return <InstrumentsTable instruments={register.instruments} />;
  if (table === 'calendar') return <CalendarSettings />;
  if (table === 'people' && mayPeople) return <PeopleTable />;
  if (table === 'people')
    return (
      <Empty title="People and their roles are the custodian’s to see and change.">
        Ask a custodian for another role, a new password or somebody new.
      </Empty>
    );
  if (table === 'export') return <ExportPage />;
  if (table === 'import')
    return mayImport ? (
      <ImportPage />
    ) : (
      <Empty title="Bringing in a list is for custodians and deputies.">Give your list to one of them.</Empty>
    );
  if (table === 'scripts')
    return mayKeys ? (
      <ScriptsPage />
    ) : (
      <Empty title="Keys for scripts are the custodian’s to make.">Ask a custodian for one.</Empty>
    );
  return <Empty title="There is nothing of this name under Settings.">Choose one of the tables above.</Empty>;
}
