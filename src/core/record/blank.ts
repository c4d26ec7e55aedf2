import type { ChargePayload, FlightPayload } from './record';

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
