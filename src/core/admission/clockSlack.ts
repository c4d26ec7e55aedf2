import { MINUTE_MS } from '../measure';

/** Clocks of phones and laptops differ a little; a record this far ahead of the server's is still of now. */
export const CLOCK_SLACK_MS = 2 * MINUTE_MS;
