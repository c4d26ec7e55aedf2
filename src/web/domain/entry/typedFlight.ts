import type { CraftAnswer, PackTypeAnswer } from '../../../contract';
import { setupAt } from '../../../core/flying';
import type { Instant, PersonId } from '../../../core/measure';
import { parseCelsius, parseMah, parseMinutes } from '../../../core/reading';
import type { Felt } from '../../../core/reading';
import type { FlightPayload } from '../../../core/record';
import { blankToNull, Gate } from './gate';
import type { Understood } from './gate';

/** What has been typed of a flight. */
export interface FlightDraft {
  readonly pilotId: string;
  /** A craft of the register; empty for one that is typed, or none. */
  readonly craftId: string;
  readonly craft: string;
  readonly minutes: string;
  readonly landing: string;
  readonly condition: 'loaded' | 'settling';
  readonly used: string;
  readonly hottest: string;
  readonly felt: Felt | '';
  readonly ambient: string;
  readonly ended: string;
  readonly remarks: string;
}

export const NO_FLIGHT: FlightDraft = {
  pilotId: '',
  craftId: '',
  craft: '',
  minutes: '',
  landing: '',
  condition: 'loaded',
  used: '',
  hottest: '',
  felt: '',
  ambient: '',
  ended: '',
  remarks: '',
};

/** What was typed of a flight as a record has it, or what is wrong at each field. */
export function flightTyped(
  draft: FlightDraft,
  type: PackTypeAnswer,
  known: readonly CraftAnswer[],
  now: Instant,
): Understood<FlightPayload, keyof FlightDraft> {
  const gate = new Gate<keyof FlightDraft>();
  const ended = gate.moment('ended', draft.ended);
  const volts = gate.landing('landing', draft.landing, type);
  const payload: FlightPayload = {
    pilotId: (draft.pilotId || null) as PersonId | null,
    ...flownOn(draft, known, ended ?? now),
    minutes: gate.figure('minutes', parseMinutes(draft.minutes), 'Type minutes, or 12:30.'),
    landing: volts && { volts, condition: draft.condition },
    usedMah: gate.figure('used', parseMah(draft.used), 'Type mAh, or 2.1 Ah.'),
    hottestC: gate.figure('hottest', parseCelsius(draft.hottest), 'Type °C, or 95 F.'),
    felt: draft.felt || null,
    ambientC: gate.figure('ambient', parseCelsius(draft.ambient), 'Type °C, or 95 F.'),
    remarks: blankToNull(draft.remarks),
  };
  return gate.answer(payload, ended);
}

/** The craft by its id, with its name in words and the set-up it had then; else whatever was typed. */
function flownOn(
  { craftId, craft }: FlightDraft,
  known: readonly CraftAnswer[],
  at: Instant,
): Pick<FlightPayload, 'craft' | 'craftId' | 'craftSetup'> {
  const chosen = known.find(({ id }) => id === craftId);
  if (!chosen) return { craft: blankToNull(craft) };
  return { craft: chosen.name, craftId: chosen.id, craftSetup: setupAt(chosen.changes, at) };
}
