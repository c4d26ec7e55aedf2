import type { Column, Content } from 'pdfmake/interfaces';
import type { ConsignmentDetails, PersonAnswer, PlaceAnswer, RecyclerAnswer } from '../../contract';
import { CHEMISTRY } from '../../core/chemistry';
import { cycles } from '../../core/health';
import { cellsLabel } from '../../core/pack';
import type { PackFacts } from '../../core/pack';
import { effectiveRecords, fold } from '../../core/record';
import type { EffectiveRecord, PackRecord, RecordKind } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { capacity, KIND_WORDS, recordLine, ruleTitle } from '../../core/wording';
import type { CraftId } from '../../core/measure';
import type { Names } from '../../core/wording';
import { PAPER, QUIET, heading, paperDay, paperTime, tableOf } from '../platform/paper';
import type { PaperDocument } from '../platform/pdf';

export interface Certified {
  readonly tag: string;
  readonly typeName: string;
  readonly facts: PackFacts;
  readonly records: readonly PackRecord[];
  readonly rules: HouseRules;
  readonly headHash: string;
  readonly people: readonly PersonAnswer[];
  readonly craft: readonly { readonly id: CraftId; readonly name: string }[];
  readonly places: readonly PlaceAnswer[];
  readonly consignment: ConsignmentDetails | null;
  readonly recycler: RecyclerAnswer | null;
  readonly zone: string;
}

/** A page has room for so many lines of what happened; the ledger has all of it. */
const MOST_EVENTS = 22;

/** A pack's life on one page, from receipt to recycler. */
export function lifeOnOnePage(pack: Certified): PaperDocument {
  const { tag, typeName, facts, records, zone, consignment, recycler, headHash } = pack;
  const history = fold(facts, records);
  const day = (at: number | null) => paperDay(at, zone);
  const events = lifeLines(pack, {
    person: (id) => pack.people.find((one) => one.id === id)?.name ?? '',
    craft: (id) => pack.craft.find((one) => one.id === id)?.name ?? '',
    place: (id) => pack.places.find((one) => one.id === id)?.name ?? '',
    day,
  });
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
  return { ...PAPER, info: { title: `Life of ${tag}` }, content };
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

/** What mattered in its life: incidents, decisions and the steps to its end, in order, told as everywhere. */
function lifeLines(
  { records, zone }: Certified,
  names: Names,
): readonly { when: string; what: string; by: string }[] {
  return effectiveRecords(records)
    .filter(matters)
    .map((record) => {
      const { words } = recordLine(record, names);
      const what = TELLS_ITSELF.has(record.kind) ? words : `${KIND_WORDS[record.kind]}: ${words}`;
      return {
        when: paperTime(record.at, zone),
        what: `${what}${because(record)}`,
        by: names.person(record.by),
      };
    });
}

/** Kinds whose words say themselves what they are. */
const TELLS_ITSELF: ReadonlySet<RecordKind> = new Set(['decision', 'disposal']);

function because(record: EffectiveRecord): string {
  if (record.kind !== 'decision' || record.payload.what.to !== 'retire') return '';
  const rules = record.payload.what.because.map(ruleTitle).join(', ');
  return rules && ` (${rules})`;
}

function matters(record: EffectiveRecord): boolean {
  switch (record.kind) {
    case 'received':
    case 'incident':
    case 'watch-ended':
    case 'decision':
    case 'confirmation':
    case 'disposal':
      return true;
    case 'recovery':
      return record.payload.step === 'ended';
    case 'inspection':
      return record.payload.items.some(({ answer }) => answer === 'fail');
    case 'reading':
    case 'resistance':
    case 'charge':
    case 'flight':
    case 'moved':
    case 'taken-out':
    case 'returned':
    case 'memory':
    case 'note':
    case 'inspection-asked':
      return false;
    default:
      return record satisfies never;
  }
}
