import { useState } from 'react';
import { Link } from 'react-router';
import type { PackDetails, PackTypeAnswer } from '../../../contract';
import type { RECOVERY_LACKS } from '../../../core/admission';
import { recoveryLacks } from '../../../core/admission';
import { CHEMISTRY } from '../../../core/chemistry';
import { CAUSES } from '../../../core/incident';
import { MINUTE_MS } from '../../../core/measure';
import { parseVolts } from '../../../core/reading';
import type { TypedVolts } from '../../../core/reading';
import type { RecoveryEnding, RecoveryPayload } from '../../../core/record';
import {
  amps,
  CAUSE_WORDS,
  lackWords,
  RECOVERY_WORDS,
  voltsRefusalSentence,
  whenWords,
} from '../../../core/wording';
import { useClock, useReader, useSecond } from '../../app/clock';
import { countdown } from '../../domain/lifecycle/WatchTimer';
import { factsOf } from '../../domain/packFacts';
import { packView } from '../../domain/packView';
import type { PackView } from '../../domain/packView';
import { useMay, usePerson } from '../../domain/Person';
import { voltsOf } from '../../domain/typedReading';
import { useHandIn } from '../../app/useHandIn';
import { figureTyped } from '../../app/useServerForm';
import { Button } from '../../kit/Button';
import { TextArea, TextField } from '../../kit/fields';
import { SelectOption } from '../../kit/Select';
import { WithPack } from '../pack/WithPack';
import type { PackInHand } from '../pack/WithPack';
import { FormSelect } from '../../kit/formFields';
import { useDraftForm } from '../../app/useDraftForm';

/** Bringing an over-discharged pack up under supervision: guarded, timed, every step in the ledger. */
export default function RecoveryPage() {
  return <WithPack>{(inHand) => <Loaded key={inHand.pack.id} {...inHand} />}</WithPack>;
}

function Loaded({ pack, type, register }: PackInHand) {
  const now = useClock((clock) => clock.now);
  const { rules } = register.rules;
  const view = packView(factsOf(pack, type, register), pack.records, rules, now);
  const mayRecover = useMay('record.recovery');
  const lacks = recoveryLacks(view.facts, view.history, view.assessment, rules);
  const running = view.assessment.findings.find((finding) => finding.rule === 'recovery');
  return (
    <div className="mx-auto max-w-3xl">
      <title>{`Recovery: ${pack.tag} · Malle`}</title>
      <p className="text-sm">
        <Link to={`/packs/${pack.id}`} className="inline-block min-h-6 text-accent underline">
          {pack.tag}
        </Link>
      </p>
      <h1>Supervised recovery</h1>
      <p className="my-3 border-l-6 border-red bg-wash-red px-3 py-2">
        At the charger’s own low-current recovery, in {CHEMISTRY[type.chemistry].name} and no other chemistry.
        Outdoors or where nothing can catch fire. Never left, and stopped at any warmth or after{' '}
        {rules.recovery.minutes} minutes.
      </p>
      {!mayRecover && <p className="font-bold">Only the custodian does this.</p>}
      {running?.how === 'running' ? (
        <Running pack={pack} type={type} endsAt={running.endsAt} mayRecover={mayRecover} />
      ) : running ? (
        <Over
          pack={pack}
          view={view}
          how={running.how}
          restHours={rules.recovery.restHours}
          at={running.at}
        />
      ) : (
        <>
          <Preconditions lacks={lacks} />
          {mayRecover && lacks.length === 0 && (
            <Begin pack={pack} mostA={(rules.recovery.currentC * type.capacityMah) / 1000} />
          )}
        </>
      )}
    </div>
  );
}

/** What the records must show before it may begin, item by item. */
function Preconditions({ lacks }: { lacks: readonly (typeof RECOVERY_LACKS)[number][] }) {
  return (
    <section aria-label="Preconditions">
      <h2 className="border-b-2 border-ink pb-1">Before it may begin</h2>
      <ul>
        {lacks.map((lack) => (
          <li key={lack} className="ruled py-1 font-bold text-red">
            ✗ {lackWords(lack)}
          </li>
        ))}
        {lacks.length === 0 && <li className="py-1 text-leaf">✓ The records show all that is asked for.</li>}
      </ul>
    </section>
  );
}

function Begin({ pack, mostA }: { pack: PackDetails; mostA: number }) {
  const person = usePerson();
  const { hand, busy, problems } = useHandIn(pack);
  const form = useDraftForm(`recovery.${pack.id}`, {
    cause: 'stored-flat',
    causeText: '',
    charger: '',
    currentA: '',
    attendant: person.name,
  });
  const at = (name: string) => problems.find(({ field }) => field === `payload.${name}`)?.message;
  const text = (field: 'causeText' | 'charger' | 'currentA' | 'attendant') => ({
    error: at(field),
    ...form.register(field),
  });
  const begin = form.handleSubmit(async (draft) => {
    const payload = {
      step: 'begun',
      basedOnSeq: pack.records.length,
      ...draft,
      currentA: figureTyped(draft.currentA),
    } as unknown as RecoveryPayload;
    if (await hand({ kind: 'recovery', payload, supersedes: null }, `${pack.tag}: recovery begun.`))
      form.taken();
  });
  return (
    <form onSubmit={(event) => void begin(event)} noValidate className="mt-5 grid gap-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <FormSelect label="Cause" control={form.control} name="cause" refused={at('cause')}>
          {CAUSES.map((cause) => (
            <SelectOption key={cause} value={cause}>
              {CAUSE_WORDS[cause]}
            </SelectOption>
          ))}
        </FormSelect>
        <TextField label="Charger" {...text('charger')} />
        <TextField
          label="Current, A"
          inputMode="decimal"
          hint={`At most ${amps(mostA)}.`}
          {...text('currentA')}
        />
        <TextField label="Who stays with it" {...text('attendant')} />
      </div>
      <TextArea label="How the cause is known" {...text('causeText')} />
      {problems
        .filter(({ field }) => !BEGIN_FIELDS.includes(field))
        .map(({ message }) => (
          <p key={message} role="alert" className="font-bold text-red">
            {message}
          </p>
        ))}
      <div>
        <Button type="submit" weight="main" disabled={busy}>
          Begin, the clock runs
        </Button>
      </div>
    </form>
  );
}

const BEGIN_FIELDS = ['cause', 'causeText', 'charger', 'currentA', 'attendant'].map(
  (name) => `payload.${name}`,
);

function Running({
  pack,
  type,
  endsAt,
  mayRecover,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  endsAt: number;
  mayRecover: boolean;
}) {
  const now = useSecond();
  const { hand, busy, problems } = useHandIn(pack);
  const [typed, setTyped] = useState('');
  const parsed = parseVolts(typed, type);
  const read = voltsOf(parsed);
  const cellsMv = read?.of === 'cells' ? read.cellsMv : null;
  const unread = typed.trim() !== '' && cellsMv === null;
  const [asked, setAsked] = useState(false);
  const over = now >= endsAt;
  const take = async (payload: RecoveryPayload, done: string) => {
    // Heat waits for no typing: what could not be read goes along as words.
    const urgent = payload.step === 'ended' && payload.how === 'warm';
    setAsked(true);
    if (unread && !urgent) return;
    if (await hand({ kind: 'recovery', payload, supersedes: null }, `${pack.tag}: ${done}`)) setTyped('');
  };
  const end = (how: RecoveryEnding) =>
    take({ step: 'ended', how, cellsMv, remarks: unread ? typed.trim() : null }, RECOVERY_WORDS[how]);
  return (
    <section aria-label="Running" className="grid gap-4">
      <p role="timer" className={`font-mono text-5xl font-bold ${over ? 'text-red' : 'text-amber'}`}>
        {over ? 'time over' : countdown(endsAt - now)}
      </p>
      {over && <p className="text-lg font-bold text-red">Stop it at the charger now.</p>}
      {mayRecover && (
        <>
          <TextField
            label="Cells in order, if read"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            error={asked && unread ? wrongWith(parsed) : undefined}
            className="font-mono"
          />
          <div className="flex flex-wrap gap-3">
            <Button
              disabled={busy || over}
              onClick={() => void take({ step: 'looked', feels: 'cool', cellsMv }, 'felt cool.')}
            >
              It feels cool
            </Button>
            <Button weight="main" disabled={busy} onClick={() => void end('warm')}>
              It is warm: stop
            </Button>
          </div>
          <div className="flex flex-wrap gap-3 border-t border-rule pt-3">
            <Button disabled={busy || over} onClick={() => void end('reached')}>
              Every cell came up
            </Button>
            <Button disabled={busy || !over} onClick={() => void end('time')}>
              Time over, stopped
            </Button>
            <Button weight="quiet" disabled={busy} onClick={() => void end('given-up')}>
              Give it up
            </Button>
          </div>
        </>
      )}
      {problems.map(({ message }) => (
        <p key={message} role="alert" className="font-bold text-red">
          {message}
        </p>
      ))}
    </section>
  );
}

function wrongWith(parsed: TypedVolts): string {
  return parsed.outcome === 'refused'
    ? voltsRefusalSentence(parsed.why)
    : 'Type every cell in its order, or leave this empty.';
}

function Over({
  pack,
  view,
  how,
  at,
  restHours,
}: {
  pack: PackDetails;
  view: PackView;
  how: RecoveryEnding;
  at: number;
  restHours: number;
}) {
  const reader = useReader();
  const readFrom = at + restHours * 60 * MINUTE_MS;
  return (
    <section aria-label="Ended">
      <p className="text-lg">
        <b>{RECOVERY_WORDS[how]}</b>, {whenWords(at, reader)}.
      </p>
      {how === 'reached' && view.assessment.outSince !== null ? (
        <p>
          Let it rest. Read it rested from <b>{whenWords(readFrom, reader)}</b> on, then{' '}
          <Link to={`/packs/${pack.id}/decide`} className="font-bold text-accent underline">
            decide
          </Link>
          . It stays on caution for life.
        </p>
      ) : (
        <p>
          <Link to={`/packs/${pack.id}/decide`} className="font-bold text-accent underline">
            Decide about it
          </Link>
        </p>
      )}
    </section>
  );
}
