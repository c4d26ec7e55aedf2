import type { Role } from '../lifecycle';

/** What a role is called. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  custodian: 'custodian',
  deputy: 'deputy',
  officer: 'safety officer',
  pilot: 'pilot',
  reader: 'reader',
};
