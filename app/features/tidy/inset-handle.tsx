import { View } from 'react-native';
import type { RecordedPlace } from '@under-chalk/core/film/film';
import { arrangedAround, layoutAt } from '@under-chalk/core/film/sections';
import { aspectOf } from '@under-chalk/core/lesson/layout';
import { takeOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf } from '@under-chalk/core/lesson/take';
import { useEdits } from '../../data/edits';
import { DraggedInset } from '../../ui/over-picture';

interface Props {
  readonly lesson: Lesson;
  readonly place: RecordedPlace;
}

/**
 * The inset of the place that is shown, to be dragged. The drop changes the whole stretch that has this
 * layout. With the keyboard the same is done by the corners in a phrase's panel.
 */
export const InsetHandle = ({ lesson, place }: Props) => {
  const { put } = useEdits();
  const take = takeOf(lesson, place.takeId);
  const camera = take && trackOf(take, 'camera');
  const layout = take && layoutAt(lesson, take, place.takeUs);
  if (!take || !camera || layout?.kind !== 'inset') return null;
  const { startUs, endUs } = arrangedAround(lesson, take, place.takeUs);
  const { shape, margin } = lesson.decisions.frame;
  const room = `${margin * 100}%` as const;
  return (
    <View
      pointerEvents="box-none"
      style={{ position: 'absolute', left: room, top: room, right: room, bottom: room }}
    >
      <DraggedInset
        inset={layout.inset}
        cameraAspect={camera.widthPx / camera.heightPx}
        frameAspect={aspectOf(shape)}
        onMove={(inset) =>
          put({
            do: 'set-layout',
            takeId: take.id,
            startUs,
            endUs,
            layout: { kind: 'inset', inset },
          })
        }
      />
    </View>
  );
};
