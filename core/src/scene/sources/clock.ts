import { recordedFrameIn } from '../../film/span';
import { isHeardAt, rateInFigures } from '../../lesson/speed';
import { FILM_FPS } from '../../time/frames';
import type { ReadSource, Shown } from './source';

const NOTHING: Shown = { layers: [], moving: false };

/** Across, in fractions of the frame's shorter side. */
const SIZE = 0.15;

/** A ticking clock where a stretch goes by so fast that its voice isn't heard: it says why. */
export const clockSource: ReadSource = () => ({
  borders: [],
  at(filmFrame, span) {
    if (isHeardAt(span.rate)) return NOTHING;
    const second = Math.floor(recordedFrameIn(span, filmFrame) / FILM_FPS) % 60;
    const times = rateInFigures(span.rate);
    return { layers: [{ kind: 'clock', second, times, size: SIZE }], moving: false };
  },
});
