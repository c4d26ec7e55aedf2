import type { PackDetails, PackTypeAnswer } from '../../../contract';
import { amps, dayWords, volts } from '../../../core/wording';
import { isLithium } from '../../../core/chemistry';
import { useReader } from '../../app/clock';
import { useRegister } from '../../app/queries';
import type { PackView } from '../../domain/packView';
import { useNames } from '../../domain/useNames';

/** The label's facts and the currents that follow from them, where it lies, and whose it is. */
export function LabelFacts({
  pack,
  type,
  view,
}: {
  pack: PackDetails;
  type: PackTypeAnswer;
  view: PackView;
}) {
  const reader = useReader();
  const names = useNames();
  const rules = useRegister().data?.rules.rules;
  const ah = type.capacityMah / 1000;
  const { placeId, holderId, pack: facts } = view.history;
  const { smart } = facts;
  const storage = isLithium(type.chemistry) && rules ? rules.storage[type.chemistry] : null;
  const rows: readonly [string, string | 0 | null][] = [
    ['Type', type.name],
    ['Lies in', placeId ? names.place(placeId) : 'no fixed place'],
    ['With', holderId && names.person(holderId)],
    ['1C is', amps(ah)],
    ['Charge, at most', type.chargeC && `${type.chargeC}C, ${amps(type.chargeC * ah)}`],
    ['Sustained', type.continuousC && `${type.continuousC}C, ${amps(type.continuousC * ah)}`],
    [
      'Storage',
      storage && `${volts(storage.targetMv)} V a cell, ${volts(storage.targetMv * type.series)} V the pack`,
    ],
    ['Connector', type.connector],
    ['Balance plug', type.balancePlug],
    ['Mass', type.massG && `${type.massG} g`],
    ['Owner', pack.owner],
    ['Home', pack.homePlaceId && names.place(pack.homePlaceId)],
    ['In service', pack.inServiceAt && `since ${dayWords(pack.inServiceAt, reader)}`],
    ['Field pack', pack.fieldPack ? 'yes, may wait charged longer' : null],
    [
      'Stores itself',
      smart && (smart.autoStorage ? `after ${smart.autoStorageAfterHours} h` : 'switched off'),
    ],
    ['Formerly', pack.formerTags.length > 0 ? pack.formerTags.join(', ') : null],
  ];
  return (
    <dl className="mt-4 text-sm">
      {rows.map(
        ([name, value]) =>
          value && (
            <div key={name} className="ruled flex gap-3 py-1">
              <dt className="w-28 shrink-0 text-faint">{name}</dt>
              <dd className="min-w-0 break-words">{value}</dd>
            </div>
          ),
      )}
    </dl>
  );
}
