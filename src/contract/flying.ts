import { z } from 'zod';
import { CHEMISTRIES } from '../core/chemistry';
import {
  craftId,
  figure,
  instant,
  line,
  optional,
  packId,
  packTypeId,
  personId,
  text,
  wholeFigure,
} from './fields';

const amps = (what: string) => figure(0.01, 2_000, what, 'A').nullable();

function span(what: string, unit: string, most: number) {
  return z
    .strictObject({
      least: figure(1, most, `The least ${what}`, unit).nullable(),
      most: figure(1, most, `The most ${what}`, unit).nullable(),
    })
    .refine(({ least, most: upper }) => least === null || upper === null || least <= upper, {
      path: ['most'],
      message: `The most ${what} cannot be less than the least.`,
    });
}

const cutOff = z.discriminatedUnion(
  'mode',
  [
    z.strictObject({
      mode: z.literal('lithium'),
      cells: wholeFigure(1, 24, 'The cells the cut-off is set for', ''),
      cellMv: wholeFigure(500, 4_500, 'The cut-off of a cell', 'mV'),
    }),
    z.strictObject({ mode: z.enum(['nickel', 'none', 'unknown']) }),
  ],
  'Say how its cut-off is set.',
);

const craftFacts = z.strictObject({
  chemistries: z
    .array(z.enum(CHEMISTRIES, 'Choose a chemistry.'))
    .min(1, 'Choose at least one chemistry it takes.'),
  cells: z
    .strictObject({
      least: wholeFigure(1, 24, 'The fewest cells', ''),
      most: wholeFigure(1, 24, 'The most cells', ''),
    })
    .refine(({ least, most }) => least <= most, {
      path: ['most'],
      message: 'The most cells cannot be fewer than the fewest.',
    }),
  capacityMah: span('capacity', 'mAh', 1_000_000),
  massG: span('mass', 'g', 100_000),
  sustainedA: amps('The sustained current'),
  burstA: amps('The burst current'),
  connector: optional(line(40, 'The connector')),
  usualMinutes: figure(0.5, 1_440, 'The usual minutes', 'min').nullable(),
  usualMah: figure(1, 1_000_000, 'The usual charge', 'mAh').nullable(),
  cutOff,
  trainer: z.boolean(),
  costly: z.boolean(),
  overWater: z.boolean(),
  overPeople: z.boolean(),
});

/** A craft: what it is called, whether it still flies here, what it takes and what it risks. */
export const craftForm = z.strictObject({
  name: line(60, 'The name'),
  inUse: z.boolean().describe('False once it is sold or broken up; its flights keep its name.'),
  facts: craftFacts,
});

/** Something was done to a craft. */
export const craftChange = z.strictObject({
  at: instant,
  what: text(300, 'What was done'),
  newBaseline: z
    .boolean()
    .describe('Whether its flights are no longer like those before: other propellers, another weight.'),
});

/** When packs are wanted charged, where, and how many of which type for which craft. */
export const flyingDayForm = z.strictObject({
  at: instant,
  place: line(80, 'The place'),
  craft: optional(line(80, 'The craft')),
  wants: z
    .array(
      z.strictObject({
        typeId: packTypeId,
        packs: wholeFigure(1, 500, 'The number of packs', ''),
        craftId: craftId.nullish().describe('What they are flown on, a pack a flight.'),
      }),
    )
    .min(1, 'Say which packs it wants.')
    .max(40, 'At most 40 lines.')
    .refine(
      (wants) =>
        new Set(wants.map(({ typeId, craftId: on }) => `${typeId} ${on ?? ''}`)).size === wants.length,
      { message: 'One line for each type and craft.' },
    ),
  personIds: z.array(personId).max(60, 'At most 60 people.').optional().describe('Who flies.'),
  cancelled: z.boolean(),
});

/** Which packs are taken along on a day, as somebody decided; replaces the list whose version it names. */
export const handOutForm = z.strictObject({
  version: z.int().min(1),
  lines: z
    .array(
      z.strictObject({
        packId,
        craftId: craftId.nullable(),
        personId: personId.nullable(),
        spare: z.boolean(),
        byHand: z.boolean().describe('Whether somebody chose it, rather than Malle.'),
      }),
    )
    .max(500, 'At most 500 packs.')
    .refine((lines) => new Set(lines.map((one) => one.packId)).size === lines.length, {
      message: 'A pack is taken along once.',
    }),
});
