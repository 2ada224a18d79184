import type * as z from 'zod';
import type { TimeRange } from '../time/ranges';
import type { Slice } from './slice';

/**
 * Something that an edit decides. Two edits that touch the same slot, at times that meet, with values that
 * differ, would overwrite one another; all others can be made in either order, and both stand.
 */
export interface Touch {
  readonly slot: string;
  /** The recorded time that it is decided for; absent: there is but one value. */
  readonly range?: TimeRange;
  /** A plain value; compared as text. */
  readonly value: unknown;
}

/**
 * A kind of edit: all that has to be known of it stands in one file. It changes one slice of the decisions.
 */
export interface Kind<
  Schema extends z.ZodType,
  Name extends string,
  SliceSchema extends z.ZodType,
> {
  readonly schema: Schema;
  readonly slice: Slice<Name, SliceSchema>;
  /**
   * The slice after the edit. Pure and total: an edit about something that isn't there is kept (a trim waits for
   * its take to come) and never throws, so that any list of valid edits has a result.
   */
  readonly apply: (slice: z.output<SliceSchema>, edit: z.output<Schema>) => z.output<SliceSchema>;
  readonly touches: (edit: z.output<Schema>) => readonly Touch[];
  /**
   * Whether the undo button takes it back. Planning, what was marked while recording and the arrival of a take
   * are not: pressed once too often, undo must not make a recording vanish or a title turn back.
   */
  readonly isUndoable: (edit: z.output<Schema>) => boolean;
  /** What was done, in a few words for the list of steps: `cut 4 s at 1:12`. */
  readonly inWords: (edit: z.output<Schema>) => string;
}

/** Says of a kind what it is; the types follow from its schema and its slice. */
export const kindOf = <
  Schema extends z.ZodType,
  Name extends string,
  SliceSchema extends z.ZodType,
>(
  kind: Kind<Schema, Name, SliceSchema>,
): Kind<Schema, Name, SliceSchema> => kind;

export const always = () => true;
export const never = () => false;
