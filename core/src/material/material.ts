import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanText } from '../text/clean';

/** Most pages that a material may have. */
export const MOST_PAGES = 1_000;
/** Largest file of one, bytes. */
export const MOST_MATERIAL_BYTES = 200_000_000;
/** Most materials of a lesson. */
export const MOST_MATERIALS = 100;

/** The content of a material: SHA-256 of its file, hexadecimal. The same file is the same content, whatever its name. */
export const contentSchema = z.string().regex(/^[0-9a-f]{64}$/);

/** The shape of a page: width over height. */
const aspectSchema = z.number().min(0.01).max(100);

/** A page of a material that lies on a page to be written on. */
export const materialPageSchema = z
  .object({
    content: contentSchema,
    /** From 0. */
    page: z
      .number()
      .int()
      .min(0)
      .max(MOST_PAGES - 1),
    aspect: aspectSchema,
    /** It lies in the left half, and there is room to write beside it. */
    beside: z.literal(true).optional(),
  })
  .readonly();
export type MaterialPage = z.infer<typeof materialPageSchema>;

export const materialNameSchema = z.string().trim().min(1).max(200).overwrite(cleanText);

/**
 * - `coming`: its bytes are on their way
 * - `reading`: they are here; how many pages there are, and what they say, is being found out
 * - `ready`: can be shown
 * - `unusable`: `problem` says why
 */
export const materialStateSchema = z.enum(['coming', 'reading', 'ready', 'unusable']);

/** A PDF, a picture or a text that was brought into a lesson to be shown and written on. */
export const materialSchema = z
  .object({
    id: idSchema,
    name: materialNameSchema,
    state: materialStateSchema,
    /** A code from the table of errors. */
    problem: z.string().nullable(),
    /** What is in it; null until its bytes are here. */
    content: contentSchema.nullable(),
    /** Shapes of its pages, width over height. */
    aspects: z.array(aspectSchema).max(MOST_PAGES).readonly(),
    /** Its first page is more dark than light: what is written on it is light. */
    dark: z.boolean(),
    bytes: z.number().int().min(0),
    broughtAt: z.string(),
  })
  .readonly();
export type Material = z.infer<typeof materialSchema>;

/** What a picture shows, in words. */
export const describedSchema = z.string().trim().min(1).max(2_000).overwrite(cleanText);

/** What a class keeps, to be brought into its lessons. */
export const classMaterialSchema = z
  .object({
    id: idSchema,
    name: materialNameSchema,
    content: contentSchema,
    pages: z.number().int(),
  })
  .readonly();
export type ClassMaterial = z.infer<typeof classMaterialSchema>;

/** A material of some lesson, to be brought into another. */
export const keptMaterialSchema = classMaterialSchema
  .unwrap()
  .extend({
    /** Title of the lesson that it was brought into last. */
    lesson: z.string(),
    className: z.string(),
  })
  .readonly();
export type KeptMaterial = z.infer<typeof keptMaterialSchema>;

/** Widths that pictures of pages are made in, px: the least that is large enough is used. */
export const PICTURE_WIDTHS = [480, 960, 1920, 3840] as const;
export type PictureWidth = (typeof PICTURE_WIDTHS)[number];

/** The least of the widths that shows a page as sharp as the screen is; the largest where none does. */
export const pictureWidthFor = (shownPx: number): PictureWidth =>
  PICTURE_WIDTHS.find((width) => width >= shownPx) ?? 3840;

/** What a material is called where it is shown: its file's name without its ending. */
export const calledName = (name: string): string => name.replace(/(.)\.[a-z0-9]{1,8}$/i, '$1');
