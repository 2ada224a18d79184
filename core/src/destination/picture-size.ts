import { aspectOf } from '../lesson/arrangement';
import type { Lesson } from '../lesson/lesson';
import { mediumOf } from '../lesson/medium';
import { toSeconds, type Us } from '../time/us';
import type { PictureSize } from './size-name';

export interface SizePx {
  readonly widthPx: number;
  readonly heightPx: number;
}

const even = (value: number) => Math.max(2, Math.round(value / 2) * 2);

/**
 * Size of the film's picture in px; both sides are even, as 4:2:0 video needs.
 * As recorded: large enough to show the largest track pixel for pixel, 2160 on the shorter side at most.
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
  return bySide(Math.min(2160, Math.max(360, ...shorter)));
};

/**
 * Bytes a film is likely to take, for the gauge and the choice of size. From films of this app at the
 * encoder settings of `render`: 0.05 bit a pixel for screens with an inset, and 160 kbit/s of sound.
 */
export const likelyBytes = (size: SizePx, lengthUs: Us): number =>
  Math.round((toSeconds(lengthUs) * (size.widthPx * size.heightPx * 30 * 0.05 + 160_000)) / 8);
