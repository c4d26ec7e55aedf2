import type { Charged, MayFly, StepKind, Verdict } from '../assess';
import type { StorageState } from '../storage';

/** The next step as an instruction, short enough for a button or a table cell. */
export const STEP_WORDS: Readonly<Record<StepKind, string>> = {
  'keep-off': 'Keep off, watch it',
  'inspect-held': 'Inspect it',
  'read-held': 'Read it rested',
  'attend-recovery': 'Stay with the recovery',
  'set-apart': 'Set apart, decide',
  decide: 'Decide',
  'second-name': 'Put a second name under it',
  'mark-red': 'Mark it with a red band',
  drain: 'Discharge it to nothing',
  'pack-apart': 'Pack it apart, undischarged',
  'verify-empty': 'Read that it is empty',
  'verify-again': 'Read it again for rebound',
  insulate: 'Cover its contacts',
  bin: 'Into the recycling container',
  consign: 'Put it on a consignment',
  'hand-over': 'Hand it over',
  'store-up-now': 'Charge to storage now',
  'top-up': 'Top it up now',
  'feel-again': 'Let it cool, feel it again',
  'fly-or-drain': 'Fly or drain it today',
  measure: 'Measure it',
  'measure-rested': 'Read it rested',
  'store-down': 'Discharge to storage',
  'store-up': 'Charge to storage',
  'send-back': 'Send back to the seller',
  mend: 'Put right what failed',
  'inspect-season': 'Inspect for the season',
  'complete-baseline': 'Complete its baseline',
  inspect: 'Inspect it',
  cycle: 'Cycle and read',
  're-read': 'Measure again',
  'set-smart': 'Set its memory by the rules',
  'read-memory': 'Read its memory',
  balance: 'Balance at next charge',
  'measure-resistance': 'Measure resistance again',
  'measure-again': 'Measure it again soon',
  'check-charger': 'Check the charger’s setting',
  review: 'Review, keep on caution',
};

export const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  fit: 'fit',
  watch: 'caution',
  hold: 'hold',
  'retire-advised': 'retire advised',
  retired: 'retired',
  recycled: 'recycled',
};

/** The pilot's answer, in words that stand alone. */
export const MAY_FLY_WORDS: Readonly<Record<MayFly, string>> = {
  yes: 'May be flown',
  'measure-first': 'Measure before flying',
  'inspect-first': 'Inspect before flying',
  no: 'May not be charged or flown',
};

/** Whether it is charged for a flight, in words that stand beside the other answer. */
export const CHARGED_WORDS: Readonly<Record<Charged, string>> = {
  charged: 'charged',
  'charge-first': 'charge before flying',
  unknown: 'charge not known',
};

export const STORAGE_WORDS: Readonly<Record<StorageState['state'], string>> = {
  'in-band': 'in band',
  pending: 'pending',
  'self-storing': 'stores itself',
  high: 'high',
  low: 'low',
  unmeasured: 'not measured',
  'no-rule': 'no voltage rule',
};
