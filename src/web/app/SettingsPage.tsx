import { useParams } from 'react-router';
import type { RegisterAnswer } from '../../contract';
import { Failure } from './Failure';
import { PartsPage } from './PartsPage';
import { useMay } from '../domain/Person';
import { useRegister } from './queries';
import { LinkTabs } from '../kit/LinkTabs';
import { Empty, Loading } from '../kit/Message';
import { ExportPage } from '../exchange/ExportPage';
import { ImportPage } from '../exchange/ImportPage';
import { ScriptsPage } from '../exchange/ScriptsPage';
import { CalendarSettings } from '../people/CalendarSettings';
import { DevicesPage } from '../devices/DevicesPage';
import { CraftTable } from '../register/CraftTable';
import { EquipmentTable } from '../register/EquipmentTable';
import { InstrumentsTable } from '../register/InstrumentsTable';
import { PackTypesTable } from '../register/PackTypesTable';
import { EvidencePage } from '../register/EvidencePage';
import { LogPage } from '../register/LogPage';
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
  const mayLog = useMay('log.read');
  const tables = [
    { path: 'types', name: 'Pack types' },
    { path: 'craft', name: 'Craft' },
    { path: 'places', name: 'Places' },
    { path: 'equipment', name: 'Bench' },
    { path: 'instruments', name: 'Meters' },
    { path: 'devices', name: 'Devices' },
    { path: 'recyclers', name: 'Recyclers' },
    ...(mayPeople ? [{ path: 'people', name: 'People' }] : []),
    ...(mayImport ? [{ path: 'import', name: 'Import' }] : []),
    { path: 'export', name: 'Export' },
    ...(mayKeys ? [{ path: 'scripts', name: 'Scripts' }] : []),
    ...(mayLog
      ? [
          { path: 'log', name: 'Log' },
          { path: 'evidence', name: 'Evidence' },
        ]
      : []),
    { path: 'calendar', name: 'Your calendar' },
    { path: 'parts', name: 'Parts' },
  ];
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (register.isPending) return <Loading what="the settings" />;
  return (
    <>
      <title>Settings · Malle</title>
      <h1 className="mb-3">Settings</h1>
      <LinkTabs
        label="Settings"
        ruled
        tabs={tables.map(({ path, name }) => ({ path: `/settings/${path}`, name }))}
      />
      <TableOf
        table={table}
        register={register.data}
        mayPeople={mayPeople}
        mayImport={mayImport}
        mayKeys={mayKeys}
        mayLog={mayLog}
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
  mayLog,
}: {
  table: string;
  register: RegisterAnswer;
  mayPeople: boolean;
  mayImport: boolean;
  mayKeys: boolean;
  mayLog: boolean;
}) {
  if (table === 'types') return <PackTypesTable types={register.types} />;
  if (table === 'craft') return <CraftTable craft={register.craft} types={register.types} />;
  if (table === 'places') return <PlacesTable places={register.places} />;
  if (table === 'recyclers') return <RecyclersTable recyclers={register.recyclers} />;
  if (table === 'equipment') return <EquipmentTable equipment={register.equipment} types={register.types} />;
  if (table === 'instruments') return <InstrumentsTable instruments={register.instruments} />;
  if (table === 'devices') return <DevicesPage register={register} />;
  if (table === 'parts') return <PartsPage />;
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
  if (table === 'log')
    return mayLog ? (
      <LogPage />
    ) : (
      <Empty title="Who changed what is for custodians and safety officers to see.">
        Ask one of them about what you want to know.
      </Empty>
    );
  if (table === 'evidence')
    return mayLog ? (
      <EvidencePage />
    ) : (
      <Empty title="Whether the register is what it was is for custodians and safety officers to look into.">
        Ask one of them, and give them a checkpoint if you kept one.
      </Empty>
    );
  if (table === 'scripts')
    return mayKeys ? (
      <ScriptsPage />
    ) : (
      <Empty title="Keys for scripts are the custodian’s to make.">Ask a custodian for one.</Empty>
    );
  return <Empty title="There is nothing of this name under Settings.">Choose one of the tables above.</Empty>;
}
