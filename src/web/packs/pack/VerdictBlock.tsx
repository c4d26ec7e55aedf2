import { useId } from 'react';
import type { RefObject } from 'react';
import type { PackDetails } from '../../../contract';
import { awaitsDecision, END_STEPS, isOutOfUse } from '../../../core/assess';
import type { NextStep } from '../../../core/assess';
import { isInService } from '../../../core/lifecycle';
import type { Instant, PackId } from '../../../core/measure';
import { PRESETS, PRESET_TITLES } from '../../../core/rules';
import type { HouseRules, PresetName } from '../../../core/rules';
import { isLithium } from '../../../core/chemistry';
import { contentsMv } from '../../../core/storage';
import { basisWords, charge, dueWords, STEP_WORDS, volts, whenWords } from '../../../core/wording';
import type { Reader } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useMay } from '../../domain/Person';
import { AllowanceBar } from '../../kit/AllowanceBar';
import { Button, ButtonLink } from '../../kit/Button';
import { LargeCellLadder } from '../../kit/CellLadder';
import { VerdictMark } from '../../kit/VerdictMark';
import type { FormKind } from '../records/EntryPanel';
import { Findings } from './Findings';
import { answersOf, MayFlyMark } from '../../domain/MayFlyMark';
import type { PackView } from '../../domain/packView';
import { Select, SelectOption } from '../../kit/Select';

interface Props {
  readonly pack: PackDetails;
  readonly view: PackView;
  readonly rules: HouseRules;
  /** The preset it is shown under instead of the house rules; null for those in force. */
  readonly judgedBy: PresetName | null;
  readonly onJudgedBy: (preset: PresetName | null) => void;
  readonly onEntry: (entry: FormKind) => void;
  readonly field: RefObject<HTMLInputElement | null>;
}

/** How the pack stands: verdict, may it fly, its clock, its next step, the reasons, its cells. */
export function VerdictBlock({ pack, view, rules, judgedBy, onJudgedBy, onEntry, field }: Props) {
  const { assessment } = view;
  const seqs = new Map(pack.records.map(({ id, seq }) => [id, seq]));
  const serving = isInService(assessment.life);
  const held = assessment.findings.some(({ severity }) => severity === 'hold');
  return (
    <section aria-label="How it stands" className="grid gap-x-8 gap-y-4 xl:grid-cols-[minmax(0,1fr)_21rem]">
      <div>
        {judgedBy && (
          <p role="status" className="mb-2 bg-wash-amber px-2 py-1">
            Shown as <b>{PRESET_TITLES[judgedBy]}</b> would judge it. The house rules in force are others.
          </p>
        )}
        <p className="flex flex-wrap items-center gap-x-5 gap-y-1">
          {held && assessment.verdict === 'retire-advised' && <VerdictMark verdict="hold" large />}
          <VerdictMark verdict={assessment.verdict} charged={assessment.charged} large />
          <span className="text-lg">
            <MayFlyMark {...answersOf(assessment)} />
          </span>
          <ClockLine view={view} />
        </p>
        {assessment.steps[0] && (
          <NextLine packId={pack.id} step={assessment.steps[0]} onEntry={onEntry} field={field} />
        )}
        <div className={serving || assessment.findings.length > 0 ? 'mt-3' : 'hidden'}>
          <Findings
            packId={pack.id}
            findings={assessment.findings}
            outOfUse={isOutOfUse(assessment.verdict)}
            seqOf={(id) => seqs.get(id) ?? null}
          />
        </div>
      </div>
      {serving && (
        <div>
          <CellsNow view={view} rules={rules} />
          <JudgedBy judgedBy={judgedBy} onJudgedBy={onJudgedBy} />
        </div>
      )}
    </section>
  );
}

/** What another school would say of this pack, without adopting its rules. */
function JudgedBy({ judgedBy, onJudgedBy }: Pick<Props, 'judgedBy' | 'onJudgedBy'>) {
  const id = useId();
  return (
    <p className="mt-3 flex items-center gap-2 text-sm text-faint print:hidden">
      <label htmlFor={id}>Judged by</label>
      <span className="w-48">
        <Select
          id={id}
          value={judgedBy ?? ''}
          onChange={(value) => onJudgedBy((value || null) as PresetName | null)}
        >
          <SelectOption value="">the house rules</SelectOption>
          {PRESETS.map((preset) => (
            <SelectOption key={preset} value={preset}>
              {PRESET_TITLES[preset]}
            </SelectOption>
          ))}
        </Select>
      </span>
    </p>
  );
}

function ClockLine({ view }: { view: PackView }) {
  const reader = useReader();
  const { storage, verdict } = view.assessment;
  if (awaitsDecision(verdict)) return <span className="text-faint">storage waits for the decision</span>;
  if (isOutOfUse(verdict)) return null;
  switch (storage.state) {
    case 'high':
    case 'low':
      return (
        <span className="flex items-center gap-2">
          <AllowanceBar since={storage.since} allowanceHours={storage.allowanceHours} now={reader.now} />
          <span className={reader.now >= storage.dueAt ? 'font-bold text-red' : ''}>
            {storage.state}, {dueWords(storage.dueAt, reader)}
          </span>
        </span>
      );
    case 'in-band':
      return <span className="text-faint">in its storage band since {whenWords(storage.since, reader)}</span>;
    case 'pending':
      return (
        <span className="text-faint">put to storage {whenWords(storage.since, reader)}, to be confirmed</span>
      );
    case 'self-storing':
      return (
        <span className="text-faint">stores itself, in its band by {whenWords(storage.bledAt, reader)}</span>
      );
    case 'unmeasured':
      return <span className="font-bold text-amber">storage unknown</span>;
    case 'no-rule':
      return <span className="text-faint">no storage voltage: keep it cool</span>;
    default:
      return storage satisfies never;
  }
}

interface Act {
  readonly entry: FormKind;
  readonly label: string;
}
const READ_IT: Act = { entry: 'reading', label: 'Type the reading' };
const INSPECT_IT: Act = { entry: 'inspection', label: 'Inspect it now' };
/** Steps that a decision, a watch or the way to the recycler answers, told in the block below. */
const ELSEWHERE: ReadonlySet<NextStep['do']> = new Set([
  'keep-off',
  'decide',
  'second-name',
  'attend-recovery',
  ...END_STEPS,
]);

const ACT_OF_STEP: Readonly<Partial<Record<NextStep['do'], Act>>> = {
  'inspect-held': INSPECT_IT,
  'set-apart': { entry: 'move', label: 'Note where it lies' },
  'send-back': { entry: 'move', label: 'Note where it went' },
  inspect: INSPECT_IT,
  'inspect-season': INSPECT_IT,
  mend: { entry: 'inspection', label: 'Inspect it again' },
  'feel-again': { entry: 'inspection', label: 'Note how it feels' },
  'fly-or-drain': { entry: 'flight', label: 'Note the flight' },
  'complete-baseline': { entry: 'inspection', label: 'Measure it now' },
  'set-smart': { entry: 'memory', label: 'Set its memory' },
  'read-memory': { entry: 'memory', label: 'Read its memory' },
};

function NextLine({
  packId,
  step,
  onEntry,
  field,
}: {
  packId: PackId;
  step: NextStep;
  onEntry: (entry: FormKind) => void;
  field: RefObject<HTMLInputElement | null>;
}) {
  const reader = useReader();
  const mayWrite = useMay('record.reading');
  const mayDecide = useMay('record.decision');
  const { entry, label } = ACT_OF_STEP[step.do] ?? READ_IT;
  const act = () => {
    onEntry(entry);
    if (entry === 'reading') requestAnimationFrame(() => field.current?.focus());
  };
  return (
    <p className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 border-y-2 border-ink py-2">
      <span>
        <span className="text-faint">Next</span> <b className="text-lg">{STEP_WORDS[step.do]}</b>
        {step.dueAt !== null && <span>{dueOf(step.do, step.dueAt, reader)}</span>}
      </span>
      {(step.do === 'decide' || step.do === 'second-name') && mayDecide && (
        <ButtonLink to={`/packs/${packId}/decide`} weight="main">
          Decide about it
        </ButtonLink>
      )}
      {mayWrite && !ELSEWHERE.has(step.do) && (
        <Button weight="main" onClick={act}>
          {label}
        </Button>
      )}
    </p>
  );
}

/** When a step is to be done; a watch and a rest last until then. */
function dueOf(step: NextStep['do'], dueAt: Instant, reader: Reader): string {
  if (step === 'keep-off') return ` until ${whenWords(dueAt, reader)}`;
  if (step === 'verify-again') return `, from ${whenWords(dueAt, reader)} on`;
  return UNTIMED.has(step) ? '' : `, ${dueWords(dueAt, reader)}`;
}

/** What cannot wait, and what waits for a hand rather than for an hour. */
const UNTIMED: ReadonlySet<NextStep['do']> = new Set(['store-up-now', 'inspect-held', ...END_STEPS]);

/** The cells as they are: read, or carried from what happened since, which the heading then says. */
function CellsNow({ view, rules }: { view: PackView; rules: HouseRules }) {
  const reader = useReader();
  const { latest, contents } = view.assessment;
  const { series, chemistry } = view.facts;
  const carried =
    contents && isLithium(chemistry) && contents.basis !== 'read' ? contentsMv(chemistry, contents) : null;
  const cellsMv = carried ? carried.map((mv) => Math.round(mv / 10) * 10) : latest?.cellsMv;
  if (!cellsMv || (latest && !contents && isLithium(chemistry)))
    return (
      <div>
        <p className="text-faint">
          {latest
            ? `What it holds is not known: it was used and not read since ${whenWords(latest.at, reader)}.`
            : 'No rested reading yet.'}
        </p>
        <VoltsSince view={view} />
      </div>
    );
  const byCell = cellsMv.length === series && (carried !== null || latest!.byCell);
  const packMv = byCell ? cellsMv.reduce((sum, mv) => sum + mv, 0) : cellsMv[0]! * series;
  const about = carried ? 'about ' : '';
  return (
    <div>
      <h2 className="mb-1 flex items-baseline justify-between">
        Cells{' '}
        <span className="text-sm font-normal text-faint">
          {carried ? 'not read since' : whenWords(latest!.at, reader)}
        </span>
      </h2>
      <LargeCellLadder
        chemistry={chemistry}
        cellsMv={byCell || series === 1 ? cellsMv : Array.from({ length: 1 }, () => cellsMv[0]!)}
        rules={rules}
        byCell={byCell}
      />
      {carried && contents && (
        <p className="mt-1 text-sm font-bold text-amber">
          {basisWords(contents.basis, Math.max(...cellsMv), contents.since, reader)}
        </p>
      )}
      <VoltsSince view={view} />
      <dl className="mt-1 flex flex-wrap gap-x-6 text-sm">
        <Fact name="Pack" value={`${about}${volts(packMv)} V`} />
        {byCell && !carried && series > 1 && (
          <Fact name="Spread" value={`${Math.max(...cellsMv) - Math.min(...cellsMv)} mV`} />
        )}
        {contents && <Fact name="Charge" value={charge(contents.lowest)} />}
        {carried && latest && <Fact name="Last read" value={whenWords(latest.at, reader)} />}
      </dl>
    </div>
  );
}

/** Volts newer than the rested ones: on landing, say. They decide nothing, but a hand looks for them first. */
function VoltsSince({ view: { history, assessment } }: { view: PackView }) {
  const reader = useReader();
  const newest = history.readings.at(-1);
  if (!newest || newest.condition === 'rested' || newest.at <= (assessment.latest?.at ?? 0)) return null;
  const { volts: read, condition, at } = newest;
  const figures =
    read.of === 'cells' ? read.cellsMv.map(volts).join(' ') : `${volts(read.packMv)} V the pack`;
  return (
    <p className="mt-1 text-sm">
      <b className="font-mono">{figures}</b> {condition === 'loaded' ? 'under load' : 'settling, not rested'},{' '}
      {whenWords(at, reader)}
    </p>
  );
}

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <div className="flex gap-1.5">
      <dt className="text-faint">{name}</dt>
      <dd className="font-mono font-bold">{value}</dd>
    </div>
  );
}
