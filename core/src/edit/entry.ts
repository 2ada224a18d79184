import * as z from 'zod';
import { idSchema, type Id } from '../lesson/take';
import { editSchema, redoSchema, undoSchema, type Act } from './edit';

/** What can stand in a lesson's list: an act, who did it, and what it belongs together with. */
export const entrySchema = z
  .object({
    /** Made by whoever makes the entry: one that is sent twice is put down once. */
    id: idSchema,
    /** Entries of one press: undone together, and put down together or not at all. */
    group: idSchema.optional(),
    by: z.enum(['teacher', 'machine']),
    edit: z.union([editSchema, undoSchema, redoSchema]),
  })
  .readonly();
export type Entry = z.infer<typeof entrySchema>;

/** An entry of a kind that this version doesn't know. It is kept as it is, and does nothing. */
export interface UnknownEntry {
  readonly id: Id;
  readonly unknown: true;
}

export type ReadEntry = Entry | UnknownEntry;

export const isKnown = (entry: ReadEntry): entry is Entry => !('unknown' in entry);

const identified = z.object({ id: idSchema });

/**
 * Reads an entry that was written down, maybe by a later version.
 *
 * @param fallbackId names one that doesn't even name itself
 */
export const readEntry = (text: string, fallbackId: Id): ReadEntry => {
  let plain: unknown = null;
  try {
    plain = JSON.parse(text);
  } catch {
    // Not even a value: as good as unknown.
  }
  const known = entrySchema.safeParse(plain);
  if (known.success) return known.data;
  return { id: identified.safeParse(plain).data?.id ?? fallbackId, unknown: true };
};

/**
 * Entries of one press.
 *
 * @param newId gives a new id with each call
 */
export const entriesOf = (acts: readonly Act[], newId: () => Id): Entry[] => {
  const group = acts.length > 1 ? newId() : undefined;
  return acts.map((edit) => ({ id: newId(), ...(group ? { group } : {}), by: 'teacher', edit }));
};
