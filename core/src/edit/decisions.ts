import * as z from 'zod';
import { KINDS } from './kinds';
import type { Slice } from './slice';

type AnySlice = (typeof KINDS)[number]['slice'];
type Schemas = { [Each in AnySlice as Each['name']]: Each['schema'] };

const SLICES = new Map<string, Slice<string, z.ZodType>>(
  KINDS.map(({ slice }) => [slice.name, slice]),
);

/**
 * Every decision about a lesson, each anchored to recorded time: the slices that the kinds of edits change. It
 * is never stored: it is what the list of edits comes to, so a new kind of decision needs no migration.
 */
export const decisionsSchema = z
  .object(
    Object.fromEntries(
      [...SLICES].map(([name, { schema }]) => [name, schema]),
    ) as unknown as Schemas,
  )
  .readonly();
export type Decisions = z.infer<typeof decisionsSchema>;

/** What a lesson is before its first edit. */
export const NEW_DECISIONS = Object.fromEntries(
  [...SLICES].map(([name, { beginning }]) => [name, beginning]),
) as unknown as Decisions;
