import type { PackDetails, PackTypeAnswer, RegisterAnswer } from '../../contract';
import type { PackFacts } from '../../core/pack';

/** What judging needs to know of a pack, from the two answers that hold it. */
export function factsOf(
  pack: PackDetails,
  type: PackTypeAnswer,
  { placeTemperatures }: Pick<RegisterAnswer, 'placeTemperatures'>,
): PackFacts {
  return {
    id: pack.id,
    fieldPack: pack.fieldPack,
    smart: pack.smart,
    inServiceAt: pack.inServiceAt,
    chemistry: type.chemistry,
    series: type.series,
    parallel: type.parallel,
    capacityMah: type.capacityMah,
    continuousC: type.continuousC,
    burstC: type.burstC,
    chargeC: type.chargeC,
    dutyClass: type.dutyClass,
    placeTemperatures,
  };
}
