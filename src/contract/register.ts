import { z } from 'zod';
import { CHEMISTRIES } from '../core/chemistry';
import { DUTY_CLASSES, TAG_PATTERN } from '../core/pack';
import { ROLES } from '../core/lifecycle';
import { ROUND_KINDS } from '../core/rounds';
import { METAL_BOXES, PLACE_KINDS } from './choices';
import {
  deliveryId,
  figure,
  instant,
  line,
  optional,
  packId,
  packTypeId,
  personId,
  placeId,
  recordId,
  roundId,
  text,
  wholeFigure,
} from './fields';

/** A bare 22 may be the one or the other, and is off by a thousand if it is guessed. */
const capacityMah = z
  .number({
    error: ({ input }) =>
      typeof input === 'string' && /^\d+([.,]\d+)?$/.test(input)
        ? `${input} mAh, or ${input} Ah? Write the unit with it.`
        : 'The capacity is missing or not a number.',
  })
  .pipe(wholeFigure(10, 200_000, 'The capacity', 'mAh'));

/** What a pack type's label says; a claim until measured. */
export const packTypeForm = z
  .strictObject({
    name: line(60, 'The name'),
    chemistry: z.enum(CHEMISTRIES, 'Choose a chemistry.'),
    series: wholeFigure(1, 24, 'The number of cells in series', ''),
    parallel: wholeFigure(1, 20, 'The number in parallel', ''),
    capacityMah,
    continuousC: figure(0.1, 500, 'The continuous rating', 'C').nullable(),
    burstC: figure(0.1, 1_000, 'The burst rating', 'C').nullable(),
    chargeC: figure(0.05, 20, 'The highest charge rate', 'C').nullable(),
    connector: optional(line(40, 'The connector')),
    balancePlug: optional(line(40, 'The balance plug')),
    massG: figure(0.1, 50_000, 'The mass', 'g').nullable(),
    price: figure(0, 1_000_000, 'The price', '').nullable(),
    dutyClass: z.enum(DUTY_CLASSES, 'Choose the duty.'),
  })
  .refine(({ burstC, continuousC }) => burstC === null || continuousC === null || burstC >= continuousC, {
    path: ['burstC'],
    message: 'The burst rating cannot be below the continuous one.',
  });

const tag = line(24, 'The tag').refine(
  (value) => TAG_PATTERN.test(value),
  'A tag is letters and figures, with dashes or spaces between.',
);

const smart = z.strictObject({
  autoStorage: z.boolean(),
  autoStorageAfterHours: wholeFigure(12, 240, 'The delay before it stores itself', 'h'),
});

export const packForm = z.strictObject({
  tag,
  typeId: packTypeId,
  owner: optional(line(80, 'The owner')),
  homePlaceId: placeId.nullable(),
  inServiceAt: instant.nullable(),
  fieldPack: z.boolean(),
  smart: smart.nullable(),
});

/** What a pack that was in use before this register knew it had behind it; null where nobody counted. */
export const lifeBefore = z.strictObject({
  cycles: figure(0, 100_000, 'The cycles so far', '').nullable(),
  flights: figure(0, 100_000, 'The flights so far', '').nullable(),
});

/** A pack coming into the register: its facts, and the receipt that opens its ledger. */
export const receivePack = packForm.extend({
  id: packId,
  recordId,
  receivedAt: instant,
  source: optional(line(120, 'The source')),
  before: lifeBefore.nullish(),
});

/** Where a place stands on the drawn map: columns and rows of a grid. */
const mapArea = z.strictObject({
  x: wholeFigure(0, 23, 'The column', ''),
  y: wholeFigure(0, 40, 'The row', ''),
  w: wholeFigure(2, 24, 'The width', ''),
  h: wholeFigure(1, 20, 'The height', ''),
});

export const placeForm = z.strictObject({
  name: line(60, 'The name'),
  kind: z.enum(PLACE_KINDS, 'Choose a kind.'),
  fireResistant: z.boolean(),
  /** Printed on the place; scanned after a pack it moves the pack there. */
  code: optional(tag),
  capacity: wholeFigure(1, 500, 'How many may lie there', '').nullable().default(null),
  slots: wholeFigure(0, 200, 'The number of slots', '').default(0),
  celsius: figure(-30, 60, 'The temperature', '°C').nullable().default(null),
  map: mapArea.nullable().default(null),
  metal: z.enum(METAL_BOXES, 'Say whether it is a metal box, and vented.').default('no'),
  /** For packs on hold or harmed, away from sound ones. */
  setApart: z.boolean().default(false),
  limitKg: figure(0.1, 10_000, 'The limit by mass', 'kg').nullable().default(null),
  limitWh: figure(1, 1_000_000, 'The limit by energy', 'Wh').nullable().default(null),
});

/** Who takes what is over, and what they take. */
export const recyclerForm = z.strictObject({
  name: line(80, 'The name'),
  contact: optional(text(300, 'The contact')),
  chemistries: z.array(z.enum(CHEMISTRIES, 'Choose a chemistry.')).min(1, 'Say what it takes.'),
  takesDamaged: z.boolean(),
  /** A sound pack at storage charge, its contacts covered, without a last discharge. */
  takesCharged: z.boolean().default(false),
  /** How much it takes at one visit. */
  limitKg: figure(0.1, 10_000, 'The limit for one visit', 'kg').nullable(),
  /** When somebody last asked whether this still holds. */
  confirmedAt: instant.nullable(),
  active: z.boolean().default(true),
});

export const instrumentForm = z.strictObject({
  name: line(60, 'The name'),
  errorMv: wholeFigure(0, 500, 'The error', 'mV'),
});

/** Where the custodian has put places on the map; those not named stay where they are. */
export const mapForm = z.strictObject({
  places: z
    .array(z.strictObject({ id: placeId, map: mapArea.nullable() }))
    .min(1, 'No place came.')
    .max(200, 'At most 200 places.'),
});

/** New packs of one type that came together. */
export const deliveryForm = z.strictObject({
  id: deliveryId,
  typeId: packTypeId,
  packs: z
    .array(z.strictObject({ id: packId, recordId, tag }))
    .min(1, 'A delivery has at least one pack.')
    .max(100, 'At most 100 packs in one delivery.'),
  owner: optional(line(80, 'The owner')),
  homePlaceId: placeId.nullable(),
  fieldPack: z.boolean(),
  smart: smart.nullable(),
  receivedAt: instant,
  source: optional(line(120, 'The source')),
});

export const roundForm = z.strictObject({
  id: roundId,
  kind: z.enum(ROUND_KINDS, 'Choose what the round is for.'),
  title: line(80, 'The title'),
  /** Whether every pack is looked over by the kind's checklist as well as read. */
  checklist: z.boolean(),
  /** The box it was gathered from. */
  placeId: placeId.nullable(),
  /** When the packs fly next; charged packs that fly within their allowance stay charged. */
  fliesAt: instant.nullable(),
  packIds: z.array(packId).max(500, 'At most 500 packs in one round.'),
});

const login = line(40, 'The sign-in name').transform((value) => value.toLowerCase());
const password = z
  .string('The password is missing.')
  .min(10, 'A password has at least 10 characters.')
  .max(200, 'A password has at most 200 characters.');

export const signInForm = z.strictObject({
  login,
  password: z.string('The password is missing.').min(1, 'The password is missing.').max(200, 'Too long.'),
  /** Of the phone, or a spare one; asked for where somebody has a second factor. */
  code: z.string().trim().max(40, 'A code is shorter.').optional(),
});

export const setupForm = z.strictObject({ name: line(80, 'The name'), login, password });

const currentPassword = z
  .string('Give the password you have now.')
  .min(1, 'Give the password you have now.')
  .max(200, 'Too long.');
/** A new password of one's own; the old one is asked for, since the device may lie about. */
export const ownPasswordForm = z.strictObject({ current: currentPassword, password });
/** One's password once more, before what changes who can come in. */
export const confirmationForm = z.strictObject({ password: currentPassword });

/** The figures that a phone shows now. */
export const codeForm = z.strictObject({
  code: z.string('Type the code.').trim().min(1, 'Type the code.').max(40, 'A code is shorter.'),
});

/** What a browser made of a challenge; the package that verifies it knows its parts. */
const fromAuthenticator = z.looseObject({
  id: z.string('This is no passkey.').min(1, 'This is no passkey.').max(2_000, 'This is no passkey.'),
  response: z.looseObject({ clientDataJSON: z.string('This is no passkey.') }, 'This is no passkey.'),
});
export const passkeyForm = z.strictObject({ name: line(60, 'The name'), passkey: fromAuthenticator });
export const passkeySignInForm = z.strictObject({ passkey: fromAuthenticator });

/** Whether custodians need a second factor. */
export const custodianFactorForm = z.strictObject({ asked: z.boolean() });

export const sharedBenchForm = z.strictObject({ name: line(60, 'The name') });
const pin = z.string('Type the PIN.').regex(/^\d{4,8}$/, 'A PIN is four to eight figures.');
const badge = z
  .string('Scan the badge.')
  .trim()
  .min(4, 'A badge says at least four characters.')
  .max(200, 'This is too long for a badge.');
/** Left out, a PIN or a badge stays as it is; null takes it away. */
export const benchPassForm = z.strictObject({ pin: pin.nullish(), badge: badge.nullish() });
export const benchSignInForm = z.union(
  [z.strictObject({ personId, pin }), z.strictObject({ badge })],
  'Choose a name and type its PIN, or scan a badge.',
);

/** What a link to choose a password with carries. */
export const linkForm = z.strictObject({
  secret: z.string('The link is missing.').min(1, 'The link is missing.').max(100, 'This is no link.'),
});
export const linkPasswordForm = linkForm.extend({ password });

/** The first password of a register that was read from an archive. */
export const claimForm = z.strictObject({ personId, password });

export const personForm = z.strictObject({
  name: line(80, 'The name'),
  login,
  role: z.enum(ROLES, 'Choose a role.'),
  active: z.boolean(),
  /** Left out, the password stays as it is; a new person then gets a link to choose one with. */
  password: optional(password),
});

/** An edit names the version it was made from, so that a newer one is not overwritten unseen. */
export const version = z.int('The version is missing.').min(1);
