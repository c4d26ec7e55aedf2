import type { CurveAnswer, PackDetails, PackTypeAnswer } from '../../../contract';
import { lastWorking } from '../../../core/charging';
import { CHEMISTRIES, CHEMISTRY, isLithium } from '../../../core/chemistry';
import type { Chemistry } from '../../../core/chemistry';
import { CHARGE_ENDINGS, CHARGE_MODES } from '../../../core/record';
import type { ChargeEnding } from '../../../core/record';
import { ENDING_WORDS, MODE_WORDS, plural } from '../../../core/wording';
import { useRegister } from '../../app/queries';
import { Button } from '../../kit/Button';
import { Choice, TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import { ChargeLog } from './ChargeLog';
import { NO_CHARGE, OTHER_CHARGER, chargeTyped } from './entryDrafts';
import type { ChargeDraft } from './entryDrafts';
import { EntryEnd, useEntryForm } from './entryForm';
import { FeltField } from '../../domain/entry/FeltField';
import { stationsOf } from '../../domain/bench';
import type { PackView } from '../../domain/packView';
import { MomentField } from '../../domain/moments/MomentField';

const MODES = CHARGE_MODES.map((value) => ({ value, label: MODE_WORDS[value] }));
const BALANCED = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
  { value: 'unseen', label: 'not looked' },
] as const;

/** One job on a charger, written down when it ended. Whatever was not looked at stays empty. */
export default function ChargeForm({
  pack,
  type,
  view,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  view: PackView;
}) {
  const register = useRegister().data;
  const rules = register?.rules.rules;
  const equipment = register?.equipment ?? [];
  const stations = stationsOf(equipment);
  const form = useEntryForm({
    pack,
    view,
    kind: 'charge',
    empty: NO_CHARGE,
    understand: (typed: ChargeDraft) => chargeTyped(typed, type, equipment),
    fields: FIELDS,
  });
  const { draft, change, text } = form;
  const setAsNeeded = () =>
    change({
      setChemistry: type.chemistry,
      setCells: String(type.series),
      setTop: rules && isLithium(type.chemistry) ? String(rules.topMv[type.chemistry] / 1000) : '',
    });
  return (
    <form onSubmit={form.save} noValidate className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Choice label="Asked to" options={MODES} value={draft.mode} onChange={(mode) => change({ mode })} />
        <SelectField
          label="Ended"
          value={draft.ending}
          onChange={(value) => change({ ending: value as ChargeEnding })}
          className="sm:w-36"
        >
          {CHARGE_ENDINGS.map((ending) => (
            <SelectOption key={ending} value={ending}>
              {ENDING_WORDS[ending]}
            </SelectOption>
          ))}
        </SelectField>
        <Choice
          label="Balanced"
          options={BALANCED}
          value={draft.balanced}
          onChange={(balanced) => change({ balanced })}
        />
      </div>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label={`Cells before, ${plural(type.series, 'cell')}`}
          {...text('start')}
          className="font-mono"
        />
        <TextField label="Cells at the end" {...text('end')} className="font-mono" />
      </div>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-5">
        <TextField label="mAh moved" inputMode="decimal" {...text('moved')} />
        <TextField label="Minutes" {...text('minutes')} />
        <TextField label="Hottest °C" {...text('celsius')} />
        <FeltField value={draft.felt} onChange={(felt) => change({ felt })} />
        <MomentField
          label="Ended at"
          hint="Empty: now."
          wanted="minute"
          lean="past"
          value={draft.ended}
          onChange={(ended) => change({ ended })}
          error={text('ended').error}
        />
      </div>
      <fieldset className="grid gap-3 border-t border-line pt-2">
        <legend className="pr-3 text-sm font-bold">
          What the charger was set to{' '}
          <Button weight="quiet" onClick={setAsNeeded}>
            as this pack needs
          </Button>
        </legend>
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-5">
          <SelectField
            label="Chemistry"
            value={draft.setChemistry}
            onChange={(value) => change({ setChemistry: value as Chemistry | '' })}
          >
            <SelectOption value="">not noted</SelectOption>
            {CHEMISTRIES.map((chemistry) => (
              <SelectOption key={chemistry} value={chemistry}>
                {CHEMISTRY[chemistry].name}
              </SelectOption>
            ))}
          </SelectField>
          <TextField label="Cells set" inputMode="numeric" {...text('setCells')} />
          <TextField label="Top V a cell" inputMode="decimal" {...text('setTop')} />
          <TextField label="Amps set" inputMode="decimal" {...text('setAmps')} />
          {stations.length > 0 && (
            <SelectField label="Charger" value={draft.station} onChange={(station) => change({ station })}>
              <SelectOption value="">not noted</SelectOption>
              {stations.map(({ key, name }) => (
                <SelectOption key={key} value={key}>
                  {name}
                </SelectOption>
              ))}
              <SelectOption value={OTHER_CHARGER}>another one</SelectOption>
            </SelectField>
          )}
          {(stations.length === 0 || draft.station === OTHER_CHARGER) && (
            <TextField label={stations.length === 0 ? 'Charger' : 'Which one'} {...text('charger')} />
          )}
        </div>
      </fieldset>
      {draft.curve === '' ? (
        <ChargeLog pack={pack} onTaken={(curve) => change(toldByLog(curve, type.series))} />
      ) : (
        <p role="status" className="flex flex-wrap items-center gap-3">
          <b className="text-leaf">The log is read; its curve is kept with the charge.</b>
          <Button weight="quiet" onClick={() => change({ curve: '' })}>
            Without it
          </Button>
        </p>
      )}
      <TextField label="Remarks" {...text('remarks')} />
      <EntryEnd form={form} shown={form.begun} pack={pack} view={view} label="Save charge" />
    </form>
  );
}

/** What a log tells of a charge, as it stands in the form; what it does not tell stays as it was typed. */
function toldByLog({ id, points }: CurveAnswer, series: number): Partial<ChargeDraft> {
  const last = lastWorking(points) ?? points.at(-1);
  if (!last) return { curve: id };
  const hottest = points.reduce<number | null>(
    (most, { celsius }) => (celsius === null ? most : Math.max(most ?? celsius, celsius)),
    null,
  );
  return {
    curve: id,
    moved: String(Math.round(last.movedMah)),
    minutes: String(Math.max(1, Math.round(last.seconds / 60))),
    ...(last.mv.length === series ? { end: last.mv.map((mv) => (mv / 1000).toFixed(3)).join(' ') } : {}),
    ...(hottest === null ? {} : { celsius: String(Math.round(hottest)) }),
  };
}

/** Where each of the record's fields stands in this form. */
const FIELDS: Readonly<Record<string, keyof ChargeDraft>> = {
  'payload.startCellsMv': 'start',
  'payload.endCellsMv': 'end',
  'payload.movedMah': 'moved',
  'payload.minutes': 'minutes',
  'payload.temperatureC': 'celsius',
  'payload.charger': 'charger',
  'payload.settings.cells': 'setCells',
  'payload.settings.topMv': 'setTop',
  'payload.settings.currentA': 'setAmps',
  'payload.remarks': 'remarks',
  at: 'ended',
};
