import type { ChargePayload, FlightPayload, OwnMemory, ReturnedPayload, TakenOutPayload } from './record';

/** A finished balance charge of which nothing else was noted. */
export const BLANK_CHARGE: ChargePayload = {
  mode: 'balance',
  charger: null,
  settings: { chemistry: null, cells: null, topMv: null, currentA: null },
  startCellsMv: null,
  endCellsMv: null,
  movedMah: null,
  minutes: null,
  temperatureC: null,
  balanced: null,
  ending: 'complete',
  remarks: null,
};

/** A use of which nothing was noted but that it ended. */
export const BLANK_FLIGHT: FlightPayload = {
  pilotId: null,
  craft: null,
  minutes: null,
  landing: null,
  usedMah: null,
  hottestC: null,
  ambientC: null,
  remarks: null,
};

/** Taken by whoever writes it, from where it lay, for nothing in particular. */
export const BLANK_TAKEN_OUT: TakenOutPayload = {
  holderId: null,
  fromId: null,
  craftId: null,
  dayId: null,
  dueBackAt: null,
  shortFlight: false,
  counters: null,
  remarks: null,
};

/** Back after a use, to no fixed place. */
export const BLANK_RETURNED: ReturnedPayload = {
  placeId: null,
  used: true,
  unplugged: null,
  counters: null,
  remarks: null,
};

/** A memory of which nothing was shown. */
export const BLANK_MEMORY: OwnMemory = {
  number: null,
  storage: null,
  topMv: null,
  chargeA: null,
  cycles: null,
  overCharges: null,
  overDischarges: null,
  overTemperatures: null,
  firmware: null,
  firmwareDate: null,
};
