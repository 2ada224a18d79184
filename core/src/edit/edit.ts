import * as z from 'zod';
import type { Decisions } from '../lesson/lesson';
import type { Kind } from './kind';
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

/** What can stand in a lesson's list of edits. */
export const entrySchema = z.union([
  editSchema,
  z.object({ do: z.literal('undo') }),
  z.object({ do: z.literal('redo') }),
]);
export type Entry = z.infer<typeof entrySchema>;

/** A kind, whichever: what it takes is known to be of it, for it was found by its name. */
type AnyKind = Kind<z.ZodType<Edit>, keyof Decisions>;

const BY_NAME = new Map(
  KINDS.map((kind) => [kind.schema.shape.do.value as string, kind as unknown as AnyKind]),
);

/** The kind of an edit. */
export const kindOfEdit = (edit: Edit): AnyKind => BY_NAME.get(edit.do)!;
