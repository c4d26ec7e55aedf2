import { useState } from 'react';
import { useReader } from '../app/clock';
import { dayOf, startOfDay } from '../app/days';
import { currentTime } from '../app/clock';
import { useMay } from '../domain/Person';
import { Choice } from '../kit/fields';
import { MomentField } from '../domain/moments/MomentField';

const LISTS = [
  {
    name: 'packs',
    title: 'Packs',
    says: 'Every pack as it stands now: label facts, place, verdict, charge, clock.',
  },
  { name: 'holds', title: 'Holds', says: 'Every pack out of use, since when and why.' },
  { name: 'readings', title: 'Readings', says: 'One line a reading, cell by cell.' },
  { name: 'charges', title: 'Charges', says: 'One line a job on a charger.' },
  { name: 'flights', title: 'Flights', says: 'One line a flight, with pilot, craft and what it used.' },
  { name: 'inspections', title: 'Inspections', says: 'One line an inspection, with what was not in order.' },
  { name: 'incidents', title: 'Incidents', says: 'One line an incident, with its packs and cause.' },
] as const;

const LINK =
  'inline-flex min-h-11 items-center font-bold text-accent underline underline-offset-3 md:min-h-8';

/** Takes the register out: lists for a spreadsheet, and the whole of it for another Malle. */
export function ExportPage() {
  const { zone } = useReader();
  const [decimals, setDecimals] = useState<'point' | 'comma'>('point');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState(() => dayOf(currentTime()));
  const mayAll = useMay('register.export');
  const understood = [from, to].every((day) => day === '' || Number.isFinite(startOfDay(day)));
  const valid = understood && !(startOfDay(from) >= startOfDay(to, 1));
  const address = (name: string, ending: 'csv' | 'pdf') => {
    const period =
      name === 'packs' || name === 'holds'
        ? {}
        : {
            ...(from ? { from: String(startOfDay(from)) } : {}),
            ...(to ? { to: String(startOfDay(to, 1)) } : {}),
          };
    return `/api/exports/${name}.${ending}?${new URLSearchParams({ zone, decimals, ...period }).toString()}`;
  };
  return (
    <div className="grid max-w-3xl gap-8">
      <section aria-labelledby="lists">
        <h2 id="lists" className="border-b-2 border-ink pb-1">
          Lists
        </h2>
        <div className="my-3 flex flex-wrap items-end gap-4">
          <MomentField
            label="From"
            wanted="day"
            lean="past"
            value={from}
            onChange={setFrom}
            hint="Empty: from the beginning."
          />
          <MomentField
            label="To, inclusive"
            wanted="day"
            lean="past"
            value={to}
            onChange={setTo}
            error={startOfDay(from) >= startOfDay(to, 1) ? 'The period ends before it begins.' : undefined}
            hint="Of what happened; packs and holds stand as they are now."
          />
          <Choice
            label="Decimals"
            options={[
              { value: 'point', label: '1.5' },
              { value: 'comma', label: '1,5' },
            ]}
            value={decimals}
            onChange={setDecimals}
          />
        </div>
        <ul>
          {LISTS.map(({ name, title, says }) => (
            <li key={name} className="ruled flex flex-wrap items-baseline justify-between gap-x-4 py-1">
              <span>
                <b>{title}</b> <span className="text-sm text-faint">{says}</span>
              </span>
              <span className="flex gap-4">
                <a
                  href={valid ? address(name, 'csv') : undefined}
                  aria-disabled={!valid}
                  download
                  className={LINK}
                >
                  {title} as CSV
                </a>
                <a
                  href={valid ? address(name, 'pdf') : undefined}
                  aria-disabled={!valid}
                  target="_blank"
                  rel="noreferrer"
                  className={LINK}
                >
                  on paper
                </a>
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-2 text-sm text-faint">
          A pack’s own page has its whole life as CSV and on paper. Reports have theirs.
        </p>
      </section>
      <section aria-labelledby="whole">
        <h2 id="whole" className="border-b-2 border-ink pb-1">
          The whole register
        </h2>
        <p className="my-2">
          One archive with everything: packs and their ledgers, tables, incidents with their logs, rounds,
          consignments, house rules, photos. Read into an empty register elsewhere, every verdict and every
          seal is the same. Passwords and keys are not in it.
        </p>
        {mayAll ? (
          <a href="/api/archive" download className={LINK}>
            Save the archive
          </a>
        ) : (
          <p className="text-faint">A custodian takes the whole register out.</p>
        )}
      </section>
    </div>
  );
}
