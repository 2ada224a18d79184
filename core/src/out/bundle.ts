import * as z from 'zod';
import { entrySchema } from '../edit/entry';
import { materialSchema } from '../material/material';
import { idSchema, takeSchema } from '../lesson/take';

/** The name that a bundle's document says it is, and the version of its form. */
export const BUNDLE_FORM = 'under-chalk-lesson';
export const BUNDLE_VERSION = 1;

/**
 * The document of a lesson's bundle, `lesson.json`: all that was decided, in order, and the facts about what was recorded and
 * brought in. Beside it stand `timeline.otio`, `media/<track>.mp4`, `ink/<track>.ndjson` (a record a line) and
 * `materials/<content><ending>`.
 */
export const bundleSchema = z
  .object({
    form: z.literal(BUNDLE_FORM),
    version: z.literal(BUNDLE_VERSION),
    lessonId: idSchema,
    /** Replayed, they are the lesson's decisions. */
    edits: z.array(entrySchema).readonly(),
    takes: z.array(takeSchema).readonly(),
    materials: z.array(materialSchema).readonly(),
  })
  .readonly();
export type Bundle = z.infer<typeof bundleSchema>;

/** Its text: the same bundle is the same to the byte. */
export const bundleText = (bundle: Bundle): string => `${JSON.stringify(bundle, null, 2)}\n`;
