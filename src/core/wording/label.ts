import { CHEMISTRY, isLithium } from '../chemistry';
import { cellsLabel } from '../pack';
import type { PackTypeFacts } from '../pack';
import type { HouseRules } from '../rules';
import { amps, capacity, volts } from './figures';

/** What a hand needs from a tag label: what the pack is, its 1C current, and the volts it is stored at. */
export function labelLines(type: PackTypeFacts, rules: HouseRules): readonly string[] {
  const { chemistry, series, capacityMah } = type;
  const facts = [
    `${CHEMISTRY[chemistry].name} ${cellsLabel(type)} ${capacity(capacityMah)}`,
    `1C = ${amps(capacityMah / 1000)}`,
  ];
  if (!isLithium(chemistry)) return [...facts, 'NiMH charger only'];
  const { targetMv } = rules.storage[chemistry];
  return [...facts, `Store at ${volts(targetMv * series)} V`, `(${volts(targetMv)} V a cell)`];
}
