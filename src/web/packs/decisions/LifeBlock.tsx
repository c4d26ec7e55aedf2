import { useState } from 'react';
import { Link } from 'react-router';
import type { PackDetails } from '../../../contract';
import { INCIDENT_WORDS, LIFE_WORDS, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { DisposalForm } from '../../domain/lifecycle/DisposalForm';
import { NeedsList } from '../../domain/lifecycle/NeedsList';
import { WatchTimer } from '../../domain/lifecycle/WatchTimer';
import { useMay } from '../../domain/Person';
import { useHandIn } from '../../app/useHandIn';
import { useNames } from '../../domain/useNames';
import type { PackView } from '../../domain/packView';
import { Button, ButtonLink } from '../../kit/Button';
import { TextArea } from '../../kit/fields';
import { Question } from '../../kit/Sheet';
import { useForm } from 'react-hook-form';

/** A pack nobody may use: its watch, what would let it go on, or its way to the recycler. Nothing for a pack in use. */
export function LifeBlock({ pack, view }: { pack: PackDetails; view: PackView }) {
  const { assessment } = view;
  if (assessment.verdict === 'fit' || assessment.verdict === 'watch') return null;
  return (
    <section aria-label="What becomes of it" className="border-l-6 border-red bg-sheet px-4 py-3">
      {assessment.watch && <Watch pack={pack} watch={assessment.watch} />}
      {assessment.outSince !== null ? (
        <Deciding pack={pack} view={view} />
      ) : (
        <Leaving pack={pack} view={view} />
      )}
    </section>
  );
}

function Watch({ pack, watch }: { pack: PackDetails; watch: NonNullable<PackView['assessment']['watch']> }) {
  const reader = useReader();
  const mayEnd = useMay('record.watch-ended');
  const [open, setOpen] = useState(false);
  const running = reader.now < watch.until;
  const incident = pack.records.find(
    (record) => record.kind === 'incident' && record.payload.incidentId === watch.incidentId,
  );
  const name = incident?.kind === 'incident' ? INCIDENT_WORDS[incident.payload.kind].name : 'Incident';
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      <WatchTimer from={watch.from} until={watch.until} />
      <span className="text-sm">
        <Link to={`/incidents/${watch.incidentId}`} className="font-bold text-accent underline">
          {name}
        </Link>
        {running ? ': keep off, watch it from a distance.' : ': inspect it now.'}
      </span>
      {running && mayEnd && (
        <Button weight="quiet" onClick={() => setOpen(true)}>
          End the quarantine early
        </Button>
      )}
      {open && <EndWatch pack={pack} incidentId={watch.incidentId} onClose={() => setOpen(false)} />}
    </div>
  );
}

function EndWatch({
  pack,
  incidentId,
  onClose,
}: {
  pack: PackDetails;
  incidentId: NonNullable<PackView['assessment']['watch']>['incidentId'];
  onClose: () => void;
}) {
  const { register, handleSubmit } = useForm({ defaultValues: { reason: '' } });
  const { hand, busy, problems } = useHandIn(pack);
  const end = handleSubmit(async ({ reason }) => {
    const body = { kind: 'watch-ended', payload: { incidentId, reason }, supersedes: null } as const;
    if (await hand(body, `${pack.tag}: quarantine ended early.`)) onClose();
  });
  return (
    <Question
      onClose={onClose}
      title="End the quarantine early"
      describe="A knocked cell can run away half an hour later. Your name and reason are kept."
    >
      <form onSubmit={(event) => void end(event)} noValidate className="grid gap-3">
        <TextArea label="Reason" autoFocus error={problems[0]?.message} {...register('reason')} />
        <div className="flex gap-3">
          <Button type="submit" weight="main" disabled={busy}>
            End it
          </Button>
          <Button weight="quiet" onClick={onClose}>
            Let it run
          </Button>
        </div>
      </form>
    </Question>
  );
}

function Deciding({ pack, view: { assessment } }: { pack: PackDetails; view: PackView }) {
  const mayDecide = useMay('record.decision');
  const releasable = !assessment.needs.some(({ need }) => need === 'nothing-releases');
  return (
    <div className="flex flex-wrap items-start gap-x-8 gap-y-2">
      <div className="min-w-0 flex-1 basis-64">
        <p className="text-sm text-faint">{releasable ? 'A release wants' : 'What a release would want'}</p>
        <NeedsList needs={assessment.needs} />
        {assessment.needs.some(({ need, met }) => need === 'recovery' && !met) && (
          <Link
            to={`/packs/${pack.id}/recovery`}
            className="inline-flex min-h-11 items-center font-bold text-accent underline md:min-h-7"
          >
            Supervised recovery
          </Link>
        )}
      </div>
      <ButtonLink to={`/packs/${pack.id}/decide`} weight="plain">
        {mayDecide ? 'For and against' : 'Its evidence'}
      </ButtonLink>
    </div>
  );
}

function Leaving({ pack, view: { assessment, history } }: { pack: PackDetails; view: PackView }) {
  const reader = useReader();
  const names = useNames();
  const mayTake = useMay('record.disposal');
  const { life, latest, harm } = assessment;
  const step = assessment.steps[0];
  const apart = life.apart || harm.length > 0;
  const type = history.pack;
  return (
    <div className="grid gap-3">
      <p>
        <b>{capital(LIFE_WORDS[life.state])}</b>
        {life.since !== null && life.by !== null && (
          <span className="text-faint">
            , {whenWords(life.since, reader)} by {names.person(life.by)}
          </span>
        )}
        .
      </p>
      {step && mayTake && (
        <DisposalForm
          key={`${step.do} ${life.state}`}
          pack={{
            id: pack.id,
            tag: pack.tag,
            type,
            fromMv: latest ? Math.max(...latest.cellsMv) : null,
            apart,
          }}
          step={step.do}
          dueAt={step.dueAt}
          onDone={() => undefined}
        />
      )}
      <p className="text-sm">
        <a
          href={`/api/packs/${pack.id}/certificate.pdf?zone=${encodeURIComponent(reader.zone)}`}
          target="_blank"
          rel="noreferrer"
          className="inline-flex min-h-6 items-center font-bold text-accent underline"
        >
          Its life on one page
        </a>{' '}
        <span className="text-faint">from receipt to recycler, to print</span>
      </p>
    </div>
  );
}

function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
