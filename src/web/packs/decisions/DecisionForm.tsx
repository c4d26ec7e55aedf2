import type { FormEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import type { PackDetails } from '../../../contract';
import { answersTo, watchWanted } from '../../../core/admission';
import { awaitsDecision, isOutOfUse, speaksAgainstUse } from '../../../core/assess';
import { DAY_MS } from '../../../core/measure';
import type { DecisionPayload, PackRecord, RecordBody, WatchAfter } from '../../../core/record';
import { KIND_WORDS, recordLine, RULE_TEXTS, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useDraft } from '../../app/drafts';
import { NeedsList } from '../../domain/lifecycle/NeedsList';
import type { PackView } from '../../domain/packView';
import { usePerson } from '../../domain/Person';
import { useHandIn } from '../../app/useHandIn';
import { figureTyped } from '../../app/useServerForm';
import { useNames } from '../../domain/useNames';
import { Button } from '../../kit/Button';
import { Choice, TextArea, TextField, Tick, withOrWithout } from '../../kit/fields';

type Answer = 'release' | 'hold' | 'retire';

interface DecisionDraft {
  readonly answer: Answer;
  readonly reason: string;
  readonly because: readonly string[] | null;
  readonly watch: 'day' | 'for-good' | 'none';
  readonly days: string;
}

const LONGEST_DAYS = 730;

/** What becomes of the pack: the choice, what it lacks, the reason, and the second name where one is wanted. */
export function DecisionForm({
  pack,
  view,
  seen,
  secondWanted,
  onSeen,
}: {
  pack: PackDetails;
  view: PackView;
  seen: number;
  secondWanted: boolean;
  onSeen: () => void;
}) {
  const { assessment } = view;
  const { life } = assessment;
  const fresh = pack.records.slice(seen);
  const names = useNames();
  if (life.state !== 'in-service' && life.state !== 'retiring')
    return (
      <section aria-label="Decision">
        <Fresh records={fresh} onSeen={onSeen} />
        <p className="text-lg">
          <b>It is retired</b>
          {life.decidedBy !== null && `, decided by ${names.person(life.decidedBy)}`}.
        </p>
        <p>
          <Link to="/end-of-life/board" className="font-bold text-accent underline">
            On its way to the recycler
          </Link>
        </p>
      </section>
    );
  if (life.state === 'retiring')
    return <SecondName pack={pack} view={view} seen={seen} fresh={fresh} onSeen={onSeen} />;
  return (
    <DecisionFields
      pack={pack}
      view={view}
      seen={seen}
      fresh={fresh}
      secondWanted={secondWanted}
      onSeen={onSeen}
    />
  );
}

function DecisionFields({
  pack,
  view,
  seen,
  fresh,
  secondWanted,
  onSeen,
}: {
  pack: PackDetails;
  view: PackView;
  seen: number;
  fresh: readonly PackRecord[];
  secondWanted: boolean;
  onSeen: () => void;
}) {
  const navigate = useNavigate();
  const reader = useReader();
  const { assessment } = view;
  const held = assessment.findings.filter(speaksAgainstUse);
  const out = awaitsDecision(assessment.verdict);
  const wanted = watchWanted(assessment.findings);
  const trendOnly = out && assessment.needs.every(({ need }) => need === 'a-day');
  const [draft, setDraft, clear] = useDraft<DecisionDraft>(`decide.${pack.id}`, {
    answer: assessment.verdict === 'retire-advised' && !trendOnly ? 'retire' : out ? 'release' : 'hold',
    reason: '',
    because: null,
    watch: wanted === 'for-good' ? 'for-good' : wanted === null ? 'none' : 'day',
    days: '30',
  });
  const { hand, busy, problems } = useHandIn(pack);
  const change = (part: Partial<DecisionDraft>) => setDraft({ ...draft, ...part });
  const because = draft.because ?? held.map(({ rule }) => rule);
  const days = figureTyped(draft.days);
  const until =
    typeof days === 'number' && days > 0 && days <= LONGEST_DAYS
      ? Math.round(reader.now + days * DAY_MS)
      : null;
  const lacking = assessment.needs.filter(({ met }) => !met);
  const options: { value: Answer; label: string }[] = [
    ...(out ? [{ value: 'release' as const, label: trendOnly ? 'Keep on caution' : 'Release' }] : []),
    { value: 'hold', label: out ? 'Hold, look again' : 'Hold' },
    { value: 'retire', label: 'Retire' },
  ];
  const decide = async (event: FormEvent) => {
    event.preventDefault();
    const watch: WatchAfter | null = draft.watch !== 'day' ? draft.watch : until === null ? null : { until };
    if (draft.answer === 'release' && watch === null) return;
    const what: DecisionPayload['what'] =
      draft.answer === 'release'
        ? { to: 'release', answers: answersTo(assessment.findings), watch: watch! }
        : draft.answer === 'hold'
          ? { to: 'hold' }
          : { to: 'retire', because, secondWanted };
    const body: RecordBody = {
      kind: 'decision',
      payload: { basedOnSeq: seen, reason: draft.reason, what },
      supersedes: null,
    };
    if (!(await hand(body, `${pack.tag}: ${DONE[draft.answer]}.`))) return;
    clear();
    await navigate(`/packs/${pack.id}`);
  };
  const at = (name: string) => problems.find(({ field }) => field.startsWith(`payload.${name}`))?.message;
  const rest = problems.filter(
    ({ field }) => !field.startsWith('payload.reason') && !field.startsWith('payload.what.watch'),
  );
  return (
    <form
      aria-label="Decision"
      onSubmit={(event) => void decide(event)}
      noValidate
      className="grid gap-4 border-2 border-ink bg-sheet p-4"
    >
      <h2 className="text-lg">What becomes of it</h2>
      <Fresh records={fresh} onSeen={onSeen} />
      <Choice
        label="Decision"
        options={options}
        value={draft.answer}
        onChange={(answer) => change({ answer })}
      />
      {draft.answer === 'release' && (
        <>
          <NeedsList needs={assessment.needs} />
          {lacking.length === 0 && (
            <>
              <Choice
                label="On caution afterwards"
                options={[
                  { value: 'day', label: 'for some days' },
                  ...(wanted === 'a-day' ? [] : [{ value: 'for-good' as const, label: 'for good' }]),
                  ...(wanted === null ? [{ value: 'none' as const, label: 'not at all' }] : []),
                ]}
                value={draft.watch}
                onChange={(chosen) => change({ watch: chosen })}
              />
              {draft.watch === 'day' && (
                <TextField
                  label="Days"
                  inputMode="numeric"
                  value={draft.days}
                  onChange={(event) => change({ days: event.target.value })}
                  error={until === null ? 'Days from now, up to two years.' : at('what.watch')}
                  hint={until === null ? undefined : `until ${whenWords(until, reader)}`}
                />
              )}
            </>
          )}
        </>
      )}
      {draft.answer === 'retire' && held.length > 0 && (
        <fieldset>
          <legend className="mb-0.5 text-sm font-bold">Because of</legend>
          {[...new Set(held.map(({ rule }) => rule))].map((rule) => (
            <Tick
              key={rule}
              plain
              label={RULE_TEXTS[rule].title}
              checked={because.includes(rule)}
              onChange={(checked) => change({ because: withOrWithout(because, rule, checked) })}
            />
          ))}
        </fieldset>
      )}
      <TextArea
        label="Reason"
        value={draft.reason}
        onChange={(event) => change({ reason: event.target.value })}
        error={at('reason')}
        hint={
          draft.answer === 'retire' && secondWanted
            ? 'The rules want a second name under it.'
            : 'Kept, with your name.'
        }
      />
      {rest.map(({ message }) => (
        <p key={message} role="alert" className="font-bold text-red">
          {message}
        </p>
      ))}
      <div>
        <Button
          type="submit"
          weight="main"
          disabled={busy || fresh.length > 0 || (draft.answer === 'release' && lacking.length > 0)}
        >
          {BUTTON[draft.answer]} {pack.tag}
        </Button>
      </div>
      {draft.answer === 'release' &&
        isOutOfUse(assessment.verdict) &&
        lacking.some(({ need }) => need === 'recovery') && (
          <p className="text-sm">
            <Link to={`/packs/${pack.id}/recovery`} className="font-bold text-accent underline">
              Supervised recovery
            </Link>
          </p>
        )}
    </form>
  );
}

const DONE: Readonly<Record<Answer, string>> = { release: 'released', hold: 'on hold', retire: 'retired' };

const BUTTON: Readonly<Record<Answer, string>> = { release: 'Release', hold: 'Hold', retire: 'Retire' };

/** Records that came since the page was drawn: to be looked at before they are decided on. */
function Fresh({ records, onSeen }: { records: readonly PackRecord[]; onSeen: () => void }) {
  const names = useNames();
  if (records.length === 0) return null;
  return (
    <div role="alert" className="border-l-4 border-amber bg-wash-amber px-3 py-2 text-sm">
      <b>Since you opened this page:</b>
      <ul>
        {records.map((record) => (
          <li key={record.id}>
            {KIND_WORDS[record.kind]}, {names.person(record.by)}
            {record.kind !== 'correction' && (
              <>
                : {recordLine(record, names).figures} {recordLine(record, names).words}
              </>
            )}
          </li>
        ))}
      </ul>
      <Button onClick={onSeen}>I have seen it</Button>
    </div>
  );
}

/** A retirement that waits for another person. */
function SecondName({
  pack,
  view,
  seen,
  fresh,
  onSeen,
}: {
  pack: PackDetails;
  view: PackView;
  seen: number;
  fresh: readonly PackRecord[];
  onSeen: () => void;
}) {
  const reader = useReader();
  const names = useNames();
  const person = usePerson();
  const { hand, busy, problems } = useHandIn(pack);
  const [reason, setReason, clear] = useDraft(`second.${pack.id}`, '');
  const { life } = view.assessment;
  const decision = pack.records.find(({ id }) => id === life.decisionId);
  const own = life.decidedBy === person.id;
  const confirm = async () => {
    const payload = { basedOnSeq: seen, decisionId: life.decisionId!, reason: reason.trim() || null };
    if (await hand({ kind: 'confirmation', payload, supersedes: null }, `${pack.tag}: retired.`)) clear();
  };
  const takeBack = async () => {
    const payload = { step: 'reinstated', reason } as const;
    if (await hand({ kind: 'disposal', payload, supersedes: null }, `${pack.tag}: back in service.`)) clear();
  };
  return (
    <section aria-label="Decision" className="grid gap-3 border-2 border-ink bg-sheet p-4">
      <h2 className="text-lg">A second name is wanted</h2>
      <Fresh records={fresh} onSeen={onSeen} />
      <p>
        {life.decidedBy !== null && names.person(life.decidedBy)} retired it
        {life.since !== null && ` ${whenWords(life.since, reader)}`}:{' '}
        <i>{decision?.kind === 'decision' ? decision.payload.reason : ''}</i>
      </p>
      <TextArea
        label="Your reason"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        error={problems.find(({ field }) => field.endsWith('reason'))?.message}
      />
      {problems
        .filter(({ field }) => !field.endsWith('reason'))
        .map(({ message }) => (
          <p key={message} role="alert" className="font-bold text-red">
            {message}
          </p>
        ))}
      <div className="flex flex-wrap gap-3">
        {own ? (
          <p className="basis-full text-sm text-faint">
            You gave the first name; another person gives the second, signed in as themselves.
          </p>
        ) : (
          <Button weight="main" disabled={busy || fresh.length > 0} onClick={() => void confirm()}>
            Put my name under it
          </Button>
        )}
        <Button disabled={busy} onClick={() => void takeBack()}>
          Take the retirement back
        </Button>
      </div>
    </section>
  );
}
