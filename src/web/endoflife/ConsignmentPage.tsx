import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { v7 as newId } from 'uuid';
import type {
  BoardPack,
  ConsignmentDetails,
  ConsignmentPack,
  RecyclerAnswer,
  RegisterAnswer,
} from '../../contract';
import { CHEMISTRY } from '../../core/chemistry';
import { totalOf, totalsByChemistry } from '../../core/lifecycle';
import type { Total } from '../../core/lifecycle';
import type { ConsignmentId, PackId } from '../../core/measure';
import { dayWords, plural } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { useMay } from '../domain/Person';
import { KEYS, useEndOfLife, useRegister } from '../app/queries';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Loading } from '../kit/Message';
import { isStale } from './Consignments';
import { Closed, HandOver } from './HandOver';
import { useSend } from './useSend';
import { useForm } from 'react-hook-form';

/** One consignment: what is on it, what the recycler takes, its papers, its hand-over. */
export default function ConsignmentPage() {
  const id = useParams().id as ConsignmentId;
  const consignment = useQuery({
    queryKey: KEYS.consignment(id),
    queryFn: () => ask('GET /consignments/:id', { params: { id } }),
  });
  const register = useRegister();
  const board = useEndOfLife();
  if (consignment.isLoadingError)
    return <Failure error={consignment.error} retry={() => void consignment.refetch()} />;
  if (consignment.isPending || register.isPending || board.isPending)
    return <Loading what="the consignment" />;
  if (register.isLoadingError || board.isLoadingError)
    return <Failure error={register.error ?? board.error!} retry={() => void board.refetch()} />;
  const recycler = register.data.recyclers.find((one) => one.id === consignment.data.recyclerId);
  if (!recycler) return <Loading what="its recycler" />;
  return (
    <Loaded
      key={id}
      consignment={consignment.data}
      recycler={recycler}
      register={register.data}
      ready={board.data.board.filter(({ next }) => next?.do === 'consign')}
    />
  );
}

function Loaded({
  consignment,
  recycler,
  register,
  ready,
}: {
  consignment: ConsignmentDetails;
  recycler: RecyclerAnswer;
  register: RegisterAnswer;
  ready: readonly BoardPack[];
}) {
  const mayConsign = useMay('consign');
  const open = consignment.closedAt === null;
  const sound = consignment.lines.filter(({ apart }) => !apart);
  const harmed = consignment.lines.filter(({ apart }) => apart);
  return (
    <>
      <title>{`Consignment to ${recycler.name} · Malle`}</title>
      <p className="text-sm">
        <Link to="/end-of-life/consignments" className="inline-block min-h-6 text-accent underline">
          Consignments
        </Link>
      </p>
      <h1>
        To {recycler.name}{' '}
        <span className={`font-normal ${open ? 'text-amber' : 'text-faint'}`}>
          {open ? 'open' : 'handed over'}
        </span>
      </h1>
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid content-start gap-6">
          <Lines
            title="Discharged, contacts covered"
            lines={sound}
            consignment={consignment}
            open={open && mayConsign}
          />
          {harmed.length > 0 && (
            <Lines
              title="Damaged, packed apart"
              lines={harmed}
              consignment={consignment}
              open={open && mayConsign}
              danger
            />
          )}
          <Totals lines={consignment.lines} />
          {open && mayConsign && <Ready consignment={consignment} ready={ready} recycler={recycler} />}
        </div>
        <div className="grid content-start gap-6">
          <Taker recycler={recycler} confirmDays={register.rules.rules.endOfLife.confirmDays} />
          <Papers consignment={consignment} />
          {open ? mayConsign && <HandOver consignment={consignment} /> : <Closed consignment={consignment} />}
        </div>
      </div>
    </>
  );
}

function Lines({
  title,
  lines,
  consignment,
  open,
  danger = false,
}: {
  title: string;
  lines: readonly ConsignmentPack[];
  consignment: ConsignmentDetails;
  open: boolean;
  danger?: boolean;
}) {
  const [off, setOff] = useState<PackId | null>(null);
  return (
    <section aria-label={title}>
      <h2 className={`border-b-2 border-ink pb-1 ${danger ? 'text-red' : ''}`}>
        {title} <span className="font-normal text-faint">{lines.length}</span>
      </h2>
      {lines.length === 0 && <p className="py-2 text-faint">Nothing yet.</p>}
      <ul>
        {lines.map((line) => (
          <li key={line.packId} className="ruled py-1">
            <span className="flex flex-wrap items-center gap-x-4">
              <Link
                to={`/packs/${line.packId}`}
                className="inline-flex min-h-11 w-20 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-7"
              >
                {line.tag}
              </Link>
              <span className="min-w-0 flex-1 basis-40 text-sm">{line.typeName}</span>
              <span className="w-20 text-sm">{CHEMISTRY[line.chemistry].name}</span>
              <span className="w-32 text-right font-mono text-sm">
                {(line.massG / 1000).toFixed(2)} kg {line.wh.toFixed(0)} Wh
              </span>
              {open && (
                <Button
                  weight="quiet"
                  onClick={() => setOff(line.packId)}
                  aria-label={`Take ${line.tag} off`}
                >
                  Take off
                </Button>
              )}
            </span>
            {off === line.packId && (
              <TakeOff consignment={consignment} packId={line.packId} onClose={() => setOff(null)} />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function TakeOff({
  consignment,
  packId,
  onClose,
}: {
  consignment: ConsignmentDetails;
  packId: PackId;
  onClose: () => void;
}) {
  const { send, busy, problem, rest } = useSend(consignment.id);
  const { register, handleSubmit } = useForm({ defaultValues: { reason: '' } });
  const takeOff = handleSubmit(async ({ reason }) => {
    if (await send('packs', { add: [], remove: [{ packId, recordId: newId() }], reason }, 'Taken off.'))
      onClose();
  });
  return (
    <form
      onSubmit={(event) => void takeOff(event)}
      noValidate
      className="flex flex-wrap items-end gap-2 py-2"
    >
      <div className="min-w-56 flex-1">
        <TextField
          label="Why it comes off"
          autoFocus
          error={problem('reason') ?? rest ?? undefined}
          {...register('reason')}
        />
      </div>
      <Button type="submit" disabled={busy}>
        Take it off
      </Button>
      <Button weight="quiet" onClick={onClose}>
        Leave it on
      </Button>
    </form>
  );
}

function Totals({ lines }: { lines: readonly ConsignmentPack[] }) {
  if (lines.length === 0) return null;
  const row = (name: string, { packs, massG, wh }: Total, bold = false) => (
    <tr key={name} className={`border-b border-line ${bold ? 'font-bold' : ''}`}>
      <th scope="row" className={`py-1 text-left ${bold ? '' : 'font-normal'}`}>
        {name}
      </th>
      <td className="text-right font-mono">{packs}</td>
      <td className="text-right font-mono">{(massG / 1000).toFixed(2)}</td>
      <td className="text-right font-mono">{wh.toFixed(0)}</td>
    </tr>
  );
  return (
    <table className="text-sm" aria-label="Totals">
      <thead>
        <tr className="border-b-2 border-ink">
          {['Totals', 'packs', 'kg', 'Wh'].map((title, i) => (
            <th key={title} scope="col" className={i === 0 ? 'py-1 text-left' : 'text-right'}>
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {totalsByChemistry(lines).map((sum) =>
          row(`${CHEMISTRY[sum.chemistry].name}${sum.apart ? ', damaged' : ''}`, sum),
        )}
        {row('All', totalOf(lines), true)}
      </tbody>
    </table>
  );
}

/** What lies ready in the containers, to be put on the list. */
function Ready({
  consignment,
  ready,
  recycler,
}: {
  consignment: ConsignmentDetails;
  ready: readonly BoardPack[];
  recycler: RecyclerAnswer;
}) {
  const { send, busy, rest } = useSend(consignment.id);
  const fits = ready.filter(
    ({ chemistry, apart, charged }) =>
      recycler.chemistries.includes(chemistry) &&
      (!apart || recycler.takesDamaged) &&
      (!charged || recycler.takesCharged),
  );
  const others = ready.filter((pack) => !fits.includes(pack));
  const add = (packs: readonly BoardPack[]) =>
    send(
      'packs',
      { add: packs.map(({ id }) => ({ packId: id, recordId: newId() })), remove: [], reason: null },
      `${plural(packs.length, 'pack')} put on the list.`,
    );
  return (
    <section aria-label="Ready">
      <h2 className="border-b-2 border-ink pb-1">
        Ready in the containers <span className="font-normal text-faint">{ready.length}</span>
      </h2>
      {ready.length === 0 && <p className="py-2 text-faint">Nothing lies ready.</p>}
      <ul>
        {fits.map((pack) => (
          <li key={pack.id} className="ruled flex items-center gap-4 py-1">
            <b className="w-20 font-mono">{pack.tag}</b>
            <span className="flex-1 text-sm">
              {CHEMISTRY[pack.chemistry].name}
              {pack.apart && <b className="text-red"> · damaged</b>}
              {pack.charged && <b className="text-amber"> · at storage charge</b>}
            </span>
            <Button
              onClick={() => void add([pack])}
              disabled={busy}
              aria-label={`Put ${pack.tag} on the list`}
            >
              Put on
            </Button>
          </li>
        ))}
        {others.map((pack) => (
          <li key={pack.id} className="ruled flex items-center gap-4 py-1 text-faint">
            <b className="w-20 font-mono">{pack.tag}</b>
            <span className="flex-1 text-sm">
              {recycler.name} takes{' '}
              {pack.apart
                ? 'no damaged packs'
                : pack.charged && recycler.chemistries.includes(pack.chemistry)
                  ? 'discharged packs only'
                  : `no ${CHEMISTRY[pack.chemistry].name}`}
              .
            </span>
          </li>
        ))}
      </ul>
      {rest && (
        <p role="alert" className="py-1 font-bold text-red">
          {rest}
        </p>
      )}
      {fits.length > 1 && (
        <Button weight="main" className="mt-2" onClick={() => void add(fits)} disabled={busy}>
          Put all {fits.length} on
        </Button>
      )}
    </section>
  );
}

/** What the recycler takes, and whether that was asked lately. */
function Taker({ recycler, confirmDays }: { recycler: RecyclerAnswer; confirmDays: number }) {
  const reader = useReader();
  const { chemistries, takesDamaged, limitKg, contact, confirmedAt, id } = recycler;
  const stale = isStale(recycler, confirmDays, reader.now);
  return (
    <section aria-label="The recycler">
      <h2 className="border-b-2 border-ink pb-1">The recycler</h2>
      <p className="py-1 text-sm">
        Takes {chemistries.map((chemistry) => CHEMISTRY[chemistry].name).join(', ')};{' '}
        {takesDamaged ? 'damaged packs too' : <b className="text-red">no damaged packs</b>}
        {limitKg !== null && `; up to ${limitKg} kg at one visit`}.
        {contact && <span className="block">{contact}</span>}
      </p>
      <p className={`text-sm ${stale ? 'border-l-4 border-amber bg-wash-amber px-2 py-1' : 'text-faint'}`}>
        {confirmedAt === null ? 'Nobody has asked them yet.' : `Last asked ${dayWords(confirmedAt, reader)}.`}
        {stale && (
          <>
            {' '}
            <b>Ring them before you go.</b>{' '}
            <Link to={`/settings/recyclers/${id}`} className="font-bold text-accent underline">
              Note what they say
            </Link>
          </>
        )}
      </p>
    </section>
  );
}

function Papers({ consignment: { id, lines } }: { consignment: ConsignmentDetails }) {
  const { zone } = useReader();
  if (lines.length === 0) return null;
  const address = (file: string, query = '') => `/api/consignments/${id}/manifest.${file}${query}`;
  const link = 'inline-flex min-h-11 items-center font-bold text-accent underline md:min-h-7';
  return (
    <section aria-label="Papers">
      <h2 className="border-b-2 border-ink pb-1">Papers</h2>
      <p className="flex flex-wrap gap-x-5 py-1">
        <a
          href={address('pdf', `?zone=${encodeURIComponent(zone)}`)}
          target="_blank"
          rel="noreferrer"
          className={link}
        >
          Manifest to print
        </a>
        <a href={address('csv')} className={link}>
          CSV, 1.5
        </a>
        <a href={address('csv', '?decimals=comma')} className={link}>
          CSV, 1,5
        </a>
        <a href={address('json')} className={link}>
          JSON
        </a>
      </p>
    </section>
  );
}
