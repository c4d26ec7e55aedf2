import type { z } from 'zod';
import type { KnownOperation, OPERATIONS } from '.';

/** What a client needs to know of an operation, as types only: a browser fetches none of the schemas. */
type Of<Name extends KnownOperation> = (typeof OPERATIONS)[Name];

/** Operations answered in JSON, or by nothing at all. */
export type Askable = {
  [Name in KnownOperation]: Of<Name>['answer'] extends z.ZodType | null ? Name : never;
}[KnownOperation];

/** What an operation answers. */
export type AnswerTo<Name extends KnownOperation> = Of<Name>['answer'] extends z.ZodType
  ? z.output<Of<Name>['answer']>
  : void;

type Body<Name extends KnownOperation> =
  Of<Name> extends { readonly body: infer Schema extends z.ZodType }
    ? { readonly body: Typed<z.input<Schema>> }
    : { readonly body?: never };

/**
 * A body as a form has it: nothing in it is changed, and where a figure belongs stands what was typed. Whether that is one, the
 * server says at its field.
 */
type Typed<Value> = Value extends number
  ? number | string | null
  : Value extends readonly (infer Item)[]
    ? readonly Typed<Item>[]
    : Value extends object
      ? { readonly [Key in keyof Value]: Typed<Value[Key]> }
      : Value;

type Query<Name extends KnownOperation> =
  Of<Name> extends { readonly query: infer Schema extends z.ZodType }
    ? { readonly query?: { readonly [Key in keyof z.input<Schema>]?: string | number } }
    : { readonly query?: never };

type ParamsIn<Path extends string> = Path extends `${string}:${infer Param}/${infer Rest}`
  ? Param | ParamsIn<Rest>
  : Path extends `${string}:${infer Param}`
    ? Param
    : never;

type Params<Name extends string> = [ParamsIn<Name>] extends [never]
  ? { readonly params?: never }
  : { readonly params: Readonly<Record<ParamsIn<Name>, string>> };

/** What a call of an operation carries; left out where there is nothing to carry. */
export type CallOf<Name extends KnownOperation> = Params<Name> & Query<Name> & Body<Name>;
export type CallArguments<Name extends KnownOperation> =
  Record<never, never> extends CallOf<Name> ? [call?: CallOf<Name>] : [call: CallOf<Name>];
