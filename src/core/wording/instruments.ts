import type { Alarm, ChargePhase } from '../charging';
import type { Offer, PatternFault } from '../instruments';
import { SLOTS } from '../instruments';
import { plural, volts } from './figures';

/** Why a pattern cannot be used. */
export function patternFaultSentence(fault: PatternFault): string {
  switch (fault.code) {
    case 'empty':
      return 'The pattern is empty.';
    case 'unknown-slot':
      return `There is no {${fault.slot}}. There are ${SLOTS.map((slot) => `{${slot}}`).join(' ')}.`;
    case 'unknown-unit':
      return `{${fault.slot}} cannot be told in ${fault.unit}.`;
    case 'twice':
      return `{${fault.slot}} stands there twice.`;
    case 'no-closing':
      return 'A { has no } behind it.';
    case 'nothing-picked':
      return 'It picks nothing out: put {cells}, {pack} or {amps} where the figures stand.';
    case 'slots-touch':
      return `Something must stand before {${fault.slot}} that tells where it begins, such as a blank.`;
  }
}

/** Why what the meter shows does not go into the field; null where nothing needs to be said. */
export function offerSentence(offer: Offer, tag: string): string | null {
  switch (offer.code) {
    case 'nothing':
    case 'fits':
    case 'fits-total':
      return null;
    case 'taken':
      return `The meter still shows ${offer.tag}, which is saved. Unplug it and plug in ${tag}.`;
    case 'cells':
      return `The meter reads ${plural(offer.shown, 'cell')}, and ${tag} has ${offer.wanted}. Is another pack plugged in, or the plug not quite home?`;
    case 'volts':
      return `The meter reads ${volts(offer.mv)} in cell ${offer.cell}. No cell of ${tag} can have that: look at the plug.`;
    case 'total-only':
      return `The meter tells the sum alone, and ${tag} is read cell by cell. Plug in the balance lead.`;
  }
}

export const PHASE_WORDS: Readonly<Record<ChargePhase, string>> = {
  rest: 'nothing flows',
  quick: 'at the whole current',
  reduced: 'at less than it was set to',
  taper: 'tapering at the top',
  balancing: 'balancing',
  ended: 'ended',
};

/** What is wrong with a charge, and what to do, as a sentence. */
export function alarmSentence(alarm: Alarm): string {
  switch (alarm.code) {
    case 'over-top':
      return `${alarm.cell === 0 ? 'The mean cell' : `Cell ${alarm.cell}`} is at ${volts(alarm.mv)}, above full (${volts(alarm.fullMv)}). The charger is set for something else.`;
    case 'setting':
      return `The charger is set otherwise than the card says: ${alarm.fields.map((field) => FIELD_WORDS[field]).join(', ')}.`;
    case 'cell-count':
      return `The charger sees ${plural(alarm.shown, 'cell')}, and the card says ${alarm.wanted}.`;
    case 'hot':
      return `It is at ${Math.round(alarm.celsius)} °C; ${Math.round(alarm.limitC)} °C is the limit.`;
    case 'too-long':
      return `It has run for ${Math.round(alarm.minutes)} min; ${Math.round(alarm.expectedMinutes)} min were expected. Something will not close.`;
    case 'overfilled':
      return `${Math.round(alarm.movedMah)} mAh went in, and there was room for ${Math.round(alarm.roomMah)} mAh.`;
    case 'cell-falls':
      return `Cell ${alarm.cell} fell by ${Math.round(alarm.byMv)} mV while the others rose.`;
    case 'cell-apart':
      return `Cell ${alarm.cell} is ${Math.round(alarm.byMv)} mV away from the others.`;
    case 'wrong-way':
      return alarm.puts
        ? 'The charger takes charge out, and the card says to put it in.'
        : 'The charger puts charge in, and the card says to take it out.';
    case 'error':
      return `The charger says: ${alarm.text}`;
  }
}

const FIELD_WORDS = {
  chemistry: 'chemistry',
  mode: 'mode',
  cells: 'number of cells',
  topV: 'top voltage',
  amps: 'current',
} as const;
