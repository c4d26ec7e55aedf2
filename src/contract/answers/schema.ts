import { z } from 'zod';
import { CONTENTS_BASES, STORAGE_STATES } from '../../core/storage';
import type { Instant } from '../../core/measure';

/** What answers are made of. Nothing here changes a value: an answer that fits a schema is that answer. */

/** An id of one kind of thing; a UUID on the wire. */
export function idOf<Id extends string>(): z.ZodType<Id> {
  return z.uuid() as unknown as z.ZodType<Id>;
}

/** Whole milliseconds since 1970-01-01T00:00Z. */
export const moment = z.int() as z.ZodType<Instant>;

export function list<Item extends z.ZodType>(item: Item) {
  return z.array(item).readonly();
}

export const count = z.int().min(0);
export const version = z.int().min(1);
export const basis = z.enum(CONTENTS_BASES);
export const storageState = z.enum(STORAGE_STATES);

/**
 * Something core makes, of which the outline is told and the rest is as core's own type says. It is for what has a shape a code
 * away from another: a finding's values differ from rule to rule.
 */
export function outline<Made>(shape: z.ZodRawShape): z.ZodType<Made> {
  return z.looseObject(shape) as unknown as z.ZodType<Made>;
}
