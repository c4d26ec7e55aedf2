import type { Chemistry } from '../chemistry';
import type { EquipmentId } from '../measure';
import type { ChargeMode } from '../record';

export const SUPPLY_KINDS = ['mains', 'dc', 'field-pack'] as const;
/** What a charger is fed from: the mains, a 12 V supply or a vehicle, or a large pack in the field. */
export type SupplyKind = (typeof SUPPLY_KINDS)[number];

export const STORAGE_DIRECTIONS = ['both', 'raise', 'lower', 'neither'] as const;
/** Which way a charger's storage mode can move a pack. */
export type StorageDirection = (typeof STORAGE_DIRECTIONS)[number];

/** One output of a charger: one job at a time. Null where it cannot do that at all. */
export interface Channel {
  /** What stands beside its sockets: "1", "A". */
  readonly key: string;
  readonly chargeA: number;
  readonly chargeW: number;
  readonly dischargeA: number | null;
  readonly dischargeW: number | null;
  readonly outOfOrder: boolean;
}

/** What a charger's channels have between them on one kind of supply. Null where the channels' own limits are all there is. */
export interface SharedLimit {
  readonly supply: SupplyKind;
  readonly watts: number | null;
  readonly amps: number | null;
  /** A pool is given to whichever channel asks; in fixed shares each channel has its part whatever the others do. */
  readonly split: 'pool' | 'shares';
  /** The most one channel gets while it is the only one that runs. */
  readonly aloneW: number | null;
}

/** The fields a charger is set by. */
export const SETTING_FIELDS = ['chemistry', 'mode', 'cells', 'topV', 'amps'] as const;
export type SettingField = (typeof SETTING_FIELDS)[number];

/** What a message on a charger's display means, and what to do then. */
export interface ErrorText {
  readonly text: string;
  readonly means: string;
  readonly next: string;
}

export interface Charger {
  readonly kind: 'charger';
  readonly channels: readonly Channel[];
  /** The cell counts it can be set to, by chemistry; it does nothing for a chemistry that is missing. */
  readonly cells: Readonly<Partial<Record<Chemistry, { readonly least: number; readonly most: number }>>>;
  readonly modes: readonly ChargeMode[];
  readonly shared: readonly SharedLimit[];
  /** What it hangs on; null takes the mains without a limit of its own. */
  readonly supplyId: EquipmentId | null;
  readonly stepA: number;
  readonly leastA: number;
  /** Null for a charger that does not balance. */
  readonly balanceA: number | null;
  /** A cell below this it does not start on, millivolts. */
  readonly floorMv: number | null;
  readonly storage: StorageDirection;
  /** The current its storage mode runs at whatever is set; null where the set current holds. */
  readonly storageA: number | null;
  readonly connectors: readonly string[];
  /** What is connected first, next and last, in its own maker's order. */
  readonly connectOrder: readonly string[];
  /** What its display calls each field; a field that is missing is called by Malle's own word. */
  readonly words: Readonly<Partial<Record<SettingField, string>>>;
  readonly errors: readonly ErrorText[];
}

/** A load that takes charge out beside the chargers: it cannot charge, and nobody needs a channel for it. */
export interface ExternalLoad {
  readonly kind: 'load';
  readonly amps: number;
  readonly watts: number;
  readonly connectors: readonly string[];
}

/** A board that holds several packs on one channel. */
export interface Board {
  readonly kind: 'board';
  readonly wiring: 'parallel' | 'series';
  readonly ports: number;
  /** The plug its ports take; null where they take any. */
  readonly connector: string | null;
  /** The plug of its lead to the charger; null where it fits. */
  readonly lead: string | null;
  /** Which cell of the charger's display each slot is, slot 1 first. Some boards are labelled backwards. */
  readonly slotCells: readonly number[];
  /** How far packs may lie apart in volts a cell, millivolts; the limit itself is allowed. */
  readonly toleranceMv: number;
}

/** A lead from a charger's output to a pack's connector. */
export interface Adapter {
  readonly kind: 'adapter';
  readonly from: string;
  readonly to: string;
  /** Whether it carries the contact through which a smart pack's memory is read. */
  readonly data: boolean;
}

/** What chargers hang on. */
export interface Supply {
  readonly kind: 'supply';
  readonly supply: SupplyKind;
  /** Null where nobody needs to count. */
  readonly watts: number | null;
  /** What it can give in an evening: a field pack is empty then. */
  readonly energyWh: number | null;
  /** Watts it takes back from a pack that is being discharged; null where it takes none. */
  readonly takesBackW: number | null;
}

export type EquipmentFacts = Charger | ExternalLoad | Board | Adapter | Supply;
export type EquipmentKind = EquipmentFacts['kind'];
export const EQUIPMENT_KINDS = [
  'charger',
  'load',
  'board',
  'adapter',
  'supply',
] as const satisfies readonly EquipmentKind[];

/** A thing on the bench, by its name there. */
export interface Equipment<Facts extends EquipmentFacts = EquipmentFacts> {
  readonly id: EquipmentId;
  readonly name: string;
  readonly facts: Facts;
  /** Out of the cupboard and usable tonight. */
  readonly inUse: boolean;
}

/** The share of a supply's watts that a charger passes on. Source: the practice's field sums take 0.85 to 0.9. */
export const CHARGER_EFFICIENCY = 0.88;

/** The most watts and amps one channel gives on a supply, others running or not. */
export interface ChannelLimits {
  readonly amps: number;
  readonly watts: number;
}

/**
 * What a channel gives at most while it charges: its own figures, or less where the charger's shared limit on this supply leaves
 * less. In fixed shares every channel has its part; from a pool one channel may have all of it, or what it gets alone.
 */
export function channelLimits(charger: Charger, channel: Channel, supply: SupplyKind): ChannelLimits {
  const shared = sharedLimit(charger, supply);
  const own = { amps: channel.chargeA, watts: channel.chargeW };
  if (!shared) return own;
  const { watts, amps, split, aloneW } = shared;
  const share = split === 'shares' ? 1 / charger.channels.length : 1;
  return {
    amps: Math.min(own.amps, amps === null ? Infinity : amps * share),
    watts: Math.min(
      own.watts,
      watts === null ? Infinity : watts * share,
      split === 'pool' && aloneW !== null ? aloneW : Infinity,
    ),
  };
}

/** What the channels have between them on this supply; null where each has its own. */
export function sharedLimit(charger: Pick<Charger, 'shared'>, supply: SupplyKind): SharedLimit | null {
  return charger.shared.find((one) => one.supply === supply) ?? null;
}

/** Whether two plugs are the same, however they were typed. */
export function samePlug(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.trim().toLowerCase();
}

/** How a charger's output takes a plug: directly, by an adapter, or not at all. A plug nobody noted is taken to fit. */
export function adapterFor(
  outputs: readonly string[],
  connector: string | null,
  adapters: readonly Equipment<Adapter>[],
): 'direct' | Equipment<Adapter> | null {
  if (connector === null || outputs.length === 0) return 'direct';
  if (outputs.some((output) => samePlug(output, connector))) return 'direct';
  return (
    adapters.find(
      ({ facts, inUse }) =>
        inUse && samePlug(facts.to, connector) && outputs.some((output) => samePlug(facts.from, output)),
    ) ?? null
  );
}
