import type { Chemistry } from '../chemistry';
import { meanResistance } from '../health';
import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import type { Assessment } from './assess';

/** What the bench asks to know of a pack beside its cells and its clock. It follows from the records and is kept with the pack's state. */
export interface BenchFacts {
  /** As last measured, never more than the label. */
  readonly capacityMah: number;
  /** The mean cell's resistance, mΩ at 25 °C: as last measured, else what a pack of its kind commonly has. */
  readonly cellMilliohm: number;
  /** From when on it has had its time to cool, and to rest after a discharge. */
  readonly freeFrom: Instant;
  /** Whether it was looked over since its last use. */
  readonly looked: boolean;
  /** To be charged no faster than after a long rest: it lay long, is on caution, or its label states no rate. */
  readonly gently: boolean;
  readonly balanceDue: boolean;
  /** Under its recharge-soon floor. */
  readonly underFloor: boolean;
  /** A balance pass failed: to be emptied and filled once more. */
  readonly cycle: boolean;
}

/** Milliohm times ampere-hours of an ordinary cell with its share of the leads: only where nobody has measured. */
const USUAL_MILLIOHM_AH: Readonly<Record<Chemistry, number>> = {
  lipo: 20,
  lihv: 22,
  liion: 80,
  lifepo4: 45,
  nimh: 60,
};

/** @param assessment of the same history at the same moment */
export function benchFacts(
  history: PackHistory,
  {
    findings,
    verdict,
    mayFly,
    capacityMah,
  }: Pick<Assessment, 'findings' | 'verdict' | 'mayFly' | 'capacityMah'>,
  rules: HouseRules,
): BenchFacts {
  const { pack, flights, charges, inspections, resistances } = history;
  const found = (rule: (typeof findings)[number]['rule']) =>
    findings.some((finding) => finding.rule === rule);
  const flownAt = flights.at(-1)?.at ?? null;
  const emptiedAt = charges.findLast(({ mode }) => mode === 'discharge')?.at ?? null;
  const lookedAt = inspections.at(-1)?.at ?? null;
  return {
    capacityMah,
    cellMilliohm:
      meanResistance(resistances.slice(-1))[0]?.value ??
      USUAL_MILLIOHM_AH[pack.chemistry] / (pack.capacityMah / 1000),
    freeFrom: Math.max(
      flownAt === null ? 0 : flownAt + rules.heat.coolMinutes * MINUTE_MS,
      emptiedAt === null ? 0 : emptiedAt + rules.restMinutes * MINUTE_MS,
    ),
    looked: mayFly !== 'inspect-first' && (flownAt === null || (lookedAt !== null && lookedAt >= flownAt)),
    gently: verdict === 'watch' || pack.chargeC === null || found('long-rest'),
    balanceDue: found('balance-due'),
    underFloor: found('recharge-soon'),
    cycle: findings.some(({ rule, severity }) => rule === 'charge-failed' && severity === 'watch'),
  };
}
