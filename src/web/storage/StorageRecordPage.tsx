import { useEffect, useState } from 'react';
import type { RegisterAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import { complianceShare } from '../../core/storage';
import type { StorageHours } from '../../core/storage';
import { currentTime } from '../app/clock';
import { dayOf, startOfDay } from '../app/days';
import { Failure } from '../app/Failure';
import { saveText } from '../app/saveText';
import { useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { Button } from '../kit/Button';
import { Choice } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Loading, Notice } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import type { ComplianceLine, ComplianceMessage, ComplianceQuestion } from '../workers/compliance.worker';
import { grouped, GROUPINGS, hoursCsv, monthStarts, monthsWithin, narrowed } from './grouping';
import type { Grouping, Narrowed } from './grouping';
import { MomentField } from '../domain/moments/MomentField';

const MONTHS = 13;
const LONGEST_MS = 3_660 * DAY_MS;
const BY = GROUPINGS.map((value) => ({ value, label: value }));

/** How the register has been stored over the last year: by month, place, type and person. */
export default function StorageRecordPage() {
  const register = useRegister();
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (register.isPending) return <Loading what="the register" />;
  return <Loaded register={register.data} />;
}

type Answer =
  | { readonly state: 'running'; readonly packsSoFar: number; readonly packs: number }
  | {
      readonly state: 'done';
      readonly lines: readonly ComplianceLine[];
      /** The periods the lines count in. */
      readonly starts: readonly Instant[];
    }
  | { readonly state: 'failed' };

function Loaded({ register }: { register: RegisterAnswer }) {
  const rows = usePackRows().data ?? [];
  const [by, setBy] = useState<Grouping>('month');
  const [year] = useState(() => monthStarts(currentTime(), MONTHS));
  const [period, setPeriod] = useState({ from: dayOf(year[0]!), to: dayOf(year.at(-1)!) });
  const [chosen, setChosen] = useState<Narrowed>({ type: '', place: '', person: '' });
  const [from, to] = [startOfDay(period.from), startOfDay(period.to, 1)];
  const valid = from < to && to - from < LONGEST_MS;
  const isYear = period.from === dayOf(year[0]!) && period.to === dayOf(year.at(-1)!);
  const [starts, setStarts] = useState(year);
  const asked = isYear ? year : valid ? monthsWithin(from, Math.min(to, year.at(-1)!)) : null;
  const askedKey = asked?.join();
  if (asked && askedKey !== starts.join()) setStarts(asked);
  const [answer, setAnswer] = useState<Answer>({ state: 'running', packsSoFar: 0, packs: 0 });
  const { rules } = register.rules;
  useEffect(() => {
    const worker = new Worker(new URL('../workers/compliance.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.onmessage = ({ data }: MessageEvent<ComplianceMessage>) => {
      const { kind, ...rest } = data;
      setAnswer({ state: kind === 'progress' ? 'running' : kind, ...rest, starts } as Answer);
    };
    worker.onerror = () => setAnswer({ state: 'failed' });
    worker.postMessage({ rules, starts } satisfies ComplianceQuestion);
    return () => worker.terminate();
  }, [rules, starts]);
  const groups =
    answer.state === 'done'
      ? grouped(narrowed(answer.lines, chosen, rows), by, answer.starts, rows, register)
      : [];
  return (
    <>
      <title>Storage record · Malle</title>
      <h1>Storage record</h1>
      <p className="mb-3 max-w-prose text-faint">
        How every pack’s hours were spent, carried forward between its records: in its band, outside it within
        the rules’ hours, beyond them, or after a use with nobody knowing. Unknown is not compliant.
      </p>
      <div className="flex flex-wrap items-end gap-4 print:hidden">
        <MomentField
          label="From"
          wanted="day"
          lean="past"
          value={period.from}
          onChange={(next) => setPeriod({ ...period, from: next })}
        />
        <MomentField
          label="To, inclusive"
          wanted="day"
          lean="past"
          value={period.to}
          onChange={(next) => setPeriod({ ...period, to: next })}
          error={
            valid || Number.isNaN(from + to)
              ? undefined
              : 'The period ends before it begins, or is longer than ten years.'
          }
        />
        <Narrow
          label="Packs"
          all="all types"
          things={register.types}
          value={chosen.type}
          onChange={(type) => setChosen({ ...chosen, type })}
        />
        <Narrow
          label="Place"
          all="everywhere"
          things={register.places}
          value={chosen.place}
          onChange={(place) => setChosen({ ...chosen, place })}
        />
        <Narrow
          label="Person"
          all="everybody"
          things={register.people}
          value={chosen.person}
          onChange={(person) => setChosen({ ...chosen, person })}
        />
        <Choice label="By" options={BY} value={by} onChange={setBy} />
        <Button
          disabled={answer.state !== 'done'}
          onClick={() => saveText(hoursCsv(by, groups), `storage-record-by-${by}.csv`)}
        >
          CSV
        </Button>
        <Button disabled={answer.state !== 'done'} onClick={() => window.print()}>
          Print
        </Button>
      </div>
      {answer.state === 'running' && (
        <ProgressBar label="Reading the ledgers" done={answer.packsSoFar} of={answer.packs} unit="packs" />
      )}
      {answer.state === 'failed' && <Notice title="The record could not be made up. Load the page again." />}
      {answer.state === 'done' && <HoursTable groups={groups} by={by} />}
    </>
  );
}

/** One of the register's things, or all of them. */
function Narrow({
  label,
  all,
  things,
  value,
  onChange,
}: {
  label: string;
  all: string;
  things: readonly { readonly id: string; readonly name: string }[];
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <SelectField label={label} value={value} onChange={onChange}>
      <SelectOption value="">{all}</SelectOption>
      {things.map(({ id, name }) => (
        <SelectOption key={id} value={id}>
          {name}
        </SelectOption>
      ))}
    </SelectField>
  );
}

const PARTS: readonly { readonly of: keyof StorageHours; readonly name: string; readonly fill: string }[] = [
  { of: 'inBand', name: 'in band', fill: 'var(--band)' },
  { of: 'allowed', name: 'out, in time', fill: 'var(--used)' },
  { of: 'overdue', name: 'overdue', fill: 'var(--red)' },
  { of: 'unknown', name: 'unknown', fill: 'var(--amber)' },
];

function HoursTable({
  groups,
  by,
}: {
  groups: readonly { name: string; hours: StorageHours }[];
  by: Grouping;
}) {
  if (groups.length === 0) return <p className="mt-3 text-faint">No lithium pack has been read yet.</p>;
  return (
    <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Hours">
      <table className="w-full max-w-5xl text-sm max-md:min-w-160">
        <thead>
          <tr className="border-b-2 border-ink text-left">
            <th scope="col" className="w-56 py-1 pr-4 first-letter:uppercase">
              {by}
            </th>
            <th scope="col" className="py-1 pr-4">
              Complied
            </th>
            <th scope="col" className="w-72 py-1 pr-4">
              <span className="sr-only">Shares</span>
            </th>
            {PARTS.map(({ name, fill }) => (
              <th key={name} scope="col" className="py-1 pr-4 font-normal">
                <svg width="10" height="10" className="mr-1.5 inline-block" aria-hidden>
                  <rect width="10" height="10" fill={fill} stroke="var(--rule)" />
                </svg>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {groups.map(({ name, hours }) => (
            <HoursRow key={name} name={name} hours={hours} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function HoursRow({ name, hours }: { name: string; hours: StorageHours }) {
  const total = PARTS.reduce((sum, { of }) => sum + hours[of], 0);
  const share = complianceShare(hours);
  const widths = PARTS.map(({ of }) => (hours[of] / Math.max(1, total)) * 100);
  return (
    <tr className="border-b border-line">
      <th scope="row" className="py-1 pr-4 text-left font-normal">
        {name}
      </th>
      <td className="py-1 pr-4 font-mono font-bold">
        {share === null ? '–' : `${(share * 100).toFixed(1)} %`}
      </td>
      <td className="py-1 pr-4">
        <svg className="block h-3 w-full" viewBox="0 0 100 10" preserveAspectRatio="none" role="presentation">
          {PARTS.map(({ of, fill }, i) => (
            <rect
              key={of}
              x={widths.slice(0, i).reduce((sum, width) => sum + width, 0)}
              width={widths[i]}
              height="10"
              fill={fill}
            />
          ))}
        </svg>
      </td>
      {PARTS.map(({ of }) => (
        <td key={of} className="py-1 pr-4 font-mono">
          {Math.round(hours[of]).toLocaleString('en-GB')} h
        </td>
      ))}
    </tr>
  );
}
