import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { RegisterAnswer, ReportAnswer, ReportPart, ReportTable } from '../../contract';
import { whenWords } from '../../core/wording';
import { askWhileTold } from '../app/api';
import { currentTime, useReader } from '../app/clock';
import { dayOf, startOfDay } from '../app/days';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { IncidentTabs } from '../domain/lifecycle/IncidentTabs';
import { queryClient, useRegister } from '../app/queries';
import { Button } from '../kit/Button';
import { Choice, TextField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Loading } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { PERIODS, periodOf } from './period';
import type { PeriodName } from './period';
import { MomentField } from '../domain/moments/MomentField';

/** What happened in a period: on screen, for a spreadsheet, on paper. */
export default function ReportsPage() {
  const register = useRegister();
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (register.isPending) return <Loading what="the register" />;
  return <Loaded register={register.data} />;
}

function Loaded({ register }: { register: RegisterAnswer }) {
  const reader = useReader();
  const { zone } = reader;
  const [name, setName] = useState<PeriodName | 'own'>('year');
  const [opened] = useState(currentTime);
  const [own, setOwn] = useState(() => {
    const { from, to } = periodOf('quarter', opened);
    return { from: dayOf(from), to: dayOf(to - 1) };
  });
  const [search, setSearch] = useSearchParams();
  const about = partOf(search.get('about'));
  const [type, setType] = useState('');
  const [person, setPerson] = useState('');
  const [place, setPlace] = useState('');
  const [craft, setCraft] = useDraft('reports.craft', '');
  const [decimals, setDecimals] = useState<'point' | 'comma'>('point');
  const period =
    name === 'own' ? { from: startOfDay(own.from), to: startOfDay(own.to, 1) } : periodOf(name, opened);
  const valid = Number.isFinite(period.from) && Number.isFinite(period.to) && period.from < period.to;
  const query = new URLSearchParams({
    from: String(period.from),
    to: String(period.to),
    zone,
    ...(type && { type }),
    ...(person && { person }),
    ...(place && { place }),
    ...(craft.trim() && { craft: craft.trim() }),
  }).toString();
  const [progress, setProgress] = useState<{ readonly done: number; readonly of: number } | null>(null);
  const queryKey = ['report', query];
  const answer = useQuery({
    queryKey,
    queryFn: ({ signal }) => {
      setProgress(null);
      return askWhileTold<ReportAnswer>(`/reports?${query}`, (done, of) => setProgress({ done, of }), signal);
    },
    enabled: valid,
  });
  // As on screen: the server has it at hand for a while.
  const same = `${query}${answer.data ? `&asOf=${answer.data.asOf}` : ''}`;
  const tables = answer.data?.tables.filter((table) => about === 'all' || table.about === about) ?? [];
  return (
    <>
      <title>Reports · Malle</title>
      <div className="flex flex-wrap items-baseline gap-x-6">
        <IncidentTabs now="reports" />
        <Link to="/storage" className="inline-flex min-h-11 items-center font-bold text-accent md:min-h-8">
          Storage record by month and hand
        </Link>
      </div>
      <div className="my-3 flex flex-wrap items-end gap-4 print:hidden">
        <div className="min-w-52">
          <SelectField
            label="About"
            value={about}
            onChange={(part) => setSearch(part === 'all' ? {} : { about: part }, { replace: true })}
          >
            {PARTS.map(({ value, label }) => (
              <SelectOption key={value} value={value}>
                {label}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        <Choice
          label="Period"
          options={[
            ...PERIODS.map(({ name: value, label }) => ({ value, label })),
            { value: 'own' as const, label: 'other' },
          ]}
          value={name}
          onChange={setName}
        />
        {name === 'own' && (
          <>
            <MomentField
              label="From"
              wanted="day"
              lean="past"
              value={own.from}
              onChange={(from) => setOwn({ ...own, from })}
            />
            <MomentField
              label="To, inclusive"
              wanted="day"
              lean="past"
              value={own.to}
              onChange={(to) => setOwn({ ...own, to })}
              error={
                startOfDay(own.from) >= startOfDay(own.to, 1)
                  ? 'The period ends before it begins.'
                  : undefined
              }
            />
          </>
        )}
        <div className="min-w-52">
          <SelectField label="Packs" value={type} onChange={setType}>
            <SelectOption value="">all types</SelectOption>
            {register.types.map(({ id, name: typeName }) => (
              <SelectOption key={id} value={id}>
                {typeName}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        <div className="min-w-40">
          <SelectField label="Person" value={person} onChange={setPerson}>
            <SelectOption value="">everybody</SelectOption>
            {register.people.map(({ id, name: own }) => (
              <SelectOption key={id} value={id}>
                {own}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        <div className="min-w-40">
          <SelectField label="Place" value={place} onChange={setPlace}>
            <SelectOption value="">everywhere</SelectOption>
            {register.places.map(({ id, name: own }) => (
              <SelectOption key={id} value={id}>
                {own}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        <div className="w-36">
          <TextField
            label="Craft"
            value={craft}
            onChange={(event) => setCraft(event.target.value)}
            placeholder="any"
          />
        </div>
        <Choice
          label="Decimals in CSV"
          options={[
            { value: 'point', label: '1.5' },
            { value: 'comma', label: '1,5' },
          ]}
          value={decimals}
          onChange={setDecimals}
        />
        {valid && (
          <a
            href={`/api/reports.pdf?${same}${about === 'all' ? '' : `&about=${about}`}`}
            target="_blank"
            rel="noreferrer"
            className="inline-flex min-h-11 items-center font-bold text-accent underline md:min-h-9"
          >
            {about === 'all' ? 'All of it to print' : 'This part to print'}
          </a>
        )}
      </div>
      {answer.isLoadingError && <Failure error={answer.error} retry={() => void answer.refetch()} />}
      {valid && answer.isFetching && (
        <div className="max-w-xl">
          {progress ? (
            <ProgressBar label="Ledgers read" done={progress.done} of={progress.of} unit="packs" />
          ) : (
            <Loading what="the report" />
          )}
          <Button weight="quiet" onClick={() => void queryClient.cancelQueries({ queryKey })}>
            Cancel
          </Button>
        </div>
      )}
      {valid && answer.isPending && !answer.isFetching && (
        <p className="py-2">
          <b className="text-amber">Cancelled.</b>{' '}
          <Button onClick={() => void answer.refetch()}>Make it after all</Button>
        </p>
      )}
      {answer.data && (
        <p className="text-sm text-faint">
          As of {whenWords(answer.data.asOf, reader)}.{' '}
          <button
            type="button"
            onClick={() => void answer.refetch()}
            className="inline-flex min-h-11 items-center font-bold text-accent underline md:min-h-6 print:hidden"
          >
            Make it anew
          </button>
        </p>
      )}
      {tables.map((table) => (
        <Table
          key={table.key}
          table={table}
          csv={`/api/reports/${table.key}.csv?${same}&decimals=${decimals}`}
        />
      ))}
    </>
  );
}

const PARTS = [
  { value: 'all', label: 'everything' },
  { value: 'storage', label: 'storage' },
  { value: 'handling', label: 'how packs are handled' },
  { value: 'incidents', label: 'incidents and holds' },
  { value: 'end-of-life', label: 'end of life' },
] as const satisfies readonly { value: ReportPart | 'all'; label: string }[];

/** The part an address names; everything, where it names none. */
function partOf(named: string | null): ReportPart | 'all' {
  return PARTS.find(({ value }) => value === named)?.value ?? 'all';
}

function Table({ table, csv }: { table: ReportTable; csv: string }) {
  const { title, columns, rows } = table;
  const figures = columns.map((_column, i) => rows.some((row) => typeof row[i] === 'number'));
  return (
    <section aria-label={title} className="mt-6">
      <h2 className="flex items-baseline justify-between gap-4 border-b-2 border-ink pb-1">
        <span>
          {title} <span className="font-normal text-faint">{rows.length}</span>
        </span>
        <a
          href={csv}
          className="inline-flex min-h-6 items-center text-sm font-bold text-accent underline print:hidden"
        >
          CSV
        </a>
      </h2>
      {rows.length === 0 ? (
        <p className="py-2 text-faint">Nothing in this period.</p>
      ) : (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`${title}, the table`}>
          <table className="w-full text-sm">
            <thead>
              <tr className="border-b border-rule">
                {columns.map(({ title: name, unit }, i) => (
                  <th
                    key={name}
                    scope="col"
                    className={`py-1 pr-4 font-bold ${figures[i] ? 'text-right' : 'text-left'}`}
                  >
                    {name}
                    {unit && <span className="font-normal text-faint"> {unit}</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, at) => (
                <tr key={at} className="border-b border-line align-baseline">
                  {row.map((cell, i) => (
                    <td key={i} className={`py-1 pr-4 ${figures[i] ? 'text-right font-mono' : ''}`}>
                      {typeof cell === 'number' ? cell.toFixed(columns[i]!.digits) : cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
