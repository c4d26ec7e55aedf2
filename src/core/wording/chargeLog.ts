import type { LogFault, LogField } from '../charging';

/** What a column of a charger's log may be. */
export const LOG_FIELD_WORDS: Readonly<Record<LogField, string>> = {
  time: 'the time',
  cell: 'a cell’s volts',
  pack: 'the pack’s volts',
  amps: 'the current',
  moved: 'the charge',
  celsius: 'the temperature',
};

/** Why a log gives no curve, and what to do about it. */
export const LOG_FAULTS: Readonly<Record<LogFault, string>> = {
  'no-time': 'No column is the time. Say which one it is.',
  'nothing-measured': 'No column is volts, a current or a charge. Say which one is.',
  'no-line': 'No line holds a time and a figure. Are the decimals and the columns right?',
  'too-long': 'This log is longer than two days. Say what its times count, or cut out one charge.',
};
