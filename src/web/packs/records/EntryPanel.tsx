import { Tabs } from 'radix-ui';
import { Suspense } from 'react';
import type { RefObject } from 'react';
import { Link } from 'react-router';
import type { PackDetails, PackTypeAnswer } from '../../../contract';
import type { Verdict } from '../../../core/assess';
import { useMay, usePerson } from '../../domain/Person';
import { Loading } from '../../kit/Message';
import { lazyPart } from '../../kit/lazyPart';
import { FlightForm } from './FlightForm';
import { InspectionForm } from './InspectionForm';
import { MoveForm } from './MoveForm';
import { NoteForm } from './NoteForm';
import { ReadingForm, useBenchFocus } from './ReadingForm';
import type { PackView } from '../../domain/packView';

/** Bench work, where the network is; a reading and a flight are written in the field and stay with the page. */
const ChargeForm = lazyPart(() => import('./ChargeForm'));
const ResistanceForm = lazyPart(() => import('./ResistanceForm'));
const MemoryForm = lazyPart(() => import('./MemoryForm'));

export type FormKind =
  'reading' | 'inspection' | 'charge' | 'flight' | 'resistance' | 'memory' | 'move' | 'note';

const ENTRIES: readonly { readonly kind: FormKind; readonly name: string; readonly key: string }[] = [
  { kind: 'reading', name: 'Reading', key: 'r' },
  { kind: 'inspection', name: 'Inspection', key: 'e' },
  { kind: 'charge', name: 'Charge', key: 'c' },
  { kind: 'flight', name: 'Flight', key: 'f' },
  { kind: 'resistance', name: 'Resistance', key: 'i' },
  { kind: 'memory', name: 'Memory', key: 'y' },
  { kind: 'move', name: 'Move', key: 'm' },
  { kind: 'note', name: 'Note', key: 'n' },
];

const ALL: ReadonlySet<FormKind> = new Set(ENTRIES.map(({ kind }) => kind));
/** What may still be written of a pack that left service. */
const TAKEN: Readonly<Partial<Record<Verdict, ReadonlySet<FormKind>>>> = {
  retired: new Set<FormKind>(['reading', 'inspection', 'move', 'note']),
  recycled: new Set<FormKind>(['note']),
};

interface Props {
  readonly pack: PackDetails;
  readonly type: PackTypeAnswer;
  readonly view: PackView;
  readonly entry: FormKind;
  readonly onEntry: (entry: FormKind) => void;
  readonly field: RefObject<HTMLInputElement | null>;
}

/** Where records are written: a reading first, since that is what a pack in the hand is for. */
export function EntryPanel({ pack, type, view, entry, onEntry, field }: Props) {
  const { role } = usePerson();
  const mayWrite = useMay('record.reading');
  const mayEdit = useMay('pack.edit');
  useBenchFocus(field, pack.id);
  const allowed = TAKEN[view.assessment.verdict] ?? ALL;
  // Only a smart pack has a memory to write of.
  const taken = pack.smart ? allowed : new Set([...allowed].filter((kind) => kind !== 'memory'));
  const open = taken.has(entry) ? entry : 'note';
  if (!mayWrite)
    return <p className="text-faint">As a {role} you can look at everything here and change nothing.</p>;
  return (
    <Tabs.Root
      value={open}
      onValueChange={(kind) => onEntry(kind as FormKind)}
      // A form that opens takes the cursor, so passing by a tab must not open it.
      activationMode="manual"
      role="region"
      aria-label="Write a record"
    >
      <div className="mb-3 flex flex-wrap items-end gap-x-1 border-b-2 border-ink">
        <Tabs.List aria-label="Kinds of record" className="flex flex-wrap items-end gap-x-1">
          {ENTRIES.filter(({ kind }) => taken.has(kind)).map(({ kind, name, key }) => (
            <Tabs.Trigger
              key={kind}
              value={kind}
              className="min-h-11 border-[1.5px] border-b-0 border-transparent px-3 font-bold text-accent data-[state=active]:border-ink data-[state=active]:bg-sheet data-[state=active]:text-ink md:min-h-9"
            >
              {name} <kbd className="font-mono text-xs font-normal text-faint max-md:hidden">{key}</kbd>
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <span className="ml-auto flex flex-wrap gap-x-4">
          <Link
            to={`/bench?pack=${pack.id}`}
            className="flex min-h-11 items-center font-bold text-accent underline-offset-3 hover:underline md:min-h-9"
          >
            Calculators
          </Link>
          {mayEdit && (
            <Link
              to={`/packs/${pack.id}/edit`}
              className="flex min-h-11 items-center font-bold text-accent underline-offset-3 hover:underline md:min-h-9"
            >
              Edit facts
            </Link>
          )}
        </span>
      </div>
      <Tabs.Content value={open} tabIndex={-1}>
        {open === 'reading' && <ReadingForm pack={pack} type={type} view={view} field={field} />}
        <Suspense fallback={<Loading what="the form" />}>
          {open === 'charge' && <ChargeForm pack={pack} type={type} view={view} />}
          {open === 'memory' && <MemoryForm pack={pack} view={view} />}
          {open === 'resistance' && <ResistanceForm pack={pack} type={type} view={view} />}
        </Suspense>
        {open === 'inspection' && <InspectionForm pack={pack} type={type} view={view} />}
        {open === 'flight' && <FlightForm pack={pack} type={type} view={view} />}
        {open === 'move' && <MoveForm pack={pack} view={view} />}
        {open === 'note' && <NoteForm pack={pack} />}
      </Tabs.Content>
    </Tabs.Root>
  );
}
