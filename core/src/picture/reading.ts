import * as z from 'zod';
import { usSchema, type Id } from '../lesson/take';

/** Version of how pictures are read: what was read in another way is read anew. */
export const PICTURE_VERSION = 1;

const fraction = z.number().min(0).max(1);

/** Something that can be read, in fractions of the picture. */
export const shownTextSchema = z
  .object({
    ...{ x: fraction, y: fraction, width: fraction, height: fraction },
    /** From the top of its tall letters to the bottom of its deep ones, of the picture’s height. */
    letters: fraction,
    /** What it says, as far as that is sure. */
    text: z.string().max(1_000),
    /** How many signs it has, spaces left out. */
    signs: z.number().int().min(1),
  })
  .readonly();
export type ShownText = z.infer<typeof shownTextSchema>;

/**
 * What a picture isn’t meant to be:
 * - `black`: as good as nothing but black
 * - `still`: a camera’s, in which not even its noise moves
 * - `torn`: the lower part is what a decoder puts where data is missing
 */
export const flawKindSchema = z.enum(['black', 'still', 'torn']);
export type FlawKind = z.infer<typeof flawKindSchema>;

const stretch = { startUs: usSchema, endUs: usSchema };

/** What was read of a track's pictures: a reading. Stretches are in recorded time. */
export const pictureReadingSchema = z
  .object({
    version: z.number().int(),
    /** What could be read, in order; between them nothing could. Of surfaces. */
    texts: z
      .array(z.object({ ...stretch, shown: z.array(shownTextSchema).readonly() }).readonly())
      .readonly(),
    /** In order. */
    flaws: z.array(z.object({ ...stretch, is: flawKindSchema }).readonly()).readonly(),
  })
  .readonly();
export type PictureReading = z.infer<typeof pictureReadingSchema>;

/** What can be read on a page of a material. */
export const pageReadingSchema = z
  .object({ version: z.number().int(), shown: z.array(shownTextSchema).readonly() })
  .readonly();
export type PageReading = z.infer<typeof pageReadingSchema>;

/** Of what was read of tracks and pages: what there is. Null: nothing, or not yet. */
export interface PicturesRead {
  ofTrack(trackId: Id): PictureReading | null;
  ofPage(content: string, page: number): PageReading | null;
}

export const NOTHING_READ: PicturesRead = { ofTrack: () => null, ofPage: () => null };

/** What was read of some tracks and pages, to be looked up. */
export const picturesRead = ({
  tracks,
  pages,
}: {
  readonly tracks: readonly { readonly trackId: Id; readonly reading: PictureReading }[];
  readonly pages: readonly {
    readonly content: string;
    readonly page: number;
    readonly reading: PageReading;
  }[];
}): PicturesRead => {
  const ofTracks = new Map(tracks.map(({ trackId, reading }) => [trackId, reading]));
  const ofPages = new Map(
    pages.map(({ content, page, reading }) => [`${content} ${page}`, reading]),
  );
  return {
    ofTrack: (trackId) => ofTracks.get(trackId) ?? null,
    ofPage: (content, page) => ofPages.get(`${content} ${page}`) ?? null,
  };
};
