import * as z from 'zod';
import { idSchema } from '../lesson/take';
import type { Decisions } from './decisions';
import type { Kind, Touch } from './kind';
import { KINDS } from './kinds';

type SchemasOf<Kinds extends readonly { readonly schema: unknown }[]> = {
  -readonly [Index in keyof Kinds]: Kinds[Index]['schema'];
};

/** One small decision. */
export const editSchema = z.discriminatedUnion(
  'do',
  KINDS.map((kind) => kind.schema) as unknown as SchemasOf<typeof KINDS>,
);
export type Edit = z.infer<typeof editSchema>;

/** A kind, whichever: what it takes is known to be of it, for it was found by its name. */
export type AnyKind = Kind<z.ZodType<Edit>, keyof Decisions & string, z.ZodType>;

const BY_NAME = new Map(
  KINDS.map((kind) => [kind.schema.shape.do.value as string, kind as unknown as AnyKind]),
);

/** The kind of an edit. */
export const kindOfEdit = (edit: Edit): AnyKind => BY_NAME.get(edit.do)!;

/** Most edits that one press can take back or bring back. */
export const MOST_IN_A_STEP = 5_000;
const named = z.array(idSchema).min(1).max(MOST_IN_A_STEP).readonly();

/** Takes edits back, or brings back what was taken back. Both name the entries that they are about. */
export const undoSchema = z.object({ do: z.literal('undo'), entries: named });
export const redoSchema = z.object({ do: z.literal('redo'), entries: named });
export type Undo = z.infer<typeof undoSchema>;
export type Redo = z.infer<typeof redoSchema>;

/** What an entry can say. */
export type Act = Edit | Undo | Redo;

export const isEdit = (act: Act): act is Edit => act.do !== 'undo' && act.do !== 'redo';

/** What an act decides. That of an undo is whether each of the named entries stands. */
export const touchesOf = (act: Act): readonly Touch[] =>
  isEdit(act)
    ? kindOfEdit(act).touches(act)
    : act.entries.map((id) => ({ slot: `stands ${id}`, value: act.do === 'redo' }));
