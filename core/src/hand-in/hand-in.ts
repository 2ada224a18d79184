import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { cleanLine, cleanText } from '../text/clean';
import { handInBySchema } from './activity';

/** Most signs that are typed. */
export const MOST_HAND_IN_SIGNS = 4_000;
/** Most files in one hand-in, and bytes of each. */
export const MOST_FILES = 6;
export const MOST_FILE_BYTES = 25_000_000;
/** How long a voice or a camera is recorded at most, ms. */
export const RECORDED_MS = 30_000;

/** What a file that was handed in turned out to be. */
export const handInKindSchema = z.enum(['picture', 'pdf', 'document', 'text', 'sound', 'film']);
export type HandInKind = z.infer<typeof handInKindSchema>;

export const fileNameSchema = z.string().overwrite(cleanLine).trim().min(1).max(120);

export const handInFileSchema = z.object({
  id: idSchema,
  name: z.string(),
  by: handInBySchema.exclude(['words']),
  kind: handInKindSchema,
  bytes: z.number().int(),
  /** Of a voice or a camera; else null. */
  lengthUs: usSchema.nullable(),
});
export type HandInFile = z.infer<typeof handInFileSchema>;

/** Who somebody without an address of their own says they are. */
export const giverSchema = z.string().overwrite(cleanLine).trim().max(60);

/** What is typed into a hand-in. */
export const handInTextSchema = z.string().overwrite(cleanText).trim().max(MOST_HAND_IN_SIGNS);

/** Something that was handed in. */
export const handInSchema = z.object({
  text: z.string(),
  files: z.array(handInFileSchema),
  /** When it was handed in, last. ISO 8601. */
  at: z.string(),
  /** After its date. */
  late: z.boolean(),
});
export type HandIn = z.infer<typeof handInSchema>;
