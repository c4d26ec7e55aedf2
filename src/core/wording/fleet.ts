import type { Complaint } from '../fleet';
import { volts } from './figures';

/** What was wrong with a pack when it came, as a claim says it. */
export function complaintSentence(complaint: Complaint): string {
  switch (complaint.about) {
    case 'level':
      return `A cell rested at ${volts(complaint.mv)} V; a new pack comes between ${volts(complaint.lowMv)} and ${volts(complaint.highMv)} V.`;
    case 'spread':
      return `Its cells stood ${complaint.mv} mV apart; ${complaint.limitMv} mV is in tolerance.`;
    case 'resistance':
      return `Its resistance is × ${complaint.factor.toFixed(2)} that of the delivery’s median; × ${complaint.limit.toFixed(2)} stands apart.`;
    case 'capacity':
      return `It holds ${Math.round(complaint.percent)} % of its label; under ${complaint.limitPercent} % is no new pack.`;
    case 'look':
      return [
        ...(complaint.failed.length > 0 ? [`Failed on receipt: ${complaint.failed.join(', ')}.`] : []),
        ...(complaint.notes.length > 0 ? [`Noted on receipt: ${complaint.notes.join('; ')}.`] : []),
      ].join(' ');
    default:
      return complaint satisfies never;
  }
}
