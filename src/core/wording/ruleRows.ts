import { CHEMISTRIES, CHEMISTRY, LITHIUM_CHEMISTRIES } from '../chemistry';
import type { HouseRules } from '../rules';
import { volts } from './figures';

/** One house rule as a line of a form: its name and its value with unit. */
export interface RuleRow {
  readonly title: string;
  readonly value: string;
}

/** Every house rule, in the order of the work. The same rows for every rule set, so that sets can stand side by side. */
export function ruleRows(rules: HouseRules): readonly RuleRow[] {
  const row = (title: string, value: string): RuleRow => ({ title, value });
  return [
    ...LITHIUM_CHEMISTRIES.map((chemistry) =>
      row(`Storage target, ${CHEMISTRY[chemistry].name}`, `${volts(rules.storage[chemistry].targetMv)} V`),
    ),
    ...LITHIUM_CHEMISTRIES.map((chemistry) => {
      const { bandLowMv, bandHighMv } = rules.storage[chemistry];
      return row(`Storage band, ${CHEMISTRY[chemistry].name}`, `${volts(bandLowMv)}–${volts(bandHighMv)} V`);
    }),
    row('Allowance above the band', `${rules.allowance.highHours} h`),
    row('Allowance above the band, field packs', `${rules.allowance.fieldHighHours} h`),
    row('Allowance below the band', `${rules.allowance.lowHours} h`),
    row('Counts as rested after', `${rules.restMinutes} min`),
    ...CHEMISTRIES.map((chemistry) =>
      row(
        `Recharge-soon floor, ${CHEMISTRY[chemistry].name}`,
        `${volts(rules.floors[chemistry].rechargeSoonMv)} V`,
      ),
    ),
    ...LITHIUM_CHEMISTRIES.map((chemistry) =>
      row(
        `Over-discharge line, ${CHEMISTRY[chemistry].name}`,
        voltsOrNone(rules.floors[chemistry].overDischargeMv),
      ),
    ),
    ...CHEMISTRIES.map((chemistry) =>
      row(`Damage floor, ${CHEMISTRY[chemistry].name}`, `${volts(rules.floors[chemistry].damageMv)} V`),
    ),
    row('Over-discharged packs', rules.overDischarged),
    row('Held when above full by', `${rules.overfullHoldMv} mV`),
    row('Spread in tolerance', `${rules.spread.toleranceMv} mV`),
    row(
      'Spread to watch, over',
      `${rules.spread.watchMv} mV, or ${rules.spread.watchSocPercent} % of charge`,
    ),
    row('Spread to retire for after balancing, over', `${rules.spread.retireMv} mV`),
    ...LITHIUM_CHEMISTRIES.map((chemistry) =>
      row(`Top voltage, ${CHEMISTRY[chemistry].name}`, `${volts(rules.topMv[chemistry])} V`),
    ),
    row('Charge rate, home / field', `${rules.charge.homeC}C / ${rules.charge.fieldC}C`),
    row(
      'Balance',
      rules.charge.balanceEvery === 1 ? 'every charge' : `every ${rules.charge.balanceEvery}th charge`,
    ),
    ...CHEMISTRIES.map((chemistry) =>
      row(`Land at, loaded, ${CHEMISTRY[chemistry].name}`, `${volts(rules.flight.landAtMv[chemistry])} V`),
    ),
    row('Deepest use', `${rules.flight.maxDodPercent} %`),
    row('After a crash without deformation', rules.afterCrash),
    row('Idle lithium', `${rules.idle.doing} every ${rules.idle.everyDays} days`),
    row('Inspect every', `${rules.inspectionDays} days`),
    row('Names to retire a pack', rules.retirementNames === 1 ? 'one' : 'two'),
  ];
}

function voltsOrNone(mv: number | null): string {
  return mv === null ? 'none' : `${volts(mv)} V`;
}
