import type { Film } from '../film/film';
import { spanAt } from '../film/film';
import type { Span } from '../film/span';
import { NO_INK, type InkOf } from '../ink/changed-track';
import { NONE_SEEN, type SeenPointerOf } from '../pointer/path';
import { frameAt } from '../time/frames';
import type { Us } from '../time/us';
import { readCrossFades } from './cross-fades';
import type { Layer } from './layers';
import { layoutSource } from './sources/layout';
import { captionSource } from './sources/captions';
import { titleCardSource } from './sources/title-cards';
import { clockSource } from './sources/clock';
import { cutawaySource } from './sources/cutaways';
import { groundSource } from './sources/ground';
import { textOverlaySource } from './sources/text-overlays';
import type { ReadSource, SceneSource } from './sources/source';
import { titleSource } from './sources/title';
import { watermarkSource } from './sources/watermark';

/** A moment of a film, as a plain value: all that the painter needs besides the pictures. */
export interface Scene {
  /** The lower ones first. */
  readonly layers: readonly Layer[];
  /** Standing still: rectangles lie on whole even pixels. While moving they don't, or they would jitter. */
  readonly still: boolean;
}

/** What fills a scene, the lower ones first. A new feature is a file in `sources/` and a line here. */
const SOURCES: readonly ReadSource[] = [
  groundSource,
  titleSource,
  titleCardSource,
  layoutSource,
  cutawaySource,
  clockSource,
];
/** What lies over all of it: it doesn't go over from one picture into another. */
const OVER: readonly ReadSource[] = [textOverlaySource, captionSource, watermarkSource];

/** What some features show in a frame. */
const shownBy = (sources: readonly SceneSource[], frame: number, span: Span) => {
  const shown = { layers: [] as Layer[], moving: false };
  for (const source of sources) {
    const { layers, moving, covers } = source.at(frame, span);
    if (covers) {
      shown.layers = [];
      shown.moving = false;
    }
    for (const layer of layers) shown.layers.push(layer);
    shown.moving ||= moving;
  }
  return shown;
};

/** Answers what is shown in any frame of a film; made once a film, for the film is read once. */
export interface SceneReader {
  readonly film: Film;
  readonly inkOf: InkOf;
  /** Frames at which something begins, ends, or begins or ends to move; in order, each once, 0 among them. */
  readonly borders: readonly number[];
  /** The scene of a frame of the film; null outside the film. */
  sceneOf(frame: number): Scene | null;
  /** The scene of a moment in film time; null outside the film. */
  sceneAt(filmUs: Us): Scene | null;
}

/**
 * @param inkOf what is written on the takes; without it none is seen
 * @param seenOf pointers that were seen in their pictures
 */
export const readScenes = (
  film: Film,
  inkOf: InkOf = NO_INK,
  seenOf: SeenPointerOf = NONE_SEEN,
): SceneReader => {
  const sources = SOURCES.map((read) => read(film, inkOf, seenOf));
  const over = OVER.map((read) => read(film, inkOf, seenOf));
  const crossFades = readCrossFades(film, (frame, span) => shownBy(sources, frame, span).layers);
  let borders: readonly number[] | null = null;
  const readBorders = () => {
    const all = new Set(film.spans.map(({ filmFrame }) => filmFrame));
    for (const source of [...sources, ...over, crossFades]) {
      source.borders.forEach((border) => all.add(border));
    }
    return [...all].sort((a, b) => a - b);
  };
  const sceneOf = (frame: number): Scene | null => {
    const span = spanAt(film, frame);
    if (!span) return null;
    const [under, above] = [shownBy(sources, frame, span), shownBy(over, frame, span)];
    const crossFade = crossFades.at(frame);
    const { layers } = under;
    if (crossFade) layers.push(crossFade);
    for (const layer of above.layers) layers.push(layer);
    return { layers, still: !under.moving && !above.moving };
  };
  return {
    film,
    inkOf,
    get borders() {
      return (borders ??= readBorders());
    },
    sceneOf,
    sceneAt: (filmUs) => sceneOf(frameAt(filmUs)),
  };
};

/** The scene of one moment: which picture of which track lies where. Null outside the film. */
export const sceneAt = (film: Film, filmUs: Us): Scene | null => readScenes(film).sceneAt(filmUs);
