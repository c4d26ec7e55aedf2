import type { PackDetails, PackTypeAnswer } from '../../../contract';
import { useReader } from '../../app/clock';
import { useRegister } from '../../app/queries';
import { Choice, TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import { EntryEnd, useEntryForm } from './entryForm';
import { FeltField } from '../../domain/entry/FeltField';
import { CraftField } from '../../domain/entry/CraftField';
import { NO_FLIGHT, flightTyped } from '../../domain/entry/typedFlight';
import type { FlightDraft } from '../../domain/entry/typedFlight';
import type { PackView } from '../../domain/packView';
import { MomentField } from '../../domain/moments/MomentField';

const CONDITIONS = [
  { value: 'loaded', label: 'under load' },
  { value: 'settling', label: 'just after' },
] as const;

/** One flight or other use, written down when it ended; the craft is offered as it was last called. */
export function FlightForm({
  pack,
  type,
  view,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  view: PackView;
}) {
  const { people = [], craft: known = [] } = useRegister().data ?? {};
  const reader = useReader();
  const last = view.history.flights.findLast(({ craft }) => craft !== null);
  const lastKnown = known.find(
    ({ id, inUse }) => inUse && id === (view.history.custody?.craftId ?? last?.craftId),
  );
  const empty = { ...NO_FLIGHT, craftId: lastKnown?.id ?? '', craft: lastKnown ? '' : (last?.craft ?? '') };
  const form = useEntryForm({
    pack,
    view,
    kind: 'flight',
    empty,
    understand: (typed: FlightDraft) => flightTyped(typed, type, known, reader.now),
    fields: FIELDS,
  });
  const { draft, change, text } = form;
  const begun = draft.minutes !== '' || draft.landing !== '' || draft.used !== '' || draft.hottest !== '';
  return (
    <form onSubmit={form.save} noValidate className="grid gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <TextField label="Minutes" {...text('minutes')} />
        <TextField label="mAh used" inputMode="decimal" {...text('used')} />
        <CraftField craft={known} draft={draft} change={change} error={text('craft').error} />
        <SelectField label="Pilot" value={draft.pilotId} onChange={(value) => change({ pilotId: value })}>
          <SelectOption value="">me</SelectOption>
          {people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-44 flex-1">
          <TextField
            label="Landing volts, cells or the pack’s"
            hint={
              text('landing').error ? undefined : 'Read in the craft. Rested volts come later, as a reading.'
            }
            {...text('landing')}
            className="font-mono"
          />
        </div>
        <div className="self-start">
          <Choice
            label="Read"
            options={CONDITIONS}
            value={draft.condition}
            onChange={(condition) => change({ condition })}
          />
        </div>
      </div>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-5">
        <TextField label="Hottest °C" {...text('hottest')} />
        <FeltField value={draft.felt} onChange={(felt) => change({ felt })} />
        <TextField label="Outside °C" {...text('ambient')} />
        <MomentField
          label="Landed at"
          hint="Empty: now."
          wanted="minute"
          lean="past"
          value={draft.ended}
          onChange={(ended) => change({ ended })}
          error={text('ended').error}
        />
        <TextField label="Remarks" {...text('remarks')} />
      </div>
      <EntryEnd form={form} shown={begun} pack={pack} view={view} label="Save flight" />
    </form>
  );
}

/** Where each of the record's fields stands in this form. */
const FIELDS: Readonly<Record<string, keyof FlightDraft>> = {
  'payload.minutes': 'minutes',
  'payload.usedMah': 'used',
  'payload.craft': 'craft',
  'payload.craftId': 'craft',
  'payload.pilotId': 'pilotId',
  'payload.landing': 'landing',
  'payload.hottestC': 'hottest',
  'payload.ambientC': 'ambient',
  'payload.remarks': 'remarks',
  at: 'ended',
};
