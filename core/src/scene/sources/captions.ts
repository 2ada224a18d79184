import { inFrames } from '../../time/frames';
import { cuesIn } from '../../words/cue';
import { filmCuesOf } from '../../words/film-cues';
import { captionLines } from '../../words/lines';
import type { ReadSource, Shown } from './source';

const NOTHING: Shown = { layers: [], moving: false };

/** Captions that are part of the picture: those in the language that is spoken. */
export const captionSource: ReadSource = (film) => {
  const { captionLook, cues, spoken } = film.lesson.decisions;
  const { burned, place, size, ground } = captionLook;
  const shown = (burned ? filmCuesOf(film, cuesIn(cues, spoken)) : []).map(
    ({ startUs, endUs, text }) => ({
      from: Math.round(inFrames(startUs)),
      to: Math.round(inFrames(endUs)),
      shown: {
        layers: [{ kind: 'caption' as const, lines: captionLines(text), place, size, ground }],
        moving: false,
      },
    }),
  );
  return {
    get borders() {
      const all = new Set(shown.flatMap(({ from, to }) => [from, to]));
      return [...all].filter((frame) => frame < film.frames).sort((a, b) => a - b);
    },
    at(filmFrame) {
      // The last that has begun, and those beside it: two may overlap.
      let low = 0;
      let high = shown.length;
      while (low < high) {
        const middle = (low + high) >> 1;
        if (shown[middle]!.from <= filmFrame) low = middle + 1;
        else high = middle;
      }
      for (let at = low - 1; at >= Math.max(0, low - 3); at--) {
        if (filmFrame < shown[at]!.to) return shown[at]!.shown;
      }
      return NOTHING;
    },
  };
};
