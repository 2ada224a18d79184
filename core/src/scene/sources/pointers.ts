import type { Film } from '../../film/film';
import { filmFramesInside } from '../../film/span';
import type { InkOf } from '../../ink/changed-track';
import { aspectOf } from '../../lesson/layout';
import type { Take } from '../../lesson/take';
import { heldAt, lightPlace } from '../../pointer/held';
import { GOES_US, RING_US, type PointerLook } from '../../pointer/look';
import { pointingAt, pointingIn, type PointerPath, type SeenPointerOf } from '../../pointer/path';
import { HALF_FRAME_US, nearestFrame } from '../../time/frames';
import type { Us } from '../../time/us';
import type { PictureBox } from '../geometry';
import type { Layer } from '../layers';

/** Something that points, and how it is drawn. */
interface Pointer {
  readonly path: PointerPath;
  readonly look: PointerLook;
}

/** What is drawn of pointers in a film. */
export interface Pointers {
  /** Frames of the film at which one begins to move, or has stopped and gone. */
  readonly borders: readonly number[];
  /** On a surface of a take, at a recorded time. */
  readonly on: (take: Take, surface: PictureBox | null, takeUs: Us) => Layer[];
}

const layerOf = (
  { path, look }: Pointer,
  { from, to, radius, opacity: surfaceOpacity }: PictureBox,
  us: Us,
  frameAspect: number,
): Layer[] => {
  const { mark, colour, rings, goesAfterUs } = look;
  const holds = look.holds === true && mark === 'spotlight';
  const light = holds ? heldAt(path, us, look.size / 2) : null;
  const pointing = pointingAt(path, us);
  const pointed = pointing ?? light?.place;
  if (!pointed) return [];
  const press = pointing?.press ?? null;
  // Places are told in widths of the surface, whatever its shape.
  const across = to.width / from.width;
  const inFrame = (x: number, y: number) => ({
    x: to.x + (x - from.x) * across,
    y: to.y - (from.y / from.height) * to.height + y * across * frameAspect,
  });
  const stays = goesAfterUs === 0 || !pointing || light?.place || (press && us < press.untilUs);
  const stillUs = stays ? 0 : us - pointing.restsSinceUs - goesAfterUs;
  const opacity = surfaceOpacity * Math.min(1, Math.max(0, 1 - stillUs / GOES_US));
  const sincePress = press ? us - press.atUs : Infinity;
  const ring =
    rings && press && sincePress < RING_US
      ? { ...inFrame(press.x, press.y), part: sincePress / RING_US }
      : null;
  if ((opacity <= 0 || mark === 'none') && !ring) return [];
  const size = (look.size / from.width) * to.width;
  const { x, y } = light ? lightPlace(light, us, pointed) : pointed;
  const place = inFrame(x, y);
  return [{ kind: 'pointer', mark, colour, ...place, size, ring, over: to, radius, opacity }];
};

/** Reads a film's pointers once: those that were recorded as places, and those that were seen in its pictures. */
export const readPointers = (film: Film, inkOf: InkOf, seenOf: SeenPointerOf): Pointers => {
  const { pointer, screenPointer, frame } = film.lesson.decisions;
  const aspect = aspectOf(frame.shape);
  const pointersOf = (takeId: string): Pointer[] => {
    const [told, seen] = [inkOf(takeId)?.pointer, seenOf(takeId)];
    const isRound = screenPointer.mark !== 'none' || screenPointer.rings;
    return [
      ...(told && pointer.mark !== 'none' ? [{ path: told, look: pointer }] : []),
      ...(seen && isRound ? [{ path: seen, look: screenPointer }] : []),
    ];
  };
  return {
    get borders() {
      return film.spans.flatMap((span) =>
        pointersOf(span.take.id).flatMap(({ path, look: { goesAfterUs } }) =>
          filmFramesInside(
            span,
            pointingIn(
              path,
              Math.max(RING_US, goesAfterUs === 0 ? 0 : goesAfterUs + GOES_US),
            ).flatMap(({ startUs, endUs }) => [nearestFrame(startUs), nearestFrame(endUs) + 1]),
          ),
        ),
      );
    },
    on: (take, surface, takeUs) =>
      surface && surface.opacity > 0
        ? pointersOf(take.id).flatMap((one) =>
            // What was seen was seen in the very picture that begins here; a hand goes on meanwhile.
            layerOf(one, surface, one.path.isSeen ? takeUs : takeUs + HALF_FRAME_US, aspect),
          )
        : [],
  };
};
