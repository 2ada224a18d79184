import { inFrames } from '../../time/frames';
import { cuesIn } from '../../words/cue';
import { filmCuesOf, type FilmCue } from '../../words/film-cues';
import { clearPlace } from '../caption-place';
import { captionLines } from '../../words/lines';
import type { ReadSource, Shown } from './source';

const NOTHING: Shown = { layers: [], moving: false };

const framesOf = ({ startUs, endUs, text }: FilmCue) => ({
  ...{ from: Math.round(inFrames(startUs)), to: Math.round(inFrames(endUs)), text },
});

/** Captions that are part of the picture: those in the language that is spoken. */
export const captionSource: ReadSource = (film, inkOf) => {
  const { captionLook, cues, language: spoken } = film.lesson.decisions;
  const { burntIn, place, size, ground } = captionLook;
  const shown = burntIn ? filmCuesOf(film, cuesIn(cues, spoken)).map(framesOf) : [];
  const looks = new Map<(typeof shown)[number], Shown>();
  /** Found when it is asked for: an edit waits for none of it. */
  const lookOf = (cue: (typeof shown)[number]): Shown => {
    let look = looks.get(cue);
    if (!look) {
      const lines = captionLines(cue.text);
      const at = place === 'clear' ? clearPlace(film, inkOf, cue, lines, captionLook) : place;
      const layer = { kind: 'caption' as const, lines, place: at, size, ground };
      look = { layers: [layer], moving: false };
      looks.set(cue, look);
    }
    return look;
  };
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
        if (filmFrame < shown[at]!.to) return lookOf(shown[at]!);
      }
      return NOTHING;
    },
  };
};
