import { Link } from 'react-router';
import type { FlyingAnswer, PackRow, PackTypeAnswer } from '../../contract';
import { CHEMISTRY, isLithium } from '../../core/chemistry';
import { refillsLeft } from '../../core/fleet';
import { median } from '../../core/health';
import { wattHours } from '../../core/pack';
import { isOutOfUse } from '../../core/assess';
import { TAG } from '../kit/press';
import type { Shown } from './shown';

/** What the field packs still fill today, type by type: from what each holds now, and from what flights of the type really take. */
export function FieldPacks({ flying, register, rows }: Shown) {
  const packs = rows.filter(
    ({ fieldPack, life, verdict }) => fieldPack && life === 'in-service' && !isOutOfUse(verdict),
  );
  if (packs.length === 0) return null;
  const { rules } = register.rules;
  const types = flownTypes(flying, rows, register.types, rules.flight.maxDodPercent);
  return (
    <section aria-label="Field packs">
      <h2 className="border-b-2 border-ink pb-1">
        Refills left <span className="font-normal text-faint">from the field packs</span>
      </h2>
      <ul>
        {packs.map((row) => {
          const type = register.types.find(({ id }) => id === row.typeId);
          if (!type) return null;
          return (
            <li key={row.id} className="ruled py-1.5">
              <p className="flex flex-wrap items-baseline gap-x-3">
                <Link to={`/packs/${row.id}`} className={TAG}>
                  {row.tag}
                </Link>
                <span>
                  {row.socPercent === null
                    ? 'nobody knows what it holds: read it first'
                    : `holds about ${Math.round(row.socPercent)} % of ${Math.round(wattHours(type))} Wh`}
                </span>
              </p>
              {row.socPercent !== null && (
                <ul className="flex flex-wrap gap-x-5 text-sm">
                  {types.map(({ type: flown, refillWh }) => (
                    <li key={flown.id}>
                      <b className="font-mono">
                        {countWords(
                          refillsLeft(
                            wattHours(type),
                            row.socPercent!,
                            100 - rules.flight.maxDodPercent,
                            refillWh,
                          ),
                        )}
                      </b>{' '}
                      × {flown.name}
                    </li>
                  ))}
                </ul>
              )}
            </li>
          );
        })}
      </ul>
      <p className="py-1 text-sm text-faint">
        Down to the house’s reserve, with what the converter and charger lose. Whether another flight pack is
        cheaper is worked out under{' '}
        <Link to="/bench" className="text-accent underline">
          Calculators
        </Link>
        .
      </p>
    </section>
  );
}

/** More than anybody flies in a day needs no counting. */
function countWords(count: number): string {
  return count > 99 ? 'over 99' : String(count);
}

interface FlownType {
  readonly type: PackTypeAnswer;
  /** What one flight takes out, as its landings told; by the rules' deepest use where none did. */
  readonly refillWh: number;
}

/** Types that are in somebody's hands now or wanted on a day to come; where none is, all that flew lately. */
function flownTypes(
  { days, landings }: FlyingAnswer,
  rows: readonly PackRow[],
  types: readonly PackTypeAnswer[],
  deepestPercent: number,
): readonly FlownType[] {
  const now = new Set(
    rows.filter(({ holderId, fieldPack }) => holderId !== null && !fieldPack).map(({ typeId }) => typeId),
  );
  const planned = days.flatMap(({ cancelled, wants }) =>
    cancelled ? [] : wants.map(({ typeId }) => typeId),
  );
  const wanted = new Set([...now, ...planned]);
  const flown = new Set(landings.map(({ typeId }) => typeId));
  return types
    .filter(({ id, chemistry }) => isLithium(chemistry) && (wanted.size > 0 ? wanted : flown).has(id))
    .map((type) => {
      const used = landings.flatMap(({ typeId, usedMah }) =>
        typeId === type.id && usedMah !== null ? [usedMah] : [],
      );
      const volts = (CHEMISTRY[type.chemistry].nominalMv * type.series) / 1000;
      return {
        type,
        refillWh: used.length > 0 ? (median(used) / 1000) * volts : (wattHours(type) * deepestPercent) / 100,
      };
    });
}
