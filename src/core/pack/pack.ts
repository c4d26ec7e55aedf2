import { CHEMISTRY } from '../chemistry';
import type { Chemistry } from '../chemistry';
import type { Instant, PackId } from '../measure';
import type { PlaceTemperature } from './climate';

export const DUTY_CLASSES = ['hard', 'normal', 'gentle'] as const;
export type DutyClass = (typeof DUTY_CLASSES)[number];

/** The label's facts, shared by all packs of a type. Label figures are claims, not measurements. */
export interface PackTypeFacts {
  readonly chemistry: Chemistry;
  /** Cell groups in series: the number of voltages the pack has. */
  readonly series: number;
  readonly parallel: number;
  readonly capacityMah: number;
  readonly continuousC: number | null;
  readonly burstC: number | null;
  /** The highest charge rate the label allows, as a multiple of capacity. */
  readonly chargeC: number | null;
  readonly dutyClass: DutyClass;
}

/** A smart pack's own way of storing itself, as programmed. */
export interface SmartSettings {
  readonly autoStorage: boolean;
  /** Hours without use after which the pack starts to bleed itself to storage. */
  readonly autoStorageAfterHours: number;
}

/** What judging needs to know of one physical pack besides its records. */
export interface PackFacts extends PackTypeFacts {
  readonly id: PackId;
  /** A large, gently loaded pack that powers the ground gear; it is allowed to wait charged for longer. */
  readonly fieldPack: boolean;
  readonly smart: SmartSettings | null;
  /** When its working life began; null counts from its receipt. */
  readonly inServiceAt: Instant | null;
  /** How warm the register's places have been, oldest first: a pack's temperature follows its place. */
  readonly placeTemperatures: readonly PlaceTemperature[];
}

/**
 * How a hand writes the cells of a type: series, and parallel when there is more than one.
 * @example cellsLabel({ series: 4, parallel: 2 }) // => "4S2P"
 * @example cellsLabel({ series: 1, parallel: 1 }) // => "1S"
 */
export function cellsLabel(type: Pick<PackTypeFacts, 'series' | 'parallel'>): string {
  return type.parallel > 1 ? `${type.series}S${type.parallel}P` : `${type.series}S`;
}

/**
 * What a pack holds by its label, watt-hours: Ah × nominal volts × cells. Source: the practice.
 * @example wattHours({ chemistry: 'lipo', series: 4, capacityMah: 5000 }) // => 74
 */
export function wattHours({
  chemistry,
  series,
  capacityMah,
}: Pick<PackTypeFacts, 'chemistry' | 'series' | 'capacityMah'>): number {
  return (capacityMah * CHEMISTRY[chemistry].nominalMv * series) / 1e6;
}
