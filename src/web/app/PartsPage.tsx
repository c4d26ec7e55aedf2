import { useState } from 'react';
import { VERDICTS } from '../../core/assess';
import { HOUR_MS } from '../../core/measure';
import { MomentField } from '../domain/moments/MomentField';
import { AllowanceBar } from '../kit/AllowanceBar';
import { Button } from '../kit/Button';
import { CellLadder } from '../kit/CellLadder';
import { CheckField, Choice, SwitchField, TextArea, TextField, Tick } from '../kit/fields';
import { Fold } from '../kit/Fold';
import { Hint } from '../kit/Hint';
import { Notice } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { Scroll } from '../kit/Scroll';
import { Select, SelectField, SelectOption } from '../kit/Select';
import { Question, Sheet } from '../kit/Sheet';
import { VerdictMark } from '../kit/VerdictMark';
import { useReader } from './clock';
import { say } from './notices';
import { useRegister } from './queries';

const THEMES = [
  { theme: 'paper', name: 'On paper' },
  { theme: 'shed', name: 'In the shed' },
] as const;

/** Every part the pages are made of, in each of its states and in both themes: what is changed in one is looked at here. */
export function PartsPage() {
  return (
    <>
      <p className="mb-4 max-w-prose text-faint">
        What every page is made of, in each state it can be in. Nothing here is of the register, and nothing
        pressed here changes it.
      </p>
      <div className="grid gap-6 lg:grid-cols-2">
        {THEMES.map(({ theme, name }) => (
          <section
            key={theme}
            data-theme={theme}
            aria-label={name}
            className="grid content-start gap-6 border border-rule bg-ground p-4 text-ink"
          >
            <h2 className="border-b-2 border-ink pb-1">{name}</h2>
            <Pressed theme={name} />
            <Typed />
            <Chosen />
            <Told theme={name} />
            <Marks />
          </section>
        ))}
      </div>
    </>
  );
}

function Pressed({ theme }: { theme: string }) {
  const [open, setOpen] = useState<'sheet' | 'question' | null>(null);
  const close = () => setOpen(null);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button weight="main">Main</Button>
      <Button weight="main" disabled>
        Main, waiting
      </Button>
      <Button>Plain</Button>
      <Button disabled>Plain, waiting</Button>
      <Button weight="quiet">Quiet</Button>
      <Button onClick={() => setOpen('sheet')}>A sheet …</Button>
      <Button onClick={() => setOpen('question')}>A question …</Button>
      <Button onClick={() => say('This was done.')}>A notice</Button>
      <Sheet
        open={open === 'sheet'}
        onClose={close}
        title={`A sheet, ${theme.toLowerCase()}`}
        describe="Laid over the page."
      >
        <TextField label="A field" />
      </Sheet>
      {open === 'question' && (
        <Question onClose={close} title="A question" describe="A press beside it answers nothing.">
          <div className="flex gap-3">
            <Button weight="main" onClick={close}>
              Do it
            </Button>
            <Button weight="quiet" onClick={close}>
              Leave it
            </Button>
          </div>
        </Question>
      )}
    </div>
  );
}

function Typed() {
  const [day, setDay] = useState('2026-12-03');
  const [minute, setMinute] = useState('');
  const [soon, setSoon] = useState('12/31');
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <TextField label="Empty" placeholder="384 383 385 384" hint="What helps stands below." />
      <TextField label="Typed" defaultValue="384 383 385 384" className="font-mono" />
      <TextField label="Refused" defaultValue="plenty" error="“plenty” is no figure. Type amps, like 3.3." />
      <TextField label="Not to be changed" defaultValue="HX-07" disabled />
      <MomentField label="A day" wanted="day" lean="past" value={day} onChange={setDay} />
      <MomentField
        label="A moment"
        wanted="minute"
        lean="ahead"
        value={minute}
        onChange={setMinute}
        hint="Empty: now."
      />
      <MomentField label="A day, refused" wanted="day" lean="ahead" value={soon} onChange={setSoon} />
      <TextArea label="Words" defaultValue="Lead re-taped." />
    </div>
  );
}

function Chosen() {
  const [answer, setAnswer] = useState('b');
  const [ticked, setTicked] = useState(true);
  const options = [
    <SelectOption key="" value="">
      not noted
    </SelectOption>,
    <SelectOption key="b" value="b">
      Fire cabinet, upper
    </SelectOption>,
    <SelectOption key="c" value="c" disabled>
      Transport box B, full
    </SelectOption>,
  ];
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <SelectField label="One of a list" value={answer} onChange={setAnswer}>
        {options}
      </SelectField>
      <SelectField label="One of a list, refused" value="" onChange={setAnswer} error="Choose one.">
        {options}
      </SelectField>
      <SelectField label="Not to be changed either" value="b" onChange={setAnswer} disabled>
        {options}
      </SelectField>
      <div className="self-end">
        <Select aria-label="Without a label of its own" value={answer} onChange={setAnswer}>
          {options}
        </Select>
      </div>
      <div>
        <CheckField label="Ticked" hint="With what it means." checked={ticked} onChange={setTicked} />
        <CheckField label="Not ticked" checked={!ticked} onChange={(next) => setTicked(!next)} />
        <Tick plain label="Not to be ticked" checked={false} disabled onChange={setTicked} />
        <div className="flex gap-6">
          <SwitchField label="On" checked={ticked} onChange={setTicked} />
          <SwitchField label="Off" checked={!ticked} onChange={(next) => setTicked(!next)} />
        </div>
      </div>
      <Choice
        label="One of a few"
        options={[
          { value: '', label: 'none' },
          { value: 'b', label: 'soft' },
          { value: 'c', label: 'hard' },
        ]}
        value={answer}
        onChange={setAnswer}
      />
    </div>
  );
}

function Told({ theme }: { theme: string }) {
  return (
    <div className="grid gap-2">
      <Notice title="Something went wrong.">And this is what to do.</Notice>
      <ProgressBar label="Reading the list" done={2_400} of={10_000} unit="lines" />
      <Fold line="A line that opens">To what stands behind it.</Fold>
      <Fold line="Cell 3 rests 41 mV below its siblings." ask="why">
        It has been so three times in five charges.
      </Fold>
      <p>
        Somebody <Hint says="And more of it.">says something</Hint>.
      </p>
      <Scroll label={`A long list, ${theme.toLowerCase()}`} className="max-h-24 border border-line">
        <ol className="px-2">
          {Array.from({ length: 12 }, (_, i) => (
            <li key={i} className="ruled font-mono">
              HX-{String(i + 1).padStart(2, '0')}
            </li>
          ))}
        </ol>
      </Scroll>
    </div>
  );
}

function Marks() {
  const { now } = useReader();
  const rules = useRegister().data?.rules.rules;
  return (
    <div className="grid gap-2">
      <p className="flex flex-wrap gap-4">
        {VERDICTS.map((verdict) => (
          <VerdictMark key={verdict} verdict={verdict} />
        ))}
        <VerdictMark verdict="fit" charged="charge-first" />
      </p>
      <p className="flex flex-wrap items-center gap-4">
        <AllowanceBar since={now - 12 * HOUR_MS} allowanceHours={48} now={now} />
        <AllowanceBar since={now - 60 * HOUR_MS} allowanceHours={48} now={now} />
        {rules && <CellLadder chemistry="lipo" cellsMv={[3840, 3838, 3760, 3841]} rules={rules} />}
      </p>
    </div>
  );
}
