import type { ConsignmentId, Instant, PersonId, PlaceId, RecordId } from '../measure';

export const LIFE_STATES = [
  'in-service',
  'retiring',
  'retired',
  'marked',
  'discharging',
  'resting',
  'flat',
  'unsafe',
  'insulated',
  'binned',
  'consigned',
  'recycled',
] as const;
/**
 * Where a pack stands between service and recycler. `retiring` waits for a second name, `resting` for the look after a
 * day, because cells rebound; `unsafe` will not be discharged and is packed apart.
 */
export type LifeState = (typeof LIFE_STATES)[number];

/** What takes the last charge out: a lamp or resistor as its label says, or the charger's own end-of-life mode. */
export type DrainLoad =
  | { readonly by: 'lamp'; readonly ratedV: number; readonly ratedW: number }
  | { readonly by: 'resistor'; readonly ohms: number; readonly ratedW: number }
  | { readonly by: 'charger'; readonly charger: string };

export const DRAIN_PLACES = ['outdoors', 'fireproof'] as const;
/** Where a pack may be drained: under the sky, or where nothing can catch fire. */
export type DrainPlace = (typeof DRAIN_PLACES)[number];

/** One step towards the recycler; each says what was checked. */
export type DisposalPayload =
  /** With a red band. */
  | { readonly step: 'marked' }
  | {
      readonly step: 'discharging';
      readonly load: DrainLoad;
      readonly where: DrainPlace;
      /** Who watches it; nothing is drained alone. */
      readonly attendant: string;
    }
  | { readonly step: 'verified'; readonly cellsMv: readonly number[] }
  | { readonly step: 'unsafe'; readonly why: string }
  | { readonly step: 'insulated'; readonly how: string }
  /** Sound and at storage charge: its contacts are covered without a last discharge, where house rules and recycler allow that. */
  | { readonly step: 'insulated-charged'; readonly how: string }
  | { readonly step: 'binned'; readonly placeId: PlaceId }
  | { readonly step: 'consigned' | 'recycled'; readonly consignmentId: ConsignmentId }
  | { readonly step: 'taken-back'; readonly consignmentId: ConsignmentId; readonly reason: string }
  | { readonly step: 'reinstated'; readonly reason: string };
export type DisposalStep = DisposalPayload['step'];

/** How a pack's life stands, and what the standing rests on. */
export interface Life {
  readonly state: LifeState;
  /** Since when; null while it was never retired. */
  readonly since: Instant | null;
  readonly by: PersonId | null;
  /** The retirement decision it stands under. */
  readonly decisionId: RecordId | null;
  readonly decidedBy: PersonId | null;
  readonly retiredAt: Instant | null;
  readonly consignmentId: ConsignmentId | null;
  /** It was declared unsafe to discharge, and goes packed apart. */
  readonly apart: boolean;
  /** It leaves at storage charge, without a last discharge. */
  readonly charged: boolean;
  readonly records: readonly RecordId[];
}

export const IN_SERVICE: Life = {
  state: 'in-service',
  since: null,
  by: null,
  decisionId: null,
  decidedBy: null,
  retiredAt: null,
  consignmentId: null,
  apart: false,
  charged: false,
  records: [],
};

/** Volts per cell up to which a pack counts as empty, millivolts. Source: the practice. */
export const FLAT_MV = 100;

/** From which states each step leads on. Source: the practice's way from retirement to recycler. */
const FROM: Readonly<Record<DisposalStep, readonly LifeState[]>> = {
  marked: ['retired'],
  discharging: ['marked'],
  verified: ['discharging', 'resting'],
  unsafe: ['marked', 'discharging', 'resting'],
  insulated: ['flat', 'unsafe'],
  'insulated-charged': ['marked'],
  binned: ['insulated'],
  consigned: ['binned'],
  'taken-back': ['consigned'],
  recycled: ['consigned'],
  // Only before its discharge.
  reinstated: ['retiring', 'retired', 'marked'],
};

/**
 * The steps that a pack in this state may take.
 * @example stepsFrom('consigned') // => ['taken-back', 'recycled']
 */
export function stepsFrom(state: LifeState): readonly DisposalStep[] {
  return (Object.keys(FROM) as DisposalStep[]).filter((step) => FROM[step].includes(state));
}

/**
 * Whether it still belongs to the packs that are flown, held or decided about.
 * @example isInService({ state: 'retiring' }) // => true
 * @example isInService({ state: 'flat' }) // => false
 */
export function isInService({ state }: Pick<Life, 'state'>): boolean {
  return state === 'in-service' || state === 'retiring';
}

/** The state after a step; null when the step does not lead on from here. */
export function stateAfter(state: LifeState, payload: DisposalPayload): LifeState | null {
  if (!FROM[payload.step].includes(state)) return null;
  switch (payload.step) {
    case 'marked':
    case 'discharging':
    case 'unsafe':
    case 'insulated':
    case 'binned':
    case 'consigned':
    case 'recycled':
      return payload.step;
    case 'insulated-charged':
      return 'insulated';
    case 'verified':
      // Read above the line a day later it has rebounded, and is discharged on.
      if (payload.cellsMv.some((mv) => mv > FLAT_MV)) return 'discharging';
      return state === 'resting' ? 'flat' : 'resting';
    case 'taken-back':
      return 'binned';
    case 'reinstated':
      return 'in-service';
    default:
      return payload satisfies never;
  }
}

interface LifeEvent {
  readonly at: Instant;
  readonly by: PersonId;
  readonly id: RecordId;
}

/** The life after a step that was taken. A step that leads nowhere from here changes nothing. */
export function lifeAfterStep(life: Life, event: LifeEvent & { readonly payload: DisposalPayload }): Life {
  const { payload, at, by, id } = event;
  const state = stateAfter(life.state, payload);
  if (state === null) return life;
  if (state === 'in-service') return { ...IN_SERVICE, records: [...life.records, id] };
  return {
    ...life,
    state,
    since: at,
    by,
    apart: life.apart || state === 'unsafe',
    charged: life.charged || payload.step === 'insulated-charged',
    consignmentId: 'consignmentId' in payload && state !== 'binned' ? payload.consignmentId : null,
    records: [...life.records, id],
  };
}

/** The life after a decision to retire: at once, or once a second name stands under it. */
export function lifeAfterRetirement(life: Life, event: LifeEvent & { readonly secondWanted: boolean }): Life {
  if (!isInService(life)) return life;
  const { at, by, id, secondWanted } = event;
  return {
    ...IN_SERVICE,
    state: secondWanted ? 'retiring' : 'retired',
    since: at,
    by,
    decisionId: id,
    decidedBy: by,
    retiredAt: secondWanted ? null : at,
    records: [...life.records, id],
  };
}

/** The life after a second person put a name under the retirement that waits for one. */
export function lifeAfterSecondName(life: Life, event: LifeEvent & { readonly decisionId: RecordId }): Life {
  const { at, by, id, decisionId } = event;
  if (life.state !== 'retiring' || life.decisionId !== decisionId || life.decidedBy === by) return life;
  return { ...life, state: 'retired', since: at, by, retiredAt: at, records: [...life.records, id] };
}
