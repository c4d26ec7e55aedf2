import { useState } from 'react';
import type { FormEvent } from 'react';
import { Link } from 'react-router';
import type { StepKind } from '../../../core/assess';
import { CHEMISTRY } from '../../../core/chemistry';
import type { DisposalPayload } from '../../../core/lifecycle';
import type { PlaceId } from '../../../core/measure';
import { whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useDraft } from '../../app/drafts';
import { useRegister } from '../../app/queries';
import { useHandIn } from '../../app/useHandIn';
import { Button } from '../../kit/Button';
import { TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import { DrainForm } from './DrainForm';
import { parseEmpty } from './parseEmpty';
import type { LeavingPack, StepProps } from './step';
import { Fold } from '../../kit/Fold';
import { useDraftForm } from '../../app/useDraftForm';

/** The next step of a retired pack, with the check it stands for. */
export function DisposalForm({
  pack,
  step,
  dueAt,
  onDone,
}: {
  pack: LeavingPack;
  step: StepKind;
  dueAt: number | null;
  onDone: () => void;
}) {
  const { hand, busy, problems } = useHandIn(pack);
  const take = async (payload: DisposalPayload, done: string) => {
    const taken = await hand({ kind: 'disposal', payload, supersedes: null }, `${pack.tag}: ${done}`);
    if (taken) onDone();
    return taken;
  };
  const rest = problems.filter(({ field }) => !field.startsWith('payload.'));
  const at = (name: string) => problems.find(({ field }) => field.startsWith(`payload.${name}`))?.message;
  const form = { pack, busy, at, take };
  return (
    <div className="grid gap-3">
      <StepFields {...form} step={step} dueAt={dueAt} />
      {[...rest.map(({ message }) => message), at('step')].filter(Boolean).map((message) => (
        <p key={message} role="alert" className="font-bold text-red">
          {message}
        </p>
      ))}
    </div>
  );
}

type StepForm = (props: StepProps & { readonly dueAt: number | null }) => React.ReactNode;

/** What each step asks for; a step that is no step out has no form. */
const FORMS: Readonly<Partial<Record<StepKind, StepForm>>> = {
  'mark-red': (form) => (
    <>
      <p>Put a red band round it, so that nobody takes it for a sound one.</p>
      <Plain {...form} label="It carries its red band" payload={{ step: 'marked' }} done="marked." />
      <Back {...form} />
    </>
  ),
  drain: (form) => (
    <>
      <DrainForm {...form} />
      <HandOverCharged {...form} />
      <Unsafe {...form} />
      <Back {...form} />
    </>
  ),
  'pack-apart': (form) => (
    <>
      <p className="font-bold text-red">
        Swollen, punctured, burnt or leaking: it must not be discharged. Sand or a fire-resistant container,
        outdoors, and the recycler is told.
      </p>
      <Unsafe {...form} />
    </>
  ),
  'verify-empty': (form) => (
    <>
      <Cells {...form} hint="0.10 V a cell or less. It is read again after a day, because cells come back." />
      <Unsafe {...form} />
    </>
  ),
  'verify-again': (form) => (
    <>
      <AfterRest {...form} />
      <Unsafe {...form} />
    </>
  ),
  insulate: (form) => <Insulate {...form} />,
  bin: (form) => <Bin {...form} />,
  consign: () => <ToConsignments>Put it on a consignment</ToConsignments>,
  'hand-over': () => <ToConsignments>To its consignment</ToConsignments>,
};

function StepFields({ step, ...form }: StepProps & { step: StepKind; dueAt: number | null }) {
  return FORMS[step]?.(form) ?? null;
}

/** The other way out of a sound pack, where the house rules have it: at storage charge, contacts covered. */
function HandOverCharged({ pack, busy, at, take }: StepProps) {
  const rules = useRegister().data?.rules.rules;
  if (rules?.endOfLife.handOver !== 'drained or at storage charge') return null;
  return (
    <Aside title="Hand it over at storage charge instead">
      <p>
        A sound pack that was read in its storage band may go to a recycler that takes it so. Its leads are
        cut one at a time, each end taped before the next is cut.
      </p>
      <Worded
        busy={busy}
        name={`insulate-charged.${pack.id}`}
        label="How its contacts are covered"
        button="They are covered"
        error={at('how')}
        onSend={(how) => take({ step: 'insulated-charged', how }, 'contacts covered, at storage charge.')}
      />
    </Aside>
  );
}

function AfterRest({ dueAt, ...form }: StepProps & { dueAt: number | null }) {
  const reader = useReader();
  if (dueAt === null || dueAt <= reader.now)
    return <Cells {...form} hint="More than 0.10 V a cell: it has come back, and is discharged on." />;
  return (
    <p>
      It rests. Read it again <b>{whenWords(dueAt, reader)}</b>.
    </p>
  );
}

function ToConsignments({ children }: { children: React.ReactNode }) {
  return (
    <p>
      <Link to="/end-of-life/consignments" className="font-bold text-accent underline">
        {children}
      </Link>
    </p>
  );
}

function Plain({
  busy,
  take,
  label,
  payload,
  done,
}: StepProps & { label: string; payload: DisposalPayload; done: string }) {
  return (
    <div>
      <Button weight="main" disabled={busy} onClick={() => void take(payload, done)}>
        {label}
      </Button>
    </div>
  );
}

/** One line of text and a button; used for every step that only asks for words. */
function Worded({
  busy,
  label,
  button,
  error,
  name,
  main = false,
  onSend,
}: {
  busy: boolean;
  label: string;
  button: string;
  error: string | undefined;
  name: string;
  main?: boolean;
  onSend: (text: string) => Promise<boolean>;
}) {
  const form = useDraftForm(name, { text: '' });
  const send = form.handleSubmit(async ({ text }) => {
    if (await onSend(text)) form.taken();
  });
  return (
    <form onSubmit={(event) => void send(event)} noValidate className="flex flex-wrap items-end gap-2">
      <div className="min-w-56 flex-1">
        <TextField label={label} error={error} {...form.register('text')} />
      </div>
      <Button type="submit" weight={main ? 'main' : 'plain'} disabled={busy}>
        {button}
      </Button>
    </form>
  );
}

/** A step that is not the usual one: hidden until asked for. */
function Aside({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <Fold
      className="text-sm"
      line={<span className="font-bold text-accent underline underline-offset-3">{title}</span>}
    >
      <div className="py-2">{children}</div>
    </Fold>
  );
}

function Unsafe({ pack, busy, at, take }: StepProps) {
  const form = (
    <Worded
      busy={busy}
      name={`unsafe.${pack.id}`}
      label="Why it must not be discharged"
      button="Declare it unsafe"
      error={at('why')}
      main={pack.apart}
      onSend={(why) => take({ step: 'unsafe', why }, 'to be packed apart.')}
    />
  );
  return pack.apart ? form : <Aside title="It cannot be discharged">{form}</Aside>;
}

function Back({ pack, busy, at, take }: StepProps) {
  return (
    <Aside title="Put it back into service">
      <Worded
        busy={busy}
        name={`reinstate.${pack.id}`}
        label="Why the retirement is taken back"
        button="Put it back"
        error={at('reason')}
        onSend={(reason) => take({ step: 'reinstated', reason }, 'back in service.')}
      />
    </Aside>
  );
}

function Insulate({ pack, busy, at, take }: StepProps) {
  return (
    <>
      <p>Cover its contacts. Leads are cut one at a time, each end taped before the next is cut.</p>
      <Worded
        busy={busy}
        name={`insulate.${pack.id}`}
        label="How they are covered"
        button="They are covered"
        error={at('how')}
        main
        onSend={(how) => take({ step: 'insulated', how }, 'contacts covered.')}
      />
    </>
  );
}

function Bin({ pack, busy, at, take }: StepProps) {
  const places = (useRegister().data?.places ?? []).filter(
    ({ kind, setApart }) => kind === 'recycling' && setApart === pack.apart,
  );
  const [chosen, setChosen] = useState('');
  const placeId = (chosen || places[0]?.id) as PlaceId | undefined;
  if (!placeId)
    return (
      <p>
        No {pack.apart ? 'container for damaged packs' : 'recycling container'} is in the register.{' '}
        <Link to="/settings/places" className="font-bold text-accent underline">
          Add one under Places
        </Link>
        .
      </p>
    );
  return (
    <div className="flex flex-wrap items-end gap-2">
      <div className="min-w-56 flex-1">
        <SelectField
          label={pack.apart ? 'Container for damaged packs' : 'Recycling container'}
          value={placeId}
          onChange={setChosen}
          error={at('placeId')}
        >
          {places.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      <Button
        weight="main"
        disabled={busy}
        onClick={() => void take({ step: 'binned', placeId }, 'in the container.')}
      >
        It lies there
      </Button>
    </div>
  );
}

function Cells({ pack, busy, at, take, hint }: StepProps & { hint: string }) {
  const [typed, setTyped, clear] = useDraft(`verify.${pack.id}`, '');
  const [asked, setAsked] = useState(false);
  const { series, chemistry } = pack.type;
  const { cellTaps } = CHEMISTRY[chemistry];
  const parsed = parseEmpty(typed, series, cellTaps);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (!parsed.cellsMv) return;
    if (await take({ step: 'verified', cellsMv: parsed.cellsMv }, 'read.')) clear();
  };
  return (
    <form onSubmit={(event) => void send(event)} noValidate className="flex flex-wrap items-end gap-2">
      <div className="min-w-56 flex-1">
        <TextField
          label={cellTaps ? 'Cells in order, volts' : 'The whole pack, volts'}
          inputMode="decimal"
          placeholder={Array.from({ length: cellTaps ? series : 1 }, () => '0.04').join(' ')}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          error={at('cellsMv') ?? (asked ? parsed.problem : undefined)}
          hint={hint}
          className="font-mono"
        />
      </div>
      <Button type="submit" weight="main" disabled={busy}>
        Save the reading
      </Button>
    </form>
  );
}
