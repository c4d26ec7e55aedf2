import type { VoltsRefusal } from '../reading';
import type { RecordRefusal } from '../record';
import { plural, volts } from './figures';

/** What is wrong with typed volts, and what to type instead. */
export function voltsRefusalSentence(why: VoltsRefusal): string {
  switch (why.code) {
    case 'not-a-number':
      return `“${why.token}” is not a voltage. Type volts like 384, 3.84 or 3,84.`;
    case 'too-coarse':
      return `“${why.token}” is too coarse. Type hundredths: 380 for 3.80 V.`;
    case 'negative':
      return `“${why.token}” is below zero: the meter's leads are the wrong way round, or a cell is reversed. A reversed cell takes the pack out of use; do not charge it.`;
    case 'impossible':
      return `Cell ${why.cell} at ${volts(why.mv)} V cannot be: this chemistry never shows more than ${volts(why.maxMv)} V. Check the figure and the pack.`;
    case 'too-few':
      return `${why.given} of ${plural(why.wanted, 'cell')} typed. Every cell counts: the lowest decides.`;
    case 'too-many':
      return `${why.given} values for a ${why.wanted}-cell pack. Is this the right tag, or was one cell typed twice?`;
    case 'pack-total':
      return `${volts(why.packMv)} V for the pack is ${volts(why.averageMv)} V a cell on average, which hides a weak one. Type all ${plural(why.wanted, 'cell')}.`;
    case 'total-disagrees':
      return `The cells add up to ${volts(why.sumMv)} V but the pack is given as ${volts(why.totalMv)} V. Read it again.`;
    default:
      return why satisfies never;
  }
}

/** Why the ledger does not take a record, and what to do about it. */
export function recordRefusalSentence(why: RecordRefusal): string {
  switch (why.code) {
    case 'cell-count':
      return `This pack has ${plural(why.wanted, 'cell')}, but ${plural(why.given, 'voltage')} came. Check the tag and type every cell once.`;
    case 'cell-impossible':
      return `Cell ${why.cell} at ${volts(why.mv)} V cannot be: this chemistry never shows more than ${volts(why.maxMv)} V.`;
    case 'cells-wanted':
      return `The pack's total hides the weak cell. Give all ${plural(why.wanted, 'cell')}.`;
    case 'in-the-future':
      return 'This time has not come yet. Give the moment it happened.';
    case 'before-receipt':
      return 'This is dated before the pack was received. Correct the date, or correct the receipt first.';
    case 'received-twice':
      return 'This pack has been received already; a pack is received once.';
    case 'corrects-nothing':
      return 'There is no such record on this pack to correct. Corrections themselves are replaced by correcting the same record again.';
    case 'corrects-other-kind':
      return `A ${why.kind} can only be replaced by a ${why.kind}.`;
    case 'receipt-stays':
      return 'A receipt can be put right but not withdrawn: the pack is here.';
    case 'not-yours-to-correct':
      return 'This is somebody else’s record. Ask them, a deputy or the custodian to correct it.';
    default:
      return why satisfies never;
  }
}
