import { CHEMISTRY } from '../../chemistry';
import type { Chemistry } from '../../chemistry';
import type { PackFacts } from '../../pack';
import type { ChargeEvent } from '../../record';
import { DEFAULT_PRESET, PRESET_RULES } from '../../rules';
import { byAnswer } from '../answered';
import type { CaseFile } from '../caseFile';
import type { Finding, SettingSlip } from '../finding';

/**
 * The charger was set for another pack. A setting that drives cells above full or runs them flat (another lithium's higher
 * top, a nickel mode, a wrong cell count on a job that goes that way) holds the pack whenever it happened; a slip that only charged
 * it too little is watched until a job was set right.
 */
export function wrongSetting(file: CaseFile): readonly Finding[] {
  const { pack, charges } = file.history;
  const isDangerous = (charge: ChargeEvent) =>
    slipsOf(pack, charge).some((slip) => ruins(pack.chemistry, charge.mode, slip));
  const dangerous = byAnswer(file, 'wrong-setting', charges.filter(isDangerous));
  const latest = charges.at(-1);
  const milder = latest && !isDangerous(latest) ? [latest] : [];
  return [
    ...told(pack, dangerous.fresh, 'hold'),
    ...told(pack, dangerous.old, 'hold'),
    ...told(pack, milder, 'watch'),
  ];
}

/** What the latest of these charges was set to wrongly, with all of them for evidence. */
function told(pack: PackFacts, charges: readonly ChargeEvent[], severity: 'hold' | 'watch'): Finding[] {
  const charge = charges.at(-1);
  const slips = charge ? slipsOf(pack, charge) : [];
  if (!charge || slips.length === 0) return [];
  const records = charges.flatMap((one) => one.records);
  return [{ rule: 'wrong-setting', severity, at: charge.at, mode: charge.mode, slips, records }];
}

function slipsOf(pack: PackFacts, { settings, mode }: ChargeEvent): readonly SettingSlip[] {
  const { fullMv } = CHEMISTRY[pack.chemistry];
  const { chemistry, cells, topMv, currentA } = settings;
  const labelA = pack.chargeC === null ? null : (pack.chargeC * pack.capacityMah) / 1000;
  const slips: SettingSlip[] = [];
  if (chemistry !== null && chemistry !== pack.chemistry)
    slips.push({ of: 'chemistry', set: chemistry, wanted: pack.chemistry });
  if (cells !== null && cells !== pack.series) slips.push({ of: 'cells', set: cells, wanted: pack.series });
  if (mode === 'discharge') return slips;
  if (topMv !== null && fullMv !== null && topMv > fullMv)
    slips.push({ of: 'top', set: topMv, wanted: fullMv });
  if (currentA !== null && labelA !== null && currentA > labelA * ROUNDING)
    slips.push({ of: 'current', set: currentA, wanted: labelA });
  return slips;
}

/** Chargers set amps in steps; half a percent over the label is the step, not a slip. */
const ROUNDING = 1.005;

/** Where each chemistry is taken to be empty; a charger's own cut-off lies about there. */
const EMPTY_MV = PRESET_RULES[DEFAULT_PRESET].floors;

/** Whether a slip drives cells above full or below empty on such a job. A storage job may go either way. */
function ruins(own: Chemistry, mode: ChargeEvent['mode'], slip: SettingSlip): boolean {
  const filling = mode !== 'discharge';
  switch (slip.of) {
    case 'chemistry': {
      if (mode === 'discharge') return EMPTY_MV[slip.set].rechargeSoonMv < EMPTY_MV[own].rechargeSoonMv;
      const [set, full] = [CHEMISTRY[slip.set].fullMv, CHEMISTRY[own].fullMv];
      // A nickel mode ends on a peak that a lithium pack never shows; a lithium mode never sees a nickel pack's peak.
      return set === null || full === null || set > full;
    }
    case 'cells':
      if (mode === 'storage') return true;
      return filling ? slip.set > slip.wanted : slip.set < slip.wanted;
    case 'top':
      return true;
    case 'current':
      return false;
    default:
      return slip satisfies never;
  }
}
