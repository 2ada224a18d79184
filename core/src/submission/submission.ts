import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { cleanLine, cleanText } from '../text/clean';
import { submissionBySchema } from './assignment';

/** Most signs that are typed. */
export const MOST_SUBMISSION_SIGNS = 4_000;
/** Most files in one submission, and bytes of each. */
export const MOST_FILES = 6;
export const MOST_FILE_BYTES = 25_000_000;
/** How long a voice or a camera is recorded at most, ms. */
export const RECORDED_MS = 30_000;

/** What a file that was handed in turned out to be. */
export const submissionKindSchema = z.enum(['picture', 'pdf', 'document', 'text', 'sound', 'film']);
export type SubmissionKind = z.infer<typeof submissionKindSchema>;

export const fileNameSchema = z.string().overwrite(cleanLine).trim().min(1).max(120);

export const submissionFileSchema = z.object({
  id: idSchema,
  name: z.string(),
  by: submissionBySchema.exclude(['words']),
  kind: submissionKindSchema,
  bytes: z.number().int(),
  /** Of a voice or a camera; else null. */
  lengthUs: usSchema.nullable(),
});
export type SubmissionFile = z.infer<typeof submissionFileSchema>;

/** Who somebody without an address of their own says they are. */
export const giverSchema = z.string().overwrite(cleanLine).trim().max(60);

/** What is typed into a submission. */
export const submissionTextSchema = z
  .string()
  .overwrite(cleanText)
  .trim()
  .max(MOST_SUBMISSION_SIGNS);

/** Something that was handed in. */
export const submissionSchema = z.object({
  text: z.string(),
  files: z.array(submissionFileSchema),
  /** When it was handed in, last. ISO 8601. */
  at: z.string(),
  /** After its date. */
  late: z.boolean(),
});
export type Submission = z.infer<typeof submissionSchema>;
