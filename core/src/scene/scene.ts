import { aspectOf } from '../lesson/arrangement';
import { cropOf } from '../lesson/lesson';
import type { Film } from '../film/film';
import { sectionsOf, type Section } from '../film/sections';
import { trackOf, type Id, type Track } from '../lesson/take';
import { frameAt, frameToUs } from '../time/frames';
import type { Us } from '../time/us';
import { ease, mixPlacements, placementsOf, type Placement, type Rect } from './geometry';

/** One picture lying in the frame. Later layers lie over earlier ones. */
export interface Layer {
  readonly trackId: Id;
  /** Which picture of the track: the last one that starts at or before this recorded time. */
  readonly takeUs: Us;
  readonly from: Rect;
  readonly to: Rect;
  /** Fraction of the shorter side of `to` in px. */
  readonly radius: number;
  readonly opacity: number;
  /** A thin line round the picture, so that it parts from a surface of its own colour. */
  readonly edged: boolean;
}

/** A moment of a film, as a plain value: all that the painter needs besides the pictures. */
export interface Scene {
  readonly background: string;
  readonly layers: readonly Layer[];
  /** Words shown where there is no picture at all: a film of sound alone. */
  readonly title: string | null;
  /** Standing still: rectangles lie on whole even pixels. While moving they don't, or they would jitter. */
  readonly still: boolean;
}

/** Colour behind the pictures where they don't fill the frame. */
export const FRAME_BACKGROUND = '#20292f';

const layer = (
  track: Track | undefined,
  placement: Placement | null,
  takeUs: Us,
  edged: boolean,
): Layer[] =>
  track && placement && placement.opacity > 0
    ? [{ trackId: track.id, takeUs, ...placement, edged }]
    : [];

/** The scene of one frame of a section, counted from the section's start. */
export const sceneInSection = (film: Film, section: Section, frame: number): Scene => {
  const { take, arrangement, before, changeFrames } = section;
  const frameAspect = aspectOf(film.lesson.decisions.frame.shape);
  const surface = trackOf(take, 'surface');
  const camera = trackOf(take, 'camera');
  const moving = before !== null && frame < changeFrames;
  const crop = cropOf(film.lesson, take.id);
  const settled = placementsOf(arrangement, surface, camera, frameAspect, crop);
  const placements = moving
    ? mixPlacements(
        placementsOf(before, surface, camera, frameAspect, crop),
        settled,
        ease((frame + 1) / (changeFrames + 1)),
      )
    : settled;
  const takeUs = frameToUs(section.startFrame + frame);
  const edged = (placements.camera?.to.width ?? 1) < 0.98;
  const layers = [
    ...layer(surface, placements.surface, takeUs, false),
    ...layer(camera, placements.camera, takeUs, edged),
  ];
  return {
    background: FRAME_BACKGROUND,
    layers,
    title: layers.length === 0 ? film.lesson.decisions.plan.title : null,
    still: !moving,
  };
};

/** Answers what is shown at any moment of a film; made once a film, since sections are found once. */
export interface SceneReader {
  readonly film: Film;
  readonly sections: readonly Section[];
  /** The scene of a moment in film time; null outside the film. */
  sceneAt(filmUs: Us): Scene | null;
}

export const readScenes = (film: Film): SceneReader => {
  const sections = sectionsOf(film);
  return {
    film,
    sections,
    sceneAt(filmUs) {
      const frame = frameAt(filmUs);
      const section = sections.findLast((candidate) => candidate.filmFrame <= frame);
      if (!section || frame >= film.frames || frame < 0) return null;
      return sceneInSection(film, section, frame - section.filmFrame);
    },
  };
};

/** The scene of one moment: which picture of which track lies where. Null outside the film. */
export const sceneAt = (film: Film, filmUs: Us): Scene | null => readScenes(film).sceneAt(filmUs);
