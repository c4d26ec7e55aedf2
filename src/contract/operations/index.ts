export type { MediaType, Operation } from './operation';
export { successOf } from './operation';
import { chargingOperations } from './charging';
import { deviceOperations } from './devices';
import { endOfLifeOperations } from './endOfLife';
import { evidenceOperations } from './evidence';
import { exchangeOperations } from './exchange';
import { flyingOperations } from './flying';
import { incidentOperations } from './incidents';
import type { Operations } from './operation';
import { packOperations } from './packs';
import { peopleOperations } from './people';
import { registerOperations } from './register';
import { reportOperations } from './reports';
import { roundOperations } from './rounds';
import { serverOperations } from './server';

/** Everything the server can be asked, feature by feature. The routes, the description and the browser's client derive from this. */
export const OPERATIONS = {
  ...serverOperations,
  ...peopleOperations,
  ...registerOperations,
  ...packOperations,
  ...roundOperations,
  ...chargingOperations,
  ...deviceOperations,
  ...flyingOperations,
  ...incidentOperations,
  ...endOfLifeOperations,
  ...reportOperations,
  ...exchangeOperations,
  ...evidenceOperations,
} as const satisfies Operations;

export type KnownOperation = keyof typeof OPERATIONS;
