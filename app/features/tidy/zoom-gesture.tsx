import type { Film } from '@under-chalk/core/film/film';
import { filmTimeFrom, filmTimeOf } from '@under-chalk/core/film/film';
import { closeUpAt } from '@under-chalk/core/film/sections';
import { isCloser } from '@under-chalk/core/lesson/close-up';
import { pinched } from '@under-chalk/core/lesson/crop';
import { cameraLookOf, cropOf, takeOf } from '@under-chalk/core/lesson/lesson';
import { surfaceOf } from '@under-chalk/core/lesson/take';
import { pointOf } from '@under-chalk/core/scene/geometry';
import { laidOutAt } from '@under-chalk/core/scene/sources/layout';
import { frameAt } from '@under-chalk/core/time/frames';
import { middleOf } from '@under-chalk/core/time/ranges';
import { useEdits } from '../../data/edits';
import { PinchedPicture } from '../../ui/over-picture';
import type { OpenStretch } from './open-stretch';
import { useTidy, useTidying } from './tidying';
import type { Column } from './use-columns';

/** Pulled by less than this, nothing was meant. */
const LEAST_TIMES = 1.15;

interface Props {
  readonly film: Film;
  readonly columns: readonly Column[];
}

/**
 * Comes closer to what two fingers pull apart in the picture, for what is chosen, else for the phrase that the picture stands
 * in; pushed together, further away again. By keys the same is done by *Zoom in*.
 */
export const ZoomGesture = ({ film, columns }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const here = useTidy((view) => (view.playing ? null : view.here));
  const open = useTidy((view) => view.open);
  if (!here) return null;
  const { lesson } = film;
  const take = takeOf(lesson, here.takeId);
  const laidOut = laidOutAt(film, frameAt(filmTimeOf(film, here) ?? 0));
  const box = take && laidOut && (surfaceOf(take) ? laidOut.surface : laidOut.camera);
  if (!take || !box) return null;
  // The camera’s picture may be shown as in a mirror.
  const mirrored = !surfaceOf(take) && cameraLookOf(lesson, take.id).mirrored;
  const stretchHere = (): OpenStretch | null => {
    if (open?.takeId === here.takeId && open.placementId === here.placementId) return open;
    const rows = columns.find(({ placed }) => placed.id === here.placementId)?.rows ?? [];
    const row = rows.find(
      ({ kind, startUs, endUs }) =>
        kind === 'phrase' && here.takeUs >= startUs && here.takeUs < endUs,
    );
    return row
      ? { takeId: take.id, placementId: here.placementId!, startUs: row.startUs, endUs: row.endUs }
      : null;
  };
  return (
    <PinchedPicture
      onPinch={({ times, x, y }) => {
        const stretch = stretchHere();
        if (!stretch || (times < LEAST_TIMES && times > 1 / LEAST_TIMES)) return;
        const { takeId, placementId, startUs, endUs } = stretch;
        const middleUs = middleOf(stretch);
        const before = closeUpAt(lesson, take, middleUs);
        const at = { x: mirrored ? 2 * box.to.x + box.to.width - x : x, y };
        const part = pinched(box.from, times, pointOf(box, at));
        const closer = isCloser(cropOf(lesson, take.id), part);
        if (!closer && !before) return;
        const closeUp = closer ? { part, pace: before?.pace ?? ('middling' as const) } : null;
        put({ do: 'set-close-up', takeId, startUs, endUs, closeUp });
        // Where it can be seen: at its beginning the picture is still on the way.
        tidying.goTo(filmTimeFrom(film, { takeId, placementId, takeUs: middleUs }));
      }}
    />
  );
};
