import type { Framing } from '../film/sections';
import { aspectOf } from '../lesson/layout';
import { cameraLookOf, cropOf, type Lesson } from '../lesson/lesson';
import { mediumOf } from '../lesson/medium';
import { surfaceOf, trackOf, type Take } from '../lesson/take';
import { layOut, zoomedIn, withMargin, type LaidOut } from './geometry';

/** Where surface and camera of a take lie in the frame, as was decided. */
export const framed = (
  lesson: Pick<Lesson, 'decisions'>,
  take: Take,
  { layout, closeUp }: Framing,
): LaidOut => {
  const [surface, camera] = [surfaceOf(take), trackOf(take, 'camera')];
  const { shape, margin, rounding } = lesson.decisions.frame;
  const crop = cropOf(lesson, take.id);
  const laidOut = layOut(
    ...([layout, surface, camera, aspectOf(shape), crop] as const),
    cameraLookOf(lesson, take.id),
  );
  const closer = closeUp ? zoomedIn(laidOut, closeUp.part, surface, camera) : laidOut;
  return margin > 0 || rounding > 0 ? withMargin(closer, margin, rounding) : closer;
};

/**
 * How many px of the film's picture one recorded px becomes, where a take is shown so; null where nothing can get
 * soft: what is written is drawn in any size.
 */
export const blownUp = (
  lesson: Pick<Lesson, 'decisions'>,
  take: Take,
  framing: Framing,
  filmWidthPx: number,
): number | null => {
  const surface = surfaceOf(take);
  const track = surface ?? trackOf(take, 'camera');
  const laidOut = framed(lesson, take, framing);
  const box = surface ? laidOut.surface : laidOut.camera;
  if (!track || !box || mediumOf(track.kind) !== 'picture' || track.widthPx === 0) return null;
  return (box.to.width * filmWidthPx) / (box.from.width * track.widthPx);
};
