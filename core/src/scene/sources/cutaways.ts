import { filmTimeFrom, type Film } from '../../film/film';
import type { Span } from '../../film/span';
import { aspectOf } from '../../lesson/layout';
import {
  framesOfCutaway,
  shownAt,
  type CutawayFootage,
  type KeptFrames,
} from '../../lesson/cutaway';
import { cropOf, takeOf } from '../../lesson/lesson';
import { mediumOf } from '../../lesson/medium';
import { pictureTrackOf, type Track } from '../../lesson/take';
import { frameAt } from '../../time/frames';
import { containedIn, WHOLE } from '../geometry';
import type { Layer } from '../layers';
import { groundOf } from './ground';
import type { ReadSource, Shown } from './source';
import { bordersOf, stretchAt } from './stretches';

const NOTHING: Shown = { layers: [], moving: false };

/** Footage that is shown in place of what was recorded, as it was found for a place of the film. */
interface Footage {
  /** Frame of the film with which it begins. */
  readonly begins: number;
  readonly kept: readonly KeptFrames[];
  readonly track: Track;
}

/** Finds the footage of cutaways, once for each place of the film that one begins in. */
const readFootage = (film: Film) => {
  const { lesson } = film;
  const known = new Map<string, Footage | null>();
  const find = ({ take, placementId }: Span, of: CutawayFootage): Footage | null => {
    const shown = takeOf(lesson, of.takeId);
    const track = shown?.state === 'ready' ? pictureTrackOf(shown) : undefined;
    if (!shown || !track || mediumOf(track.kind) !== 'picture') return null;
    const place = { takeId: take.id, placementId, takeUs: of.sinceUs };
    return {
      begins: frameAt(filmTimeFrom(film, place)),
      kept: framesOfCutaway(lesson.decisions.cuts, shown, of),
      track,
    };
  };
  return (span: Span, of: CutawayFootage): Footage | null => {
    const name = `${span.placementId} ${of.takeId} ${of.fromUs} ${of.sinceUs}`;
    let footage = known.get(name);
    if (footage === undefined) {
      footage = find(span, of);
      known.set(name, footage);
    }
    return footage;
  };
};

/** Pages, and other takes' pictures, that are shown in place of what was recorded, while the sound goes on. */
export const cutawaySource: ReadSource = (film) => {
  const { lesson } = film;
  const { cutaways, frame } = lesson.decisions;
  const footageOf = readFootage(film);
  const frameAspect = aspectOf(frame.shape);
  const picture = (span: Span, of: CutawayFootage, filmFrame: number): Layer | null => {
    const footage = footageOf(span, of);
    const takeUs = footage && shownAt(footage.kept, filmFrame - footage.begins);
    if (!footage || takeUs === null) return null;
    const { track } = footage;
    const crop = track.kind === 'surface' ? cropOf(lesson, of.takeId) : WHOLE;
    const aspect = (track.widthPx * crop.width) / (track.heightPx * crop.height);
    const to = containedIn(WHOLE, aspect, frameAspect);
    const box = { from: crop, to, radius: 0, opacity: 1 };
    return { kind: 'picture', trackId: track.id, takeUs, ...box };
  };
  /** Where footage jumps over what was cut out of it, and where it ends. */
  const jumps = (span: Span): number[] =>
    cutaways.flatMap((one) => {
      if (one.takeId !== span.take.id || !('takeId' in one.of)) return [];
      const footage = footageOf(span, one.of);
      return (footage?.kept ?? [])
        .map(({ before, frames }) => footage!.begins + before + frames)
        .filter((at) => at > span.filmFrame && at < span.filmFrame + span.frames);
    });
  return {
    get borders() {
      return cutaways.length === 0
        ? []
        : [...bordersOf(film, cutaways), ...film.spans.flatMap(jumps)];
    },
    at(filmFrame, span) {
      const found = stretchAt(cutaways, span, filmFrame);
      if (!found) return NOTHING;
      const { of } = found;
      const shown: Layer | null =
        'takeId' in of
          ? picture(span, of, filmFrame)
          : {
              ...{ kind: 'page', of, from: WHOLE, opacity: 1, clear: false },
              to: containedIn(WHOLE, of.aspect, frameAspect),
            };
      // Footage that is over: what was recorded is seen again.
      if (!shown) return NOTHING;
      return { layers: [...groundOf(frame), shown], moving: false, covers: true };
    },
  };
};
