import { Type, p } from './orm';
import type { Instant } from '../../core/measure';

/** A timestamptz that the program sees as an {@link Instant}. */
class InstantType extends Type<Instant | null, string | null> {
  override convertToDatabaseValue(value: Instant | null): string | null {
    return value === null || value === undefined ? null : new Date(value).toISOString();
  }
  override convertToJSValue(value: string | Date | null): Instant | null {
    return value === null || value === undefined ? null : new Date(value).getTime();
  }
  override getColumnType(): string {
    return 'timestamptz';
  }
}

export const instantColumn = () => p.type(InstantType).$type<Instant>();

/** SQL that turns a timestamptz expression into an instant: whole milliseconds as a plain number. */
export function asInstant(expression: string): string {
  return `round(date_part('epoch', ${expression}) * 1000)`;
}

/** A moment as PostgreSQL takes it. */
export function timestamp(at: Instant): string;
export function timestamp(at: Instant | null): string | null;
export function timestamp(at: Instant | null): string | null {
  return at === null ? null : new Date(at).toISOString();
}
