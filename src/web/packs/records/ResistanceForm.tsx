import type { PackDetails, PackTypeAnswer } from '../../../contract';
import { BASELINE_READINGS } from '../../../core/health';
import { plural } from '../../../core/wording';
import { TextField } from '../../kit/fields';
import { NO_RESISTANCE, resistanceTyped } from './entryDrafts';
import type { ResistanceDraft } from './entryDrafts';
import { EntryEnd, useEntryForm } from './entryForm';
import type { PackView } from '../../domain/packView';

/** Internal resistance cell by cell, with the temperature it was measured at. */
export default function ResistanceForm({
  pack,
  type,
  view,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  view: PackView;
}) {
  const form = useEntryForm({
    pack,
    view,
    kind: 'resistance',
    empty: NO_RESISTANCE,
    understand: (typed: ResistanceDraft) => resistanceTyped(typed, type),
    fields: FIELDS,
  });
  const { text } = form;
  const missing = BASELINE_READINGS - view.history.resistances.length;
  return (
    <form onSubmit={form.save} noValidate className="grid gap-3">
      {missing > 0 && (
        <p className="text-faint">
          {plural(missing, 'reading')} more make this pack’s baseline. Nothing is judged against it before.
        </p>
      )}
      <div className="flex flex-wrap items-start gap-3">
        <div className="min-w-52 flex-1">
          <TextField
            label={`Milliohm, ${plural(type.series, 'cell')} in order`}
            autoFocus
            {...text('ir')}
            className="font-mono text-lg font-bold"
          />
        </div>
        <TextField label="At °C" {...text('celsius')} className="sm:w-24" />
        <TextField label="Instrument" {...text('instrument')} className="sm:w-44" />
      </div>
      <TextField label="Remarks" {...text('remarks')} />
      <EntryEnd form={form} pack={pack} view={view} label="Save resistance" />
    </form>
  );
}

/** Where each of the record's fields stands in this form. */
const FIELDS: Readonly<Record<string, keyof ResistanceDraft>> = {
  'payload.irMilliohm': 'ir',
  'payload.temperatureC': 'celsius',
  'payload.instrument': 'instrument',
  'payload.remarks': 'remarks',
};
