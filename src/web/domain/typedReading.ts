import { DEFAULT_METER_ERROR_MV } from '../../core/chemistry';
import type { InstrumentAnswer } from '../../contract';
import type { ReadingCondition, TypedVolts } from '../../core/reading';
import type { FromMeter } from './meter/useMeter';
import type { ReadingPayload, ReadVolts } from '../../core/record';

/** The volts of a reading as typed; null while they cannot be understood. */
export function voltsOf(typed: TypedVolts): ReadVolts | null {
  if (typed.outcome === 'cells') return { of: 'cells', cellsMv: typed.cellsMv };
  return typed.outcome === 'pack' ? { of: 'pack', packMv: typed.packMv } : null;
}

/** A reading of these volts with this meter, or as a device put them into the field; nothing else noted. */
export function plainReading(
  volts: ReadVolts,
  instrument: InstrumentAnswer | null,
  condition: ReadingCondition = 'rested',
  from: FromMeter | null = null,
): ReadingPayload {
  const meter = from?.instrument ?? instrument;
  return {
    volts,
    condition,
    instrument: meter?.name ?? null,
    meterErrorMv: meter?.errorMv ?? DEFAULT_METER_ERROR_MV,
    temperatureC: null,
    remarks: null,
    ...(from ? { measured: { deviceId: from.deviceId, readingId: from.readingId } } : {}),
  };
}

/** The meter this device was last used with. */
export const LAST_INSTRUMENT = 'instrument';
