import { Suspense, useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import type { PackDetails } from '../../../contract';
import type { StepKind } from '../../../core/assess';
import { CHEMISTRY } from '../../../core/chemistry';
import { cellsLabel } from '../../../core/pack';
import { PRESET_RULES } from '../../../core/rules';
import type { PresetName } from '../../../core/rules';
import { capacity } from '../../../core/wording';
import { useClock, useReader } from '../../app/clock';
import { Guarded } from '../../app/Failure';
import { useOwnItems } from '../../app/outbox';
import { factsOf } from '../../domain/packFacts';
import { Loading } from '../../kit/Message';
import { TagPlate } from '../../kit/TagPlate';
import { lazyPart } from '../../kit/lazyPart';
import { EntryPanel } from '../records/EntryPanel';
import type { FormKind } from '../records/EntryPanel';
import { LifeBlock } from '../decisions/LifeBlock';
import { InHands } from './InHands';
import { LabelFacts } from './LabelFacts';
import { packView, withWaiting } from '../../domain/packView';
import { OnCharge } from './OnCharge';
import { VerdictBlock } from './VerdictBlock';
import { Timeline } from '../records/Timeline';
import { WithPack } from './WithPack';
import type { PackInHand } from './WithPack';
import { answersLetters } from '../../app/useKeys';

/** Charts are half of the page's weight and none of its first answer. */
const HealthSection = lazyPart(() => import('./health/HealthSection'));

/** One pack: what may be done with it, what to do next, and the records behind that. */
export default function PackPage() {
  return <WithPack>{(inHand) => <LoadedPack key={inHand.pack.id} {...inHand} />}</WithPack>;
}

function LoadedPack({ pack, type, register }: PackInHand) {
  const now = useClock((clock) => clock.now);
  const outgoing = useOwnItems();
  const records = withWaiting(pack, outgoing, now);
  const [judgedBy, setJudgedBy] = useState<PresetName | null>(null);
  const { rules } = register.rules;
  const judgingRules = judgedBy ? { ...PRESET_RULES[judgedBy], checklists: rules.checklists } : rules;
  const view = packView(factsOf(pack, type, register), records, judgingRules, now);
  const location = useLocation();
  const state = location.state as { step?: StepKind; entry?: FormKind; calledBy?: string } | null;
  const [entry, setEntry] = useState<FormKind>(
    state?.entry ?? (state?.step ? (ENTRY_OF_STEP[state.step] ?? 'reading') : 'reading'),
  );
  const field = useRef<HTMLInputElement>(null);
  useEntryKeys(setEntry, field);

  const formerly = state?.calledBy ? `Tag ${state.calledBy} was replaced; this is the same pack.` : null;
  return (
    <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <title>{`${pack.tag} · Malle`}</title>
      <aside className="lg:row-span-2">
        <TagPlate
          tag={pack.tag}
          under={`${CHEMISTRY[type.chemistry].name} ${cellsLabel(type)} ${capacity(type.capacityMah)}`}
        />
        {formerly && <p className="mt-2 bg-wash-amber px-2 py-1 font-bold">{formerly}</p>}
        <div className="max-lg:hidden">
          <LabelFacts pack={pack} type={type} view={view} />
        </div>
      </aside>
      <div className="grid content-start gap-5">
        <Guarded>
          <VerdictBlock
            pack={pack}
            view={view}
            rules={judgingRules}
            judgedBy={judgedBy}
            onJudgedBy={setJudgedBy}
            onEntry={setEntry}
            field={field}
          />
        </Guarded>
        <div className="flex flex-wrap items-center gap-x-6 gap-y-3 empty:hidden">
          <Guarded>
            <InHands pack={pack} view={view} />
          </Guarded>
          <Guarded>
            <OnCharge pack={pack} register={register} usable={view.assessment.outSince === null} />
          </Guarded>
        </div>
        <Guarded>
          <LifeBlock pack={{ ...pack, records }} view={view} />
        </Guarded>
        <div className="print:hidden">
          <Guarded>
            <EntryPanel pack={pack} type={type} view={view} entry={entry} onEntry={setEntry} field={field} />
          </Guarded>
        </div>
      </div>
      <div className="grid gap-6">
        <div className="lg:hidden">
          <LabelFacts pack={pack} type={type} view={view} />
        </div>
        <Guarded>
          <Suspense fallback={<Loading what="its trends" />}>
            <HealthSection pack={pack} view={view} rules={judgingRules} />
          </Suspense>
        </Guarded>
        <Guarded>
          <Timeline pack={pack} type={type} records={records} />
        </Guarded>
        <p className="flex flex-wrap gap-x-6 text-sm print:hidden">
          <Link
            to={`/packs/${pack.id}/decide`}
            className="inline-flex min-h-11 items-center text-accent underline md:min-h-6"
          >
            What becomes of it
          </Link>
          <Link to="/packs" className="inline-flex min-h-11 items-center text-accent underline md:min-h-6">
            All packs
          </Link>
          <TakenOut pack={pack} />
        </p>
      </div>
    </div>
  );
}

/** Its whole life as a file: to print, for a spreadsheet, for another club. */
function TakenOut({ pack: { id } }: { pack: PackDetails }) {
  const { zone } = useReader();
  const files = [
    { href: `/api/packs/${id}/life.pdf?zone=${encodeURIComponent(zone)}`, name: 'Its whole life on paper' },
    { href: `/api/packs/${id}/life.csv?zone=${encodeURIComponent(zone)}`, name: 'as CSV' },
    { href: `/api/archive/packs/${id}`, name: 'as an archive to hand on' },
  ];
  return files.map(({ href, name }) => (
    <a
      key={href}
      href={href}
      target="_blank"
      rel="noreferrer"
      className="inline-flex min-h-11 items-center text-accent underline md:min-h-6"
    >
      {name}
    </a>
  ));
}

/** What a hand does first for a step that asks for no meter. */
const ENTRY_OF_STEP: Readonly<Partial<Record<StepKind, FormKind>>> = {
  'set-apart': 'move',
  'inspect-held': 'inspection',
  inspect: 'inspection',
  'inspect-season': 'inspection',
  'complete-baseline': 'inspection',
  mend: 'inspection',
  'set-smart': 'memory',
  'read-memory': 'memory',
};

const ENTRY_KEYS: Readonly<Record<string, FormKind>> = {
  r: 'reading',
  e: 'inspection',
  c: 'charge',
  f: 'flight',
  i: 'resistance',
  y: 'memory',
  m: 'move',
  n: 'note',
};

/** Each entry's letter opens it, unless a field is being typed in. */
function useEntryKeys(
  open: (entry: FormKind) => void,
  field: React.RefObject<HTMLInputElement | null>,
): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      const entry = ENTRY_KEYS[event.key];
      const target = event.target as Element;
      if (
        !entry ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea') !== null ||
        answersLetters(target)
      )
        return;
      event.preventDefault();
      open(entry);
      // The field is on the page only after this render.
      if (entry === 'reading') requestAnimationFrame(() => field.current?.focus());
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, [open, field]);
}
