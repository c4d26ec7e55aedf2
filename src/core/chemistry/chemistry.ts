export const CHEMISTRIES = ['lipo', 'lihv', 'liion', 'lifepo4', 'nimh'] as const;

export type Chemistry = (typeof CHEMISTRIES)[number];

/** The chemistries that are stored by voltage. NiMH is not: no resting voltage tells how it keeps. */
export type LithiumChemistry = Exclude<Chemistry, 'nimh'>;

export const LITHIUM_CHEMISTRIES: readonly LithiumChemistry[] = ['lipo', 'lihv', 'liion', 'lifepo4'];

export interface ChemistryFacts {
  readonly name: string;
  readonly nominalMv: number;
  /** Never charge above this, per cell. NiMH ends on a voltage peak, so it has none. */
  readonly fullMv: number | null;
  /** The highest voltage one cell can physically show on a meter; above it the number was mistyped. */
  readonly plausibleMaxMv: number;
  /** Storage targets any school would defend, per cell. A house rule outside this range is refused. */
  readonly storageRangeMv: { readonly low: number; readonly high: number } | null;
  /** Whether each cell group has its own tap on a balance plug, so that cells can be read one by one. */
  readonly cellTaps: boolean;
}

/** What is true of a chemistry whatever the house rules say. Source: the practice's chemistry table (docs/rules.md). */
export const CHEMISTRY: Readonly<Record<Chemistry, ChemistryFacts>> = {
  lipo: {
    name: 'LiPo',
    nominalMv: 3700,
    fullMv: 4200,
    plausibleMaxMv: 5000,
    storageRangeMv: { low: 3800, high: 3850 },
    cellTaps: true,
  },
  lihv: {
    name: 'LiHV',
    nominalMv: 3800,
    fullMv: 4350,
    plausibleMaxMv: 5000,
    storageRangeMv: { low: 3800, high: 3850 },
    cellTaps: true,
  },
  liion: {
    name: 'Li-ion',
    nominalMv: 3600,
    fullMv: 4200,
    plausibleMaxMv: 5000,
    storageRangeMv: { low: 3600, high: 3750 },
    cellTaps: true,
  },
  lifepo4: {
    name: 'LiFePO4',
    nominalMv: 3200,
    fullMv: 3600,
    plausibleMaxMv: 5000,
    storageRangeMv: { low: 3250, high: 3300 },
    cellTaps: true,
  },
  nimh: {
    name: 'NiMH',
    nominalMv: 1200,
    fullMv: null,
    plausibleMaxMv: 1800,
    storageRangeMv: null,
    cellTaps: false,
  },
};

/**
 * Whether a chemistry is stored by voltage.
 * @example isLithium('liion') // => true
 * @example isLithium('nimh') // => false
 */
export function isLithium(chemistry: Chemistry): chemistry is LithiumChemistry {
  return chemistry !== 'nimh';
}
