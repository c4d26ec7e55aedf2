import { CHEMISTRY } from '../../chemistry';
import type { PackFacts } from '../../pack';
import type { ChargeEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding, SettingSlip } from '../finding';

/**
 * The charger was set for another pack. A setting that drives cells above full (another lithium's higher top, a nickel
 * mode, more cells than there are) holds the pack whenever it happened; a slip that only charged it too little is
 * watched until a charge was set right.
 */
export function wrongSetting({ history }: CaseFile): readonly Finding[] {
  const { pack, charges } = history;
  const charging = charges.filter(({ mode }) => mode !== 'discharge');
  const dangerous = charging.findLast((charge) =>
    slipsOf(pack, charge).some((slip) => drivesTooHigh(pack, slip)),
  );
  const charge = dangerous ?? charging.at(-1);
  if (!charge) return [];
  const slips = slipsOf(pack, charge);
  if (slips.length === 0) return [];
  return [
    {
      rule: 'wrong-setting',
      severity: dangerous ? 'hold' : 'watch',
      at: charge.at,
      slips,
      records: charge.records,
    },
  ];
}

function slipsOf(pack: PackFacts, { settings }: ChargeEvent): readonly SettingSlip[] {
  const { fullMv } = CHEMISTRY[pack.chemistry];
  const { chemistry, cells, topMv, currentA } = settings;
  const labelA = pack.chargeC === null ? null : (pack.chargeC * pack.capacityMah) / 1000;
  const slips: SettingSlip[] = [];
  if (chemistry !== null && chemistry !== pack.chemistry)
    slips.push({ of: 'chemistry', set: chemistry, wanted: pack.chemistry });
  if (cells !== null && cells !== pack.series) slips.push({ of: 'cells', set: cells, wanted: pack.series });
  if (topMv !== null && fullMv !== null && topMv > fullMv)
    slips.push({ of: 'top', set: topMv, wanted: fullMv });
  if (currentA !== null && labelA !== null && currentA > labelA * ROUNDING)
    slips.push({ of: 'current', set: currentA, wanted: labelA });
  return slips;
}

/** Chargers set amps in steps; half a percent over the label is the step, not a slip. */
const ROUNDING = 1.005;

function drivesTooHigh(pack: PackFacts, slip: SettingSlip): boolean {
  switch (slip.of) {
    case 'chemistry': {
      const set = CHEMISTRY[slip.set].fullMv;
      const own = CHEMISTRY[pack.chemistry].fullMv;
      // A nickel mode ends on a peak that a lithium pack never shows; a lithium mode never sees a nickel pack's peak.
      return set === null || own === null || set > own;
    }
    case 'cells':
      return slip.set > slip.wanted;
    case 'top':
      return true;
    case 'current':
      return false;
    default:
      return slip satisfies never;
  }
}
