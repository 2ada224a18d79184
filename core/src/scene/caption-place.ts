import type { Film } from '../film/film';
import type { InkOf } from '../ink/changed-track';
import { aspectOf } from '../lesson/layout';
import type { CaptionLook } from '../words/caption-look';
import { CAPTION_AWAY, CAPTION_LINE } from './caption-measures';
import type { Rect } from './geometry';
import { inTheWayAt, shared } from './in-the-way';

/** How wide a letter is, in heights of its own. */
const LETTER_WIDE = 0.55;

/** Where captions stand when they are at a place, fractions of the frame. */
const bandOf = (
  place: 'bottom' | 'top',
  lines: readonly string[],
  size: number,
  frameAspect: number,
): Rect => {
  // Of the shorter side, as fractions of both.
  const [letterWide, letterHigh] = [
    size * Math.min(1, 1 / frameAspect),
    size * Math.min(1, frameAspect),
  ];
  const longest = Math.max(...lines.map((line) => [...line].length));
  const width = Math.min(0.94, longest * LETTER_WIDE * letterWide);
  const height = (lines.length * CAPTION_LINE + 0.4) * letterHigh;
  const y = place === 'top' ? CAPTION_AWAY : 1 - CAPTION_AWAY - height;
  return { x: (1 - width) / 2, y, width, height };
};

/**
 * Where a caption is in nobody's way for as long as it stands: at the bottom, or at the top where it would cover a face beside
 * what is shown, or what is written there, and covers less above.
 *
 * @param from frame of the film that it begins with, and `to` the one it has gone with
 */
export const clearPlace = (
  film: Film,
  inkOf: InkOf,
  { from, to }: { readonly from: number; readonly to: number },
  lines: readonly string[],
  { size }: Pick<CaptionLook, 'size'>,
): 'bottom' | 'top' => {
  const frameAspect = aspectOf(film.lesson.decisions.frame.shape);
  const covers = { bottom: 0, top: 0 };
  const looked = new Set([from, Math.floor((from + to) / 2), Math.max(from, to - 1)]);
  for (const frame of looked) {
    const { face, written } = inTheWayAt(film, inkOf, frame);
    const clear = face ? [face, ...written] : written;
    for (const place of ['bottom', 'top'] as const) {
      const band = bandOf(place, lines, size, frameAspect);
      for (const rect of clear) covers[place] += shared(band, rect);
    }
  }
  return covers.top < covers.bottom ? 'top' : 'bottom';
};
