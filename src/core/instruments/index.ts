export type { Contact, Gathering } from './contact';
export { contactAfter, gathered } from './contact';
export type { MeterShows, Offer } from './offer';
export { offerOf } from './offer';
export type { Pattern, PatternFault, Picked } from './pattern';
export { LONGEST_LINE, patternOf, pick, pickFirst, SLOTS } from './pattern';
