import { lowestCell } from '../caseFile';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';

/**
 * A rested cell below the damage floor takes the pack out of use, and charging it up again does not bring it back:
 * the harm is in the cell. The floor itself is not below it: 3.00 exactly passes. Points at the worst reading.
 */
export function damageFloor(file: CaseFile): readonly Finding[] {
  const worst = worstBelowDamage(file);
  if (!worst) return [];
  const limitMv = file.rules.floors[file.history.pack.chemistry].damageMv;
  return [
    { rule: 'damage-floor', severity: 'hold', low: lowestCell(worst), limitMv, records: worst.records },
  ];
}

/** The rested reading with the lowest cell, if that cell is below the damage floor. */
export function worstBelowDamage({ history, rules, rested }: CaseFile): RestedReading | null {
  const { damageMv } = rules.floors[history.pack.chemistry];
  return rested.reduce<RestedReading | null>((worst, reading) => {
    const { mv } = lowestCell(reading);
    return mv < damageMv && (!worst || mv < lowestCell(worst).mv) ? reading : worst;
  }, null);
}
