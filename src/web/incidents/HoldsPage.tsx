import { Link, useSearchParams } from 'react-router';
import type { TodayItem } from '../../contract';
import type { RuleId } from '../../core/assess';
import { RULE_TEXTS, sentence, span, STEP_WORDS, whenWords } from '../../core/wording';
import { useMay } from '../domain/Person';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { IncidentTabs } from '../domain/lifecycle/IncidentTabs';
import { NeedsList } from '../domain/lifecycle/NeedsList';
import { WatchTimer } from '../domain/lifecycle/WatchTimer';
import { useEndOfLife, useRegister } from '../app/queries';
import { ButtonLink } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Empty, Loading } from '../kit/Message';
import { VerdictMark } from '../kit/VerdictMark';
import { Hint } from '../kit/Hint';

/** Every pack out of use, by what put it there, the oldest first, with what would let it go on. */
export default function HoldsPage() {
  const answer = useEndOfLife();
  const reader = useReader();
  const register = useRegister().data;
  const [query, setQuery] = useSearchParams();
  const words = (query.get('q') ?? '').toLowerCase().split(/\s+/).filter(Boolean);
  const names = {
    type: (id: string) => register?.types.find((one) => one.id === id)?.name,
    place: (id: string | null) => register?.places.find((one) => one.id === id)?.name,
  };
  if (answer.isLoadingError) return <Failure error={answer.error} retry={() => void answer.refetch()} />;
  if (answer.isPending) return <Loading what="the holds" />;
  const items = answer.data.waiting.filter((item) => {
    const told = [
      item.tag,
      names.type(item.typeId),
      names.place(item.placeId),
      item.finding && sentence(item.finding, reader),
    ]
      .join(' ')
      .toLowerCase();
    return words.every((word) => told.includes(word));
  });
  const groups = byCause(items);
  return (
    <>
      <title>Holds · Malle</title>
      <IncidentTabs now="holds" />
      {answer.data.waiting.length === 0 && <Empty title="No pack is out of use." />}
      {answer.data.waiting.length > 0 && (
        <div className="mt-3 flex flex-wrap items-end gap-4 print:hidden">
          <TextField
            className="md:w-72"
            label="Filter"
            type="search"
            value={query.get('q') ?? ''}
            onChange={({ target }) => setQuery(target.value ? { q: target.value } : {}, { replace: true })}
            placeholder="tag, type, place, what was found"
          />
          <p className="pb-1.5 text-faint">
            {items.length} of {answer.data.waiting.length}
          </p>
        </div>
      )}
      {groups.map(([rule, items]) => (
        <section key={rule} aria-label={RULE_TEXTS[rule].title} className="mt-6">
          <h2 className="border-b-2 border-ink pb-1">
            {RULE_TEXTS[rule].title} <span className="font-normal text-faint">{items.length}</span>
          </h2>
          <ul>
            {items.map((item) => (
              <Row key={item.id} item={item} />
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function Row({ item }: { item: TodayItem }) {
  const mayDecide = useMay('record.decision');
  const reader = useReader();
  const { id, tag, verdict, finding, outSince, watchFrom, watchUntil, needs, next } = item;
  return (
    <li className="ruled grid gap-x-6 gap-y-1 py-2 md:grid-cols-[9rem_minmax(0,1fr)_minmax(0,21rem)_13rem] md:items-start">
      <span>
        <Link
          to={`/packs/${id}`}
          className="inline-flex min-h-11 items-center font-mono text-lg font-bold text-accent underline-offset-3 hover:underline md:min-h-7"
        >
          {tag}
        </Link>
        <span className="block text-sm">
          <VerdictMark verdict={verdict} />
        </span>
        {outSince !== null && (
          <span className="block text-sm text-faint">
            <Hint says={`since ${whenWords(outSince, reader)}`}>
              for {span(Math.max(0, reader.now - outSince))}
            </Hint>
          </span>
        )}
      </span>
      <span className="text-sm">
        {finding && sentence(finding, reader, true)}
        {watchFrom !== null && watchUntil !== null && watchUntil > reader.now && (
          <span className="mt-1 block">
            <WatchTimer from={watchFrom} until={watchUntil} />
          </span>
        )}
      </span>
      <NeedsList needs={needs} />
      <span className="flex justify-end gap-2">
        <ButtonLink to={`/packs/${id}/decide`}>{mayDecide ? 'Decide' : 'For and against'}</ButtonLink>
        {next && next.do !== 'decide' && next.do !== 'set-apart' && next.do !== 'keep-off' && (
          <ButtonLink to={`/packs/${id}`} state={{ step: next.do }} weight="main">
            {STEP_WORDS[next.do]}
          </ButtonLink>
        )}
      </span>
    </li>
  );
}

/** The cause that holds most packs first; within one the oldest. */
function byCause(items: readonly TodayItem[]): readonly (readonly [RuleId, readonly TodayItem[]])[] {
  const groups = new Map<RuleId, TodayItem[]>();
  for (const item of items) {
    if (!item.finding) continue;
    const { rule } = item.finding;
    groups.set(rule, [...(groups.get(rule) ?? []), item]);
  }
  return [...groups].sort(([, a], [, b]) => b.length - a.length);
}
