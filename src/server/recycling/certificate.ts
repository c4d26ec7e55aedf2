import type { Column, Content } from 'pdfmake/interfaces';
import type { ConsignmentDetails, PersonAnswer, PlaceAnswer, RecyclerAnswer } from '../../contract';
import { CHEMISTRY } from '../../core/chemistry';
import { cycles } from '../../core/health';
import type { PersonId, PlaceId } from '../../core/measure';
import { cellsLabel } from '../../core/pack';
import type { PackFacts } from '../../core/pack';
import { effectiveRecords, fold } from '../../core/record';
import type { PackRecord } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { INCIDENT_WORDS, capacity, disposalLine, ruleTitle } from '../../core/wording';
import { PAPER, QUIET, heading, paperDay, paperTime, tableOf } from '../platform/paper';
import { printed } from '../platform/pdf';

export interface Certified {
  readonly tag: string;
  readonly typeName: string;
  readonly facts: PackFacts;
  readonly records: readonly PackRecord[];
  readonly rules: HouseRules;
  readonly headHash: string;
  readonly people: readonly PersonAnswer[];
  readonly places: readonly PlaceAnswer[];
  readonly consignment: ConsignmentDetails | null;
  readonly recycler: RecyclerAnswer | null;
  readonly zone: string;
}

/** A page has room for so many lines of what happened; the ledger has all of it. */
const MOST_EVENTS = 22;

/** A pack's life on one page, from receipt to recycler. */
export function certificatePdf(pack: Certified): Promise<Buffer> {
  const { tag, typeName, facts, records, zone, consignment, recycler, headHash } = pack;
  const history = fold(facts, records);
  const name = (id: PersonId | null) => pack.people.find((one) => one.id === id)?.name ?? '';
  const place = (id: PlaceId) => pack.places.find((one) => one.id === id)?.name ?? '';
  const day = (at: number | null) => paperDay(at, zone);
  const events = lifeLines(pack, name, place);
  const shown = events.slice(-MOST_EVENTS);
  const content: Content[] = [
    heading('Life of a battery pack', tag),
    {
      columns: [
        factLines('*', [
          ['Type', typeName],
          ['Cells', `${CHEMISTRY[facts.chemistry].name} ${cellsLabel(facts)}`],
          ['Capacity', capacity(facts.capacityMah)],
        ]),
        factLines('auto', [
          ['Received', day(history.receivedAt)],
          ['Retired', day(history.life.retiredAt)],
          ['Recycled', history.life.state === 'recycled' ? day(history.life.since) : 'not yet'],
        ]),
        factLines('auto', [
          ['Charges', String(history.charges.length)],
          ['Uses', String(history.flights.length)],
          ['Full cycles', String(Math.round(cycles(history, pack.rules.flight.maxDodPercent).count))],
        ]),
      ],
      columnGap: 16,
      margin: [0, 0, 0, 8],
    },
    tableOf(
      ['When', 'What', 'By'],
      shown.map(({ when, what, by }) => [when, what, by]),
      [104, '*', 90],
      3,
    ),
    ...(shown.length < events.length
      ? [
          {
            text: `${events.length - shown.length} earlier events are in the ledger.`,
            fontSize: 8,
            margin: [0, 4, 0, 0],
          } satisfies Content,
        ]
      : []),
    ...(consignment && recycler
      ? [
          {
            text: `Handed to ${recycler.name}${consignment.closedAt === null ? '' : `, ${day(consignment.closedAt)}`}${
              consignment.receiptNumber ? `, receipt ${consignment.receiptNumber}` : ''
            }.`,
            bold: true,
            margin: [0, 10, 0, 0],
          } satisfies Content,
        ]
      : []),
    {
      text: `${records.length} records; the last one’s link is ${headHash}`,
      font: 'Mono',
      fontSize: 7,
      margin: [0, 8, 0, 0],
    },
  ];
  return printed({ ...PAPER, info: { title: `Life of ${tag}` }, content });
}

function factLines(width: string, lines: readonly (readonly [string, string])[]): Column {
  return {
    width,
    stack: lines.map(([label, value]) => ({
      text: [
        { text: `${label}  `, color: QUIET },
        { text: value, bold: true },
      ],
    })),
  };
}

/** What mattered in its life: incidents, decisions and the steps to its end, in order. */
function lifeLines(
  { records, zone }: Certified,
  name: (id: PersonId | null) => string,
  place: (id: PlaceId) => string,
): readonly { when: string; what: string; by: string }[] {
  return effectiveRecords(records).flatMap((record) => {
    const line = (what: string) => [{ when: paperTime(record.at, zone), what, by: name(record.by) }];
    switch (record.kind) {
      case 'received':
        return line(record.payload.source ? `Received: ${record.payload.source}` : 'Received');
      case 'incident':
        return line(`Incident: ${INCIDENT_WORDS[record.payload.kind].name.toLowerCase()}`);
      case 'watch-ended':
        return line(`Watch ended early: ${record.payload.reason}`);
      case 'decision': {
        const { what, reason } = record.payload;
        const because = what.to === 'retire' ? what.because.map(ruleTitle).join(', ') : '';
        const done = { hold: 'Put on hold', release: 'Released', retire: 'Retired' }[what.to];
        return line(`${done}${because && ` (${because})`}: ${reason}`);
      }
      case 'confirmation':
        return line('Second name under the retirement');
      case 'recovery':
        return record.payload.step === 'ended' ? line('Supervised recovery ended') : [];
      case 'disposal':
        return line(disposalLine(record.payload, place));
      case 'inspection':
        return record.payload.items.some(({ answer }) => answer === 'fail')
          ? line('Inspection with a fault')
          : [];
      case 'reading':
      case 'resistance':
      case 'charge':
      case 'flight':
      case 'moved':
      case 'note':
      case 'inspection-asked':
        return [];
      default:
        return record satisfies never;
    }
  });
}
