import { useEffect, useState } from 'react';
import type { RegisterAnswer } from '../../contract';
import { complianceShare } from '../../core/storage';
import type { StorageHours } from '../../core/storage';
import { currentTime } from '../app/clock';
import { Failure } from '../app/Failure';
import { useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { Choice } from '../kit/fields';
import { Loading, Notice } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import type { ComplianceLine, ComplianceMessage, ComplianceQuestion } from '../workers/compliance.worker';
import { grouped, GROUPINGS, monthStarts } from './grouping';
import type { Grouping } from './grouping';

const MONTHS = 13;
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
  | { readonly state: 'done'; readonly lines: readonly ComplianceLine[] }
  | { readonly state: 'failed' };

function Loaded({ register }: { register: RegisterAnswer }) {
  const rows = usePackRows().data ?? [];
  const [by, setBy] = useState<Grouping>('month');
  const [starts] = useState(() => monthStarts(currentTime(), MONTHS));
  const [answer, setAnswer] = useState<Answer>({ state: 'running', packsSoFar: 0, packs: 0 });
  const { rules } = register.rules;
  useEffect(() => {
    const worker = new Worker(new URL('../workers/compliance.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.onmessage = ({ data }: MessageEvent<ComplianceMessage>) => {
      const { kind, ...rest } = data;
      setAnswer({ state: kind === 'progress' ? 'running' : kind, ...rest } as Answer);
    };
    worker.onerror = () => setAnswer({ state: 'failed' });
    worker.postMessage({ rules, starts } satisfies ComplianceQuestion);
    return () => worker.terminate();
  }, [rules, starts]);
  return (
    <>
      <title>Storage record · Malle</title>
      <h1>Storage record</h1>
      <p className="mb-3 max-w-prose text-faint">
        How every pack’s hours were spent, carried forward between its records: in its band, outside it within
        the rules’ hours, beyond them, or after a use with nobody knowing. Unknown is not compliant.
      </p>
      <Choice label="By" options={BY} value={by} onChange={setBy} />
      {answer.state === 'running' && (
        <ProgressBar label="Reading the ledgers" done={answer.packsSoFar} of={answer.packs} unit="packs" />
      )}
      {answer.state === 'failed' && <Notice title="The record could not be made up. Load the page again." />}
      {answer.state === 'done' && (
        <HoursTable groups={grouped(answer.lines, by, starts, rows, register)} by={by} />
      )}
    </>
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
