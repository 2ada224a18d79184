import * as z from 'zod';
import { materialPageSchema, type MaterialPage } from '../material/material';
import type { Us } from '../time/us';
import { idSchema, usSchema, type Id } from './take';

/** A moment of a take, wherever in the film it comes to stand. */
const momentSchema = z.object({ takeId: idSchema, atUs: usSchema }).readonly();

/** The still picture that a film is known by: before it plays, in lists, and in its file. */
export const coverSchema = z
  .object({
    /** A moment of a take, or a page or picture that was brought in; null: the likeliest moment of the film is found for it. */
    of: z.union([momentSchema, materialPageSchema]).nullable(),
    /** The lesson's title stands over it. */
    titled: z.boolean(),
  })
  .readonly();
export type Cover = z.infer<typeof coverSchema>;

/** Before anything is said of it. */
export const FOUND_COVER: Cover = { of: null, titled: false };

export const isFound = ({ of, titled }: Cover): boolean => of === null && !titled;

/** The moment that it shows; null: another thing, or what is found. */
export const timeOfCover = ({ of }: Cover): { readonly takeId: Id; readonly atUs: Us } | null =>
  of !== null && 'takeId' in of ? of : null;

/** The page that it shows; null: a moment of the film. */
export const pageOfCover = ({ of }: Cover): MaterialPage | null =>
  of !== null && 'content' in of ? of : null;
