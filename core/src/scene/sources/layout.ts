import { sectionsOf, type Framing, type Section } from '../../film/sections';
import { filmFramesInside, recordedFrameIn, stepOf, type Span } from '../../film/span';
import type { Film } from '../../film/film';
import type { InkOf } from '../../ink/changed-track';
import { isSomethingSeen, unchangedSince, writingIn } from '../../ink/ink-track';
import type { InsetEdge } from '../../lesson/layout';
import { cameraLookOf } from '../../lesson/lesson';
import { ofMedium } from '../../lesson/medium';
import { surfaceOf, trackOf, type Take, type Track } from '../../lesson/take';
import { frameToUs, HALF_FRAME_US, nearestFrame } from '../../time/frames';
import { AT_SPEED, sameRate } from '../../time/rate';
import { countUpTo } from '../../time/sorted';
import type { Us } from '../../time/us';
import { ease, mixArranged, type LaidOut, type PictureBox } from '../geometry';
import { framed } from '../framed';
import type { Layer } from '../layers';
import type { PictureLayer } from '../layers/picture';
import { readPointers } from './pointers';
import type { ReadSource } from './source';

/** What was written, as it lies with the surface that it was written on. */
const inkOn = (take: Take, box: PictureBox | null, takeUs: Us, inkOf: InkOf): Layer[] => {
  const ink = inkOf(take.id);
  if (!ink || !box || box.opacity <= 0) return [];
  const { from, to, radius, opacity } = box;
  const sinceUs = unchangedSince(ink, takeUs + HALF_FRAME_US);
  if (!isSomethingSeen(ink, sinceUs)) return [];
  return [{ kind: 'ink', takeId: take.id, sinceUs, from, to, radius, opacity }];
};

/** Whether nothing is shown of a take but what is written. */
const isDrawnOnly = ({ tracks }: Take): boolean => ofMedium(tracks, 'picture').length === 0;

/**
 * Frames of a film at which a hand begins to write, or stops. Where there is nothing but writing only those at which
 * another page comes, or another part of one: to paint what stands costs nothing there, and to begin anew does.
 */
const writingBorders = (film: Film, inkOf: InkOf): number[] =>
  film.spans.flatMap((span) => {
    const ink = inkOf(span.take.id);
    if (!ink) return [];
    if (isDrawnOnly(span.take)) {
      const turned = [...ink.turns, ...ink.views].map(({ atUs }) => nearestFrame(atUs));
      return filmFramesInside(span, [...new Set(turned)]);
    }
    const written = writingIn(ink).flatMap(({ startUs, endUs }) =>
      // What changes in one moment, as a page that is turned, stands before and after it.
      endUs > startUs ? [nearestFrame(startUs), nearestFrame(endUs) + 1] : [nearestFrame(startUs)],
    );
    return filmFramesInside(span, written);
  });

/** Which picture of a take's tracks a frame of the film shows. */
const shownIn = (span: Span, filmFrame: number): Pick<PictureLayer, 'takeUs' | 'speed'> => {
  const takeUs = frameToUs(recordedFrameIn(span, filmFrame));
  const { rate } = span;
  return sameRate(rate, AT_SPEED)
    ? { takeUs }
    : { takeUs, speed: { rate, step: stepOf(span, filmFrame) } };
};

const pictureOf = (
  track: Track | undefined,
  box: PictureBox | null,
  shown: Pick<PictureLayer, 'takeUs' | 'speed'>,
  { edge = 'none', mirrored = false }: { edge?: InsetEdge; mirrored?: boolean } = {},
): Layer[] => {
  if (!track || !box || box.opacity <= 0) return [];
  const { from, to, radius, opacity } = box;
  const { takeUs, speed } = shown;
  // Written out: it is made for each of the hundred thousand frames of an hour, and a spread costs as much as all the rest.
  const plain: PictureLayer = speed
    ? { kind: 'picture', trackId: track.id, takeUs, speed, from, to, radius, opacity }
    : { kind: 'picture', trackId: track.id, takeUs, from, to, radius, opacity };
  const picture: Layer = mirrored ? { ...plain, mirrored } : plain;
  if (edge === 'shadow') return [{ kind: 'shadow', to, radius, opacity }, picture];
  return edge === 'line' ? [picture, { kind: 'edge', to, radius, opacity }] : [picture];
};

/** Where surface and camera lie in the sections of a film; found once for what stands still. */
const arrangedIn = ({ lesson }: Film) => {
  const ingested = new Map<Section, LaidOut>();
  const boxesOf = ({ span }: Section, framing: Framing) => framed(lesson, span.take, framing);
  return (section: Section, frame: number): LaidOut => {
    let after = ingested.get(section);
    if (!after) {
      after = boxesOf(section, section);
      ingested.set(section, after);
    }
    const { before, changeFrames } = section;
    return before !== null && frame < changeFrames
      ? mixArranged(boxesOf(section, before), after, ease((frame + 1) / (changeFrames + 1)))
      : after;
  };
};

/** Sections of films, and where the pictures lie in them: read once for each. */
const READ = new WeakMap<Film, ReturnType<typeof readArranged>>();

const readArranged = (film: Film) => {
  const sections = sectionsOf(film);
  const starts = sections.map(({ filmFrame }) => filmFrame);
  const boxesAt = arrangedIn(film);
  const at = (frame: number) => {
    const section = sections[countUpTo(starts, frame) - 1]!;
    const into = frame - section.filmFrame;
    const moving = section.before !== null && into < section.changeFrames;
    return { section, moving, laidOut: boxesAt(section, into) };
  };
  return { sections, at };
};

const readOnce = (film: Film): ReturnType<typeof readArranged> => {
  let read = READ.get(film);
  if (!read) {
    read = readArranged(film);
    READ.set(film, read);
  }
  return read;
};

/** Where surface and camera lie in a frame of a film, on the way from one layout to another too; null outside of it. */
export const laidOutAt = (film: Film, frame: number): LaidOut | null =>
  frame >= 0 && frame < film.frames ? readOnce(film).at(frame).laidOut : null;

/** The pictures of a take as they are laid out: surface, what is written on it, and camera; and the soft changes between. */
export const layoutSource: ReadSource = (film, inkOf, seenOf) => {
  const { sections, at } = readOnce(film);
  const pointers = readPointers(film, inkOf, seenOf);
  return {
    get borders() {
      return [
        ...sections.flatMap(({ filmFrame, changeFrames }) =>
          changeFrames > 0 ? [filmFrame, filmFrame + changeFrames] : [filmFrame],
        ),
        ...writingBorders(film, inkOf),
        ...pointers.borders,
      ];
    },
    at(frame) {
      const {
        section,
        moving,
        laidOut: { surface, camera },
      } = at(frame);
      const { take } = section.span;
      const shown = shownIn(section.span, frame);
      const { takeUs } = shown;
      // A camera that fills the frame has nothing to part from.
      const edge = (camera?.to.width ?? 1) < 0.98 ? (section.layout.inset.edge ?? 'line') : 'none';
      const { mirrored } = cameraLookOf(film.lesson, take.id);
      const onSurface = surfaceOf(take) !== undefined;
      const layers = pictureOf(trackOf(take, 'surface'), surface, shown);
      if (onSurface) {
        layers.push(...inkOn(take, surface, takeUs, inkOf), ...pointers.on(take, surface, takeUs));
      }
      layers.push(...pictureOf(trackOf(take, 'camera'), camera, shown, { edge, mirrored }));
      // Where there is only a face, it is the face that is written on.
      if (!onSurface) layers.push(...inkOn(take, camera, takeUs, inkOf));
      return { layers, moving };
    },
  };
};
