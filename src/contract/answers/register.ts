import { z } from 'zod';
import { CHEMISTRIES } from '../../core/chemistry';
import type { InstrumentId, PackTypeId, PlaceId, RecyclerId } from '../../core/measure';
import { DUTY_CLASSES } from '../../core/pack';
import { METAL_BOXES, PLACE_KINDS } from '../choices';
import { equipmentAnswer } from './equipment';
import { craftAnswer } from './craft';
import { personAnswer } from './people';
import { rulesAnswer } from './rules';
import { count, idOf, list, moment, version } from './schema';

export const packTypeId = idOf<PackTypeId>();
export const placeId = idOf<PlaceId>();
export const recyclerId = idOf<RecyclerId>();
export const chemistry = z.enum(CHEMISTRIES);

/** What judging needs to know of a pack's type. */
export const typeFacts = {
  chemistry,
  series: z.int().min(1).describe('Cell groups in series: the number of voltages the pack has.'),
  parallel: z.int().min(1),
  capacityMah: z.number(),
  continuousC: z.number().nullable(),
  burstC: z.number().nullable(),
  chargeC: z
    .number()
    .nullable()
    .describe('The highest charge rate the label allows, as a multiple of capacity.'),
  dutyClass: z.enum(DUTY_CLASSES),
};

export const packTypeAnswer = z
  .strictObject({
    id: packTypeId,
    version,
    name: z.string(),
    ...typeFacts,
    connector: z.string().nullable(),
    balancePlug: z.string().nullable(),
    massG: z.number().nullable(),
    price: z.number().nullable(),
  })
  .meta({ id: 'PackType' });

export const mapArea = z
  .strictObject({ x: z.int(), y: z.int(), w: z.int(), h: z.int() })
  .describe('Where a place stands on the drawn map, in columns and rows of its grid.')
  .meta({ id: 'MapArea' });

export const placeAnswer = z
  .strictObject({
    id: placeId,
    version,
    name: z.string(),
    kind: z.enum(PLACE_KINDS),
    fireResistant: z.boolean(),
    metal: z.enum(METAL_BOXES).describe('Whether it is a closed metal box, and whether it lets gas out.'),
    code: z.string().nullable().describe('What a scanner reads on it.'),
    capacity: z.int().nullable(),
    slots: count.describe('How many numbered slots it has; 0 for none.'),
    celsius: z.number().nullable().describe('As it is now; null where nobody measures it.'),
    map: mapArea.nullable(),
    setApart: z
      .boolean()
      .describe('For packs on hold or harmed; a recycling container set apart takes harmed packs only.'),
    limitKg: z.number().nullable(),
    limitWh: z.number().nullable(),
  })
  .meta({ id: 'Place' });

export const recyclerAnswer = z
  .strictObject({
    id: recyclerId,
    version,
    name: z.string(),
    contact: z.string().nullable(),
    chemistries: list(chemistry),
    takesDamaged: z.boolean(),
    takesCharged: z.boolean().describe('Whether it takes a sound pack at storage charge, contacts covered.'),
    limitKg: z.number().nullable(),
    confirmedAt: moment.nullable(),
    active: z.boolean(),
  })
  .describe('Whoever takes packs that are over, and what they take.')
  .meta({ id: 'Recycler' });

export const instrumentAnswer = z
  .strictObject({ id: idOf<InstrumentId>(), version, name: z.string(), errorMv: z.int() })
  .meta({ id: 'Instrument' });

export const placeTemperature = z
  .strictObject({ placeId, since: moment, celsius: z.number() })
  .describe('How warm a place has been since then.')
  .meta({ id: 'PlaceTemperature' });

export const registerAnswer = z
  .strictObject({
    people: list(personAnswer),
    types: list(packTypeAnswer),
    places: list(placeAnswer),
    placeTemperatures: list(placeTemperature),
    instruments: list(instrumentAnswer),
    recyclers: list(recyclerAnswer),
    equipment: list(equipmentAnswer),
    craft: list(craftAnswer),
    rules: rulesAnswer,
  })
  .describe('The small tables every screen needs to put names to ids.')
  .meta({ id: 'Register' });
