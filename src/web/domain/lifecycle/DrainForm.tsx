import type { FormEvent } from 'react';
import { drainPlan } from '../../../core/charging';
import type { DrainAnswer } from '../../../core/charging';
import { DRAIN_PLACES } from '../../../core/lifecycle';
import type { DrainLoad, DrainPlace } from '../../../core/lifecycle';
import { amps, DRAIN_PLACE_WORDS, drainRefusalSentence } from '../../../core/wording';
import { useDraft } from '../../app/drafts';
import { usePerson } from '../Person';
import { figureTyped } from '../../app/useServerForm';
import { Button } from '../../kit/Button';
import { Choice, TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import type { StepProps } from './step';

interface DrainDraft {
  readonly by: DrainLoad['by'];
  readonly volts: string;
  readonly ohms: string;
  readonly watts: string;
  readonly charger: string;
  readonly where: DrainPlace;
  readonly attendant: string;
}

/** The last discharge: with what, where, watched by whom, and what the load will do. */
export function DrainForm({ pack, busy, at, take }: StepProps) {
  const person = usePerson();
  const [draft, setDraft, clear] = useDraft<DrainDraft>(`drain.${pack.id}`, {
    by: 'lamp',
    volts: '',
    ohms: '',
    watts: '',
    charger: '',
    where: 'outdoors',
    attendant: person.name,
  });
  const change = (part: Partial<DrainDraft>) => setDraft({ ...draft, ...part });
  const text = (field: 'volts' | 'ohms' | 'watts' | 'charger' | 'attendant', error?: string) => ({
    value: draft[field],
    onChange: (event: { target: { value: string } }) => change({ [field]: event.target.value }),
    error,
  });
  const load = loadOf(draft);
  const answer = load && drainPlan(pack.type, pack.fromMv, load);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (!load) return;
    const payload = { step: 'discharging', load, where: draft.where, attendant: draft.attendant } as const;
    if (await take(payload, 'on its last discharge.')) clear();
  };
  return (
    <form onSubmit={(event) => void send(event)} noValidate className="grid gap-3">
      <p className="border-l-4 border-amber bg-wash-amber px-3 py-1.5">
        Outdoors or where nothing can catch fire, on bare ground, watched until it is empty. Stop if it
        swells, hisses or smells, and get away.
      </p>
      <Choice
        label="With"
        options={[
          { value: 'lamp', label: 'a lamp' },
          { value: 'resistor', label: 'a resistor' },
          { value: 'charger', label: 'the charger’s end-of-life mode' },
        ]}
        value={draft.by}
        onChange={(by) => change({ by })}
      />
      <div className="grid grid-cols-2 gap-3">
        {draft.by === 'lamp' && (
          <TextField label="Lamp, volts" inputMode="decimal" {...text('volts', at('load'))} />
        )}
        {draft.by === 'resistor' && (
          <TextField label="Resistor, Ω" inputMode="decimal" {...text('ohms', at('load'))} />
        )}
        {draft.by === 'charger' && <TextField label="Charger" {...text('charger', at('load'))} />}
        {draft.by !== 'charger' && <TextField label="Watts" inputMode="decimal" {...text('watts')} />}
        <SelectField
          label="Where"
          value={draft.where}
          onChange={(value) => change({ where: value as DrainPlace })}
        >
          {DRAIN_PLACES.map((place) => (
            <SelectOption key={place} value={place}>
              {DRAIN_PLACE_WORDS[place]}
            </SelectOption>
          ))}
        </SelectField>
        <TextField label="Watched by" {...text('attendant', at('attendant'))} />
      </div>
      <PlanLine answer={answer} />
      <div>
        <Button type="submit" weight="main" disabled={busy || load === null || answer?.outcome === 'refused'}>
          It is on the load
        </Button>
      </div>
    </form>
  );
}

function loadOf({ by, volts, ohms, watts, charger }: DrainDraft): DrainLoad | null {
  const figure = (text: string) => {
    const value = figureTyped(text);
    return typeof value === 'number' ? value : null;
  };
  const ratedW = figure(watts);
  switch (by) {
    case 'lamp': {
      const ratedV = figure(volts);
      return ratedV !== null && ratedW !== null ? { by, ratedV, ratedW } : null;
    }
    case 'resistor': {
      const resistance = figure(ohms);
      return resistance !== null && ratedW !== null ? { by, ohms: resistance, ratedW } : null;
    }
    case 'charger':
      return charger.trim() ? { by, charger: charger.trim() } : null;
    default:
      return by satisfies never;
  }
}

/** What the load will do, or why it is refused. */
function PlanLine({ answer }: { answer: DrainAnswer | null }) {
  if (!answer || answer.outcome === 'by-charger') return null;
  if (answer.outcome === 'refused')
    return (
      <p role="alert" className="font-bold text-red">
        {drainRefusalSentence(answer.why)}
      </p>
    );
  const { startA, peakW, hours, tailHours, wattHours } = answer.plan;
  return (
    <p role="status">
      <b className="font-mono">{amps(startA)}</b> at first, <b className="font-mono">{Math.round(peakW)} W</b>
      , about <b className="font-mono">{hoursWords(hours)}</b> to empty and {hoursWords(tailHours)} more until
      it reads nothing; <span className="font-mono">{Math.round(wattHours)} Wh</span> in all.
    </p>
  );
}

function hoursWords(hours: number): string {
  const minutes = Math.round(hours * 60);
  if (minutes < 90) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}
