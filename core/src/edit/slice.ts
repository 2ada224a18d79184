import type * as z from 'zod';

/**
 * A part of the decisions about a lesson, by itself: what may stand in it, and what it is before the first
 * edit. The kinds of edits that change it name it; the decisions are made of the slices so named.
 */
export interface Slice<Name extends string, Schema extends z.ZodType> {
  readonly name: Name;
  readonly schema: Schema;
  readonly beginning: z.output<Schema>;
}

/** Says of a slice what it is; the types follow. */
export const sliceOf = <Name extends string, Schema extends z.ZodType>(
  name: Name,
  schema: Schema,
  beginning: z.output<Schema>,
): Slice<Name, Schema> => ({ name, schema, beginning });
