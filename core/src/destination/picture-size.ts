import { aspectOf } from '../lesson/layout';
import type { FilmRow, MadeSoFar } from '../contract/films';
import type { Lesson } from '../lesson/lesson';
import { mediumOf, ofMedium } from '../lesson/medium';
import { toSeconds, type Us } from '../time/us';
import type { PictureSize } from './size-name';

export interface SizePx {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Its pictures are kept finer than they usually are: for what is edited further, or kept. */
  readonly finer?: true;
}

const even = (value: number) => Math.max(2, Math.round(value / 2) * 2);

/**
 * Size of the film's picture in px; both sides are even, as 4:2:0 video needs.
 * As recorded: large enough to show the largest track pixel for pixel, 2160 on the shorter side at most. Finest: the same, and finer.
 */
export const sizeOf = (lesson: Lesson, size: PictureSize): SizePx => {
  const aspect = aspectOf(lesson.decisions.frame.shape);
  const bySide = (shorterPx: number): SizePx =>
    aspect >= 1
      ? { widthPx: even(shorterPx * aspect), heightPx: even(shorterPx) }
      : { widthPx: even(shorterPx), heightPx: even(shorterPx / aspect) };
  if (size === '720p') return bySide(720);
  if (size === '1080p') return bySide(1080);
  const shorter = lesson.takes
    .flatMap((take) => take.tracks)
    .filter((track) => mediumOf(track.kind) === 'picture' && track.widthPx > 0)
    .map((track) => {
      const heightPx = Math.max(track.heightPx, track.widthPx / aspect);
      return aspect >= 1 ? heightPx : heightPx * aspect;
    });
  const recorded = bySide(Math.min(2160, Math.max(360, ...shorter)));
  return size === 'finest' ? { ...recorded, finer: true } : recorded;
};

/** Bits that a px takes in a frame: of what cameras and screens show, and of what is only drawn. From films of this app. */
const RECORDED_BITS = 0.05;
const DRAWN_BITS = 0.008;
/** How many times as many bits what is kept finer takes (`render`'s encoder). From films of this app. */
const FINER_TIMES = 1.6;
/** Sound, bits a second. */
export const SOUND_BITS = 160_000;
/** So many times as many px take so many times as many bits, to this power. */
const FOR_MORE_PX = 0.8;
const FRAMES = 30;

/** A film of the lesson that has been made, or enough of it: what it took tells most of what another will. */
export interface MadeBefore {
  readonly size: SizePx;
  readonly bytes: number;
  readonly filmUs: Us;
}

const pixelsOf = ({ widthPx, heightPx }: SizePx): number => widthPx * heightPx;

/** What is known of a film's footage and of those that were made before it. */
export interface FilmLikes {
  /** Nothing was recorded that isn't drawn. */
  readonly isDrawn?: boolean;
  readonly before?: MadeBefore | null;
}

/** What is known of a lesson's next film by its footage and its films, newest first; best by what is there of it already. */
export const filmLikes = (
  lesson: Lesson,
  films: readonly Pick<FilmRow, 'state' | 'size' | 'bytes' | 'filmUs'>[],
  sofar: (Pick<FilmRow, 'size'> & MadeSoFar) | null = null,
): FilmLikes => {
  const made = sofar ?? films.find(({ state }) => state === 'done');
  return {
    isDrawn: !lesson.takes.some(({ tracks }) => ofMedium(tracks, 'picture').length > 0),
    before: made ? { ...made, size: sizeOf(lesson, made.size) } : null,
  };
};

const timesOf = ({ finer }: SizePx): number => (finer ? FINER_TIMES : 1);

const pictureBits = (size: SizePx, { isDrawn = false, before = null }: FilmLikes): number => {
  if (before && before.filmUs > 0) {
    const bits = (before.bytes * 8) / toSeconds(before.filmUs) - SOUND_BITS;
    const finer = timesOf(size) / timesOf(before.size);
    return Math.max(0, bits) * finer * (pixelsOf(size) / pixelsOf(before.size)) ** FOR_MORE_PX;
  }
  return timesOf(size) * pixelsOf(size) * FRAMES * (isDrawn ? DRAWN_BITS : RECORDED_BITS);
};

/**
 * Bytes that a film is likely to take: as the last one did, or as films of such footage do. The second can be wrong by
 * several times: what moves in a picture isn't known before it is encoded.
 */
export const likelyBytes = (size: SizePx, lengthUs: Us, likes: FilmLikes = {}): number =>
  Math.round((toSeconds(lengthUs) * (pictureBits(size, likes) + SOUND_BITS)) / 8);

/** The same where something of the lesson's film tells how much its pictures take; null: it would be a guess that nobody can use. */
export const knownBytes = (size: SizePx, lengthUs: Us, likes: FilmLikes): number | null =>
  likes.before && likes.before.filmUs > 0 ? likelyBytes(size, lengthUs, likes) : null;
