import type { Role } from '../../core/lifecycle';

/** A section of Malle as the navigation names it. */
export interface Section {
  readonly path: string;
  readonly name: string;
}

const TODAY = { path: '/', name: 'Today' };
const MINE = { path: '/', name: 'My packs' };
const PACKS = { path: '/packs', name: 'Packs' };
const ROUNDS = { path: '/rounds', name: 'Rounds' };
const CHARGING = { path: '/charging', name: 'Charging' };
const FLYING = { path: '/flying', name: 'Flying' };
const INCIDENTS = { path: '/incidents', name: 'Incidents' };
const REPORTS = { path: '/reports', name: 'Reports' };
const DISPOSAL = { path: '/end-of-life', name: 'Disposal' };
const HOUSE = [
  { path: '/fleet', name: 'Fleet' },
  { path: '/bench', name: 'Calculators' },
  { path: '/rules', name: 'House rules' },
  { path: '/settings', name: 'Settings' },
];

/** What somebody works in, and the house behind it: each in the order in which they need it. */
export interface Navigation {
  readonly work: readonly Section[];
  readonly house: readonly Section[];
}

const KEEPER: Navigation = {
  work: [TODAY, PACKS, ROUNDS, CHARGING, FLYING, INCIDENTS],
  house: [DISPOSAL, REPORTS, ...HOUSE],
};

const NAVIGATION: Readonly<Record<Role, Navigation>> = {
  custodian: KEEPER,
  deputy: KEEPER,
  officer: {
    work: [TODAY, INCIDENTS, FLYING, PACKS, REPORTS],
    house: [ROUNDS, CHARGING, DISPOSAL, ...HOUSE],
  },
  pilot: {
    work: [MINE, FLYING, PACKS, CHARGING, INCIDENTS],
    house: [{ path: '/today', name: 'Today' }, ROUNDS, DISPOSAL, REPORTS, ...HOUSE],
  },
  reader: {
    work: [TODAY, PACKS, REPORTS, FLYING],
    house: [ROUNDS, CHARGING, INCIDENTS, DISPOSAL, ...HOUSE],
  },
};

/** The sections as this role needs them. */
export function navigationOf(role: Role): Navigation {
  return NAVIGATION[role];
}

/** What a role’s first page is: a pilot’s own packs, or what needs hands today. */
export function firstPageOf(role: Role): 'mine' | 'today' {
  return NAVIGATION[role].work[0] === MINE ? 'mine' : 'today';
}
