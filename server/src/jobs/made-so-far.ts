import { bytesByPart, type PieceThere } from '@under-chalk/core/destination/bytes-by-part';
import { SOUND_BITS } from '@under-chalk/core/destination/picture-size';
import type { MadeSoFar } from '@under-chalk/core/contract/films';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Us } from '@under-chalk/core/time/us';
import { toSeconds } from '@under-chalk/core/time/us';
import { chunkPath, type PieceCache, type Piece } from '@under-chalk/render';
import { stat } from 'node:fs/promises';

/** How large a film gets is told where it can't be further off than this, a share of it (in 95 of 100 cases). */
const WITHIN = 0.1;

/**
 * What a film will take, by the pieces of its pictures that are there already: some were made while it was recorded, others for a film
 * before, others to know this.
 *
 * @param pieces all of its pieces of pictures
 * @param lesson what it is of: silence takes next to nothing
 * @returns null where those that are there don't tell it well enough
 */
export const madeSoFar = async (
  pieces: readonly Piece[],
  filmUs: Us,
  lesson: Lesson,
  cache: PieceCache,
): Promise<MadeSoFar | null> => {
  const there: PieceThere[] = [];
  for (const { key, frames } of pieces) {
    const facts = await stat(chunkPath(cache, key)).catch(() => null);
    if (facts) there.push({ frames, bytes: facts.size });
  }
  const frames = pieces.reduce((sum, piece) => sum + piece.frames, 0);
  const told = bytesByPart(there, { pieces: pieces.length, frames });
  if (!told || told.within > WITHIN) return null;
  const isHeard = lesson.takes.some(({ tracks }) => ofMedium(tracks, 'sound').length > 0);
  const sound = isHeard ? (toSeconds(filmUs) * SOUND_BITS) / 8 : 0;
  return { bytes: Math.round(told.bytes + sound), filmUs };
};
