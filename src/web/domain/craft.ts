import type { CraftAnswer, FlyingAnswer, PackRow, PackTypeAnswer, RegisterAnswer } from '../../contract';
import { fit, fitPackOf, flightCard } from '../../core/flying';
import type { FitAdapter, FitCheck, FlightCard, HoverStep } from '../../core/flying';
import type { CraftId, Instant } from '../../core/measure';
import type { HouseRules } from '../../core/rules';

/** A pack or a type held against a craft, from the answers that hold both. */

/** The leads that lie ready on the bench. */
export function adaptersOf({ equipment }: Pick<RegisterAnswer, 'equipment'>): readonly FitAdapter[] {
  return equipment.flatMap(({ name, inUse, facts }) =>
    inUse && facts.kind === 'adapter' ? [{ name, from: facts.from, to: facts.to }] : [],
  );
}

/** A type as a craft sees it: by its label, and sound. */
export function typeFits(
  type: PackTypeAnswer,
  craft: Pick<CraftAnswer, 'facts'>,
  register: RegisterAnswer,
): readonly FitCheck[] {
  return fit(fitPackOf(type), craft.facts, register.rules.rules, adaptersOf(register));
}

/** A pack as a craft sees it: by its label, by what it still holds, and whether it is on caution. */
export function packFits(
  row: Pick<PackRow, 'typeId' | 'capacityMah' | 'verdict'>,
  craft: Pick<CraftAnswer, 'facts'>,
  register: RegisterAnswer,
): readonly FitCheck[] {
  const type = register.types.find(({ id }) => id === row.typeId);
  if (!type) return [];
  const pack = fitPackOf(type, { measuredMah: row.capacityMah, onWatch: row.verdict === 'watch' });
  return fit(pack, craft.facts, register.rules.rules, adaptersOf(register));
}

/** What a craft’s returns have shown; null until there are enough. */
export function stepOf(flying: FlyingAnswer | undefined, craftId: CraftId | null): HoverStep | null {
  return flying?.steps.find((step) => step.craftId === craftId) ?? null;
}

/** Timer and landing volts of this pack on this craft. */
export function cardFor(
  row: Pick<PackRow, 'capacityMah' | 'socPercent'>,
  type: Pick<PackTypeAnswer, 'chemistry'>,
  craft: Pick<CraftAnswer, 'facts'>,
  step: HoverStep | null,
  rules: HouseRules,
  ambientC: number | null,
): FlightCard {
  const pack = { chemistry: type.chemistry, measuredMah: row.capacityMah, socPercent: row.socPercent };
  return flightCard(pack, craft.facts, step, rules, ambientC);
}

/** A debt of writing down is a pilot’s for so long; after that the pack is to be measured like any other. */
const OWED_FOR_MS = 7 * 24 * 3_600_000;

/** Whether somebody still owes what a pack’s last use left open. */
export function isOwed({ owed, verdict }: Pick<PackRow, 'owed' | 'verdict'>, now: Instant): boolean {
  return owed !== null && now - owed.flownAt < OWED_FOR_MS && verdict !== 'retired' && verdict !== 'recycled';
}
