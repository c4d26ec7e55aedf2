import { byAnswer } from '../answered';
import { lowestCell } from '../caseFile';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';

/**
 * A rested cell below the damage floor takes the pack out of use, and charging it up again does not bring it back:
 * the harm is in the cell. The floor itself is not below it: 3.00 exactly passes. Points at the worst reading; what a release
 * answered already is told apart, so that an old breach never stands before a new one.
 */
export function damageFloor(file: CaseFile): readonly Finding[] {
  const limitMv = file.rules.floors[file.history.pack.chemistry].damageMv;
  return belowDamage(file, 'damage-floor').map((breach) => ({
    rule: 'damage-floor',
    severity: 'hold',
    limitMv,
    ...breach,
  }));
}

/** The lowest cell below the damage floor, with all readings that say so: new ones first, then those a release has answered. */
export function belowDamage(
  file: CaseFile,
  rule: 'damage-floor' | 'over-discharged',
): readonly Pick<Extract<Finding, { rule: 'damage-floor' }>, 'low' | 'records'>[] {
  const { damageMv } = file.rules.floors[file.history.pack.chemistry];
  const breaches = file.rested.filter((reading) => lowestCell(reading).mv < damageMv);
  if (breaches.length === 0) return [];
  const { fresh, old } = byAnswer(file, rule, breaches);
  return [fresh, old].filter((list) => list.length > 0).map(worstOf);
}

function worstOf(readings: readonly RestedReading[]) {
  const worst = readings.reduce((low, one) => (lowestCell(one).mv < lowestCell(low).mv ? one : low));
  return { low: lowestCell(worst), records: readings.flatMap(({ records }) => records) };
}
