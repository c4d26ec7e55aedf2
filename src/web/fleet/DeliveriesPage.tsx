import { useQueries } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import type { PackDetails, PackRow, RegisterAnswer } from '../../contract';
import { arrivals } from '../../core/fleet';
import type { Arrival } from '../../core/fleet';
import { fold } from '../../core/record';
import { complaintSentence, dayWords, plural, volts } from '../../core/wording';
import { useReader } from '../app/clock';
import { dayOf } from '../app/days';
import { packQuery } from '../app/queries';
import { saveText } from '../app/saveText';
import { factsOf } from '../domain/packFacts';
import { Button } from '../kit/Button';
import { Empty, Loading, Notice } from '../kit/Message';
import { Scroll } from '../kit/Scroll';
import { csvOf } from './purchaseTable';

/** Packs that came together. */
interface Delivery {
  readonly id: string;
  readonly rows: readonly PackRow[];
}

/** What came bad from the box, delivery by delivery, as evidence for a claim. */
export function DeliveriesPage({ register, rows }: { register: RegisterAnswer; rows: readonly PackRow[] }) {
  const reader = useReader();
  const [search, setSearch] = useSearchParams();
  const deliveries = deliveriesOf(rows);
  const chosen = deliveries.find(({ id }) => id === search.get('delivery')) ?? deliveries[0] ?? null;
  if (!chosen)
    return (
      <Empty title="No delivery is in the register yet.">
        Packs that come together are received together, under Packs, Receive a delivery.
      </Empty>
    );
  const typeName = ({ typeId }: PackRow) => register.types.find(({ id }) => id === typeId)?.name ?? '';
  return (
    <div className="grid gap-8 lg:grid-cols-[18rem_minmax(0,1fr)]">
      <nav aria-label="Deliveries" className="print:hidden">
        <ul className="border-t-2 border-ink">
          {deliveries.map(({ id, rows: packs }) => (
            <li key={id} className="ruled">
              <button
                type="button"
                aria-current={id === chosen.id ? 'true' : undefined}
                onClick={() => setSearch({ delivery: id })}
                className="min-h-11 w-full px-1 py-1.5 text-left hover:bg-press aria-[current=true]:bg-press"
              >
                <b>{packs[0]!.receivedAt === null ? 'not dated' : dayWords(packs[0]!.receivedAt, reader)}</b>
                <span className="block text-sm text-faint">
                  {packs.length} × {typeName(packs[0]!)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </nav>
      <OneDelivery key={chosen.id} delivery={chosen} register={register} name={typeName(chosen.rows[0]!)} />
    </div>
  );
}

/** Packs received together, and packs of one type that were received one by one on the same day. */
function deliveriesOf(rows: readonly PackRow[]): readonly Delivery[] {
  const groups = new Map<string, PackRow[]>();
  for (const row of rows) {
    if (!row.deliveryId && row.receivedAt === null) continue;
    const key = row.deliveryId ?? `${row.typeId} ${dayOf(row.receivedAt!)}`;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups]
    .map(([id, packs]) => ({ id, rows: packs }))
    .filter(({ rows: packs }) => packs.length > 1 || packs[0]!.deliveryId !== null)
    .sort((a, b) => (b.rows[0]!.receivedAt ?? 0) - (a.rows[0]!.receivedAt ?? 0));
}

function OneDelivery({
  delivery,
  register,
  name,
}: {
  delivery: Delivery;
  register: RegisterAnswer;
  name: string;
}) {
  const reader = useReader();
  const answers = useQueries({ queries: delivery.rows.map(({ id }) => packQuery(id)) });
  if (answers.some(({ isLoadingError }) => isLoadingError))
    return <Notice title="The records of this delivery could not be read. Try again with a connection." />;
  const packs = answers.flatMap(({ data }) => data ?? []);
  if (packs.length < delivery.rows.length) return <Loading what="the delivery’s records" />;
  const lines = linesOf(packs, register);
  const bad = lines.filter(({ arrival }) => arrival.complaints.length > 0);
  const day = delivery.rows[0]!.receivedAt;
  return (
    <section aria-label="The delivery" className="min-w-0">
      <h2>
        {plural(packs.length, 'pack')} {name}
        {day !== null && `, received ${dayWords(day, reader)}`}
      </h2>
      <p className={bad.length > 0 ? 'py-2 text-lg font-bold text-red' : 'py-2 text-lg'}>
        {bad.length > 0
          ? `${bad.length} of ${packs.length} came bad from the box: ${bad.map(({ tag }) => tag).join(', ')}.`
          : 'Nothing that was measured in the first weeks speaks against any of them.'}
      </p>
      <Scroll label="What the packs were like when they came" className="w-full">
        <table className="w-full min-w-[44rem] text-sm">
          <thead>
            <tr className="border-b-2 border-ink text-left align-bottom">
              <th className="py-1 pr-3">Pack</th>
              <th className="px-2">First read</th>
              <th className="px-2">Cells, V</th>
              <th className="px-2 text-right">mΩ at 25 °C</th>
              <th className="px-2 text-right">Of its label</th>
              <th className="pl-2">What is wrong</th>
            </tr>
          </thead>
          <tbody>
            {lines.map(({ id, tag, arrival }) => (
              <tr key={id} className="ruled align-baseline">
                <td className="py-1.5 pr-3">
                  <Link to={`/packs/${id}`} className="font-mono font-bold text-accent underline">
                    {tag}
                  </Link>
                </td>
                <td className="px-2">
                  {arrival.read ? dayWords(arrival.read.at, reader) : 'not before use'}
                </td>
                <td className="px-2 font-mono">{arrival.read?.cellsMv.map(volts).join(' ')}</td>
                <td className="px-2 text-right font-mono">{arrival.milliohm?.toFixed(1)}</td>
                <td className="px-2 text-right font-mono">
                  {arrival.capacity &&
                    `${Math.round(arrival.capacity.percent)} ± ${Math.ceil(2 * arrival.capacity.error)} %`}
                </td>
                <td className="pl-2">
                  {arrival.complaints.map((complaint) => (
                    <p key={complaint.about}>{complaintSentence(complaint)}</p>
                  ))}
                  {arrival.complaints.length === 0 && (
                    <span className="text-faint">{nothingWrong(arrival)}</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      <p className="mt-4 flex flex-wrap gap-3 print:hidden">
        <Button onClick={() => saveText(deliveryCsv(lines), 'delivery.csv')}>Save as CSV</Button>
        <Button onClick={() => window.print()}>Print the evidence</Button>
      </p>
    </section>
  );
}

interface Line {
  readonly id: PackDetails['id'];
  readonly tag: string;
  readonly arrival: Arrival;
}

function linesOf(packs: readonly PackDetails[], register: RegisterAnswer): readonly Line[] {
  const histories = packs.map((pack) =>
    fold(
      factsOf(
        pack,
        register.types.find(({ id }) => id === pack.typeId)!,
        register,
      ),
      pack.records,
    ),
  );
  const seen = arrivals(histories, register.rules.rules);
  return packs
    .map(({ id, tag }, i) => ({ id, tag, arrival: seen[i]! }))
    .sort((a, b) => b.arrival.complaints.length - a.arrival.complaints.length || a.tag.localeCompare(b.tag));
}

function nothingWrong({ read, milliohm, capacity, lookedAt }: Arrival): string {
  const isKnown = read !== null || milliohm !== null || capacity !== null || lookedAt !== null;
  return isKnown ? 'nothing' : 'nobody looked: nothing can be claimed';
}

function deliveryCsv(lines: readonly Line[]): string {
  const day = (at: number) => new Date(at).toISOString().slice(0, 10);
  return csvOf(
    ['pack', 'received', 'first read', 'cells V', 'milliohm at 25 C', 'percent of label', 'what is wrong'],
    lines.map(({ tag, arrival: { receivedAt, read, milliohm, capacity, complaints } }) => [
      tag,
      receivedAt === null ? '' : day(receivedAt),
      read ? day(read.at) : '',
      read ? read.cellsMv.map(volts).join(' ') : '',
      milliohm?.toFixed(1) ?? '',
      capacity ? Math.round(capacity.percent) : '',
      complaints.map(complaintSentence).join(' '),
    ]),
  );
}
