/** What the register's log tells of: all that changes what is believed later, and is no pack's record. */
export const LOG_SUBJECTS = {
  person: 'person',
  'pack-type': 'pack type',
  place: 'place',
  meter: 'meter',
  bench: 'bench equipment',
  device: 'device',
  craft: 'craft',
  recycler: 'recycler',
  pack: 'pack',
  key: 'key for a script',
  'shared-bench': 'shared bench',
  rules: 'house rules',
  session: 'sign-in',
  export: 'export',
  register: 'register',
} as const;
export type LogSubject = keyof typeof LOG_SUBJECTS;

/** What was done. */
export const LOG_DEEDS = {
  added: 'added',
  changed: 'changed',
  ended: 'ended',
  adopted: 'adopted',
  'made-link': 'made a link to choose a password for',
  'ended-sessions': 'signed out everywhere',
  'changed-password': 'changed the password of',
  'chose-password': 'chose a password by a link',
  'signed-in': 'signed in',
  'set-up-factor': 'set up a second factor of',
  'took-factor': 'took away a second factor of',
  'set-bench-pass': 'changed the PIN or badge of',
  'was-refused': 'was refused at the sign-in',
  'made-key': 'made a key for',
  exported: 'took out',
  opened: 'opened',
  restored: 'read from an archive',
} as const;
export type LogDeed = keyof typeof LOG_DEEDS;

/** What the log says of an operation. */
export interface Logged {
  readonly did: LogDeed;
  readonly of: LogSubject;
}
