import { Link } from 'react-router';
import { DAY_MS } from '../../../core/measure';
import type { HouseRules } from '../../../core/rules';
import { dayWords, dueWords, STEP_WORDS, STORAGE_WORDS, volts, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { AllowanceBar } from '../../kit/AllowanceBar';
import { CellLadder } from '../../kit/CellLadder';
import { VerdictMark } from '../../kit/VerdictMark';
import type { ColumnKey, ListedPack } from './listing';

const TAG = 'font-mono font-bold text-accent underline-offset-3 hover:underline';

/** One field of one pack in the table. */
export function PackCell({
  pack,
  column,
  rules,
}: {
  pack: ListedPack;
  column: ColumnKey;
  rules: HouseRules;
}) {
  const reader = useReader();
  const { row } = pack;
  switch (column) {
    case 'tag':
      return (
        <Link to={`/packs/${row.id}`} className={`inline-flex min-h-8 items-center ${TAG}`}>
          {row.tag}
        </Link>
      );
    case 'verdict':
      return (
        <span className="flex items-baseline gap-1.5">
          <VerdictMark verdict={row.verdict} charged={row.charged} />
          {row.mayFly !== 'no' && (
            <>
              <span aria-hidden="true">·</span>
              <Holds row={row} />
            </>
          )}
        </span>
      );
    case 'cells':
      return pack.cells;
    case 'type':
      return pack.typeName;
    case 'ladder':
      return pack.chemistry && row.cellsMv ? (
        <CellLadder chemistry={pack.chemistry} cellsMv={row.cellsMv} rules={rules} />
      ) : null;
    case 'lowest':
      return pack.lowestMv === null ? (
        <Missing />
      ) : (
        <span className="font-mono">
          {row.basis === 'read' ? '' : 'about '}
          {volts(pack.lowestMv)} V
        </span>
      );
    case 'spread':
      // Carried volts say nothing of how far the cells lie apart.
      return pack.spreadMv === null || row.basis !== 'read' ? null : (
        <span
          className={`font-mono ${pack.spreadMv > rules.spread.toleranceMv ? 'font-bold text-amber' : ''}`}
        >
          {pack.spreadMv} mV
        </span>
      );
    case 'charge':
      return <Holds row={row} />;
    case 'due':
      return <PackClock pack={pack} />;
    case 'next':
      return row.next && <NextStepCell next={row.next} />;
    case 'place':
      // What somebody has with them lies nowhere.
      return [pack.place, pack.holder].filter(Boolean).join(', ');
    case 'holder':
      return pack.holder;
    case 'read':
      return row.readAt === null ? <Missing /> : whenWords(row.readAt, reader);
    case 'owner':
      return row.owner;
    default:
      return column satisfies never;
  }
}

/** What is not due within the day stands back. */
function NextStepCell({ next }: { next: NonNullable<ListedPack['row']['next']> }) {
  const reader = useReader();
  const { do: step, dueAt } = next;
  const later = dueAt !== null && dueAt - reader.now > DAY_MS;
  if (!later) return <b>{STEP_WORDS[step]}</b>;
  const routine = step === 're-read' || step === 'cycle';
  return (
    <span className="text-faint">
      {routine ? `${STEP_WORDS[step]} by ${dayWords(dueAt, reader)}` : STEP_WORDS[step]}
    </span>
  );
}

function Missing() {
  return <span className="text-amber">not measured</span>;
}

function PackClock({ pack: { row } }: { pack: ListedPack }) {
  const reader = useReader();
  if (row.mayFly === 'no')
    return <span className="text-faint">{STORAGE_WORDS[row.storage]}, out of use</span>;
  if (row.since === null || row.dueAt === null || row.allowanceHours === null) {
    return <span className="text-faint">{STORAGE_WORDS[row.storage]}</span>;
  }
  return (
    <span className="flex items-center gap-2">
      <AllowanceBar since={row.since} allowanceHours={row.allowanceHours} now={reader.now} short />
      <span className={row.dueAt <= reader.now ? 'font-bold text-red' : ''}>
        {row.storage}, {dueWords(row.dueAt, reader).replace(/ \(.*\)$/, '')}
      </span>
    </span>
  );
}

/** What a pack holds, and whether that is enough to fly: beside every verdict, since a fit pack may be nearly empty. */
function Holds({ row: { socPercent, charged, mayFly } }: Pick<ListedPack, 'row'>) {
  const percent = socPercent === null ? '' : `${Math.round(socPercent)} %`;
  if (mayFly === 'no') return <span className="text-faint">{percent}</span>;
  if (charged === 'charged') return <b className="text-leaf">{percent} charged</b>;
  return (
    <span className="text-faint">{charged === 'unknown' ? 'not known' : `${percent}, charge first`}</span>
  );
}

/** One pack on a phone: two lines, the whole of them a link. */
export function PackLine({ pack, rules }: { pack: ListedPack; rules: HouseRules }) {
  const { row } = pack;
  return (
    <Link to={`/packs/${row.id}`} className="grid h-full content-center gap-1">
      <span className="flex items-center gap-3">
        <span className={TAG}>{row.tag}</span>
        <VerdictMark verdict={row.verdict} charged={row.charged} />
        <span className="ml-auto text-sm">
          <PackClock pack={pack} />
        </span>
      </span>
      <span className="flex items-center gap-3 text-sm text-faint">
        {pack.chemistry && row.cellsMv && (
          <CellLadder chemistry={pack.chemistry} cellsMv={row.cellsMv} rules={rules} />
        )}
        <span className="truncate">
          <Holds row={row} />
          {' · '}
          {pack.cells}
          {pack.place && `, ${pack.place}`}
        </span>
      </span>
    </Link>
  );
}
