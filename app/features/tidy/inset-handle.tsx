import { useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import type { RecordedPlace } from '@under-chalk/core/film/film';
import { arrangementAt } from '@under-chalk/core/film/sections';
import { aspectOf } from '@under-chalk/core/lesson/arrangement';
import { takeOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf } from '@under-chalk/core/lesson/take';
import { insetAt, insetRect } from '@under-chalk/core/scene/geometry';
import { useEdits } from '../../data/edits';
import { RADIUS, useTheme } from '../../ui/theme';

interface Props {
  readonly lesson: Lesson;
  readonly place: RecordedPlace;
}

/**
 * Lies over the inset in the picture, so that it can be dragged. The drop changes the whole stretch that
 * has this arrangement. With the keyboard the same is done by the corners in a beat's panel.
 */
export const InsetHandle = ({ lesson, place }: Props) => {
  const theme = useTheme();
  const { put } = useEdits();
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [dragged, setDragged] = useState<{ x: number; y: number } | null>(null);
  const take = takeOf(lesson, place.takeId);
  const camera = take && trackOf(take, 'camera');
  const arrangement = take && arrangementAt(lesson, take, place.takeUs);
  if (!take || !camera || arrangement?.kind !== 'inset') return null;

  const frameAspect = aspectOf(lesson.decisions.frame.shape);
  const cameraAspect = camera.widthPx / camera.heightPx;
  const rect = insetRect(arrangement.inset, cameraAspect, frameAspect);
  const middle = dragged ?? { x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 };
  const inset = dragged
    ? insetAt(arrangement.inset, middle.x, middle.y, cameraAspect, frameAspect)
    : arrangement.inset;
  const shown = insetRect(inset, cameraAspect, frameAspect);

  /** The stretch of recorded time that has the arrangement of this place. */
  const stretch = lesson.decisions.arranged.find(
    (arranged) =>
      arranged.takeId === take.id &&
      place.takeUs >= arranged.startUs &&
      place.takeUs < arranged.endUs,
  ) ?? { startUs: 0, endUs: take.durationUs };

  const at = (moved: { translationX: number; translationY: number }) => ({
    x: rect.x + rect.width / 2 + moved.translationX / Math.max(1, size.width),
    y: rect.y + rect.height / 2 + moved.translationY / Math.max(1, size.height),
  });
  const drag = Gesture.Pan()
    .runOnJS(true)
    .onUpdate((moved) => setDragged(at(moved)))
    .onEnd((moved) => {
      const { x, y } = at(moved);
      setDragged(null);
      put({
        do: 'arrange',
        takeId: take.id,
        startUs: stretch.startUs,
        endUs: stretch.endUs,
        arrangement: {
          kind: 'inset',
          inset: insetAt(arrangement.inset, x, y, cameraAspect, frameAspect),
        },
      });
    })
    .onFinalize(() => setDragged(null));

  const percent = (fraction: number) => `${fraction * 100}%` as const;
  return (
    <View
      style={StyleSheet.absoluteFill}
      pointerEvents="box-none"
      onLayout={({ nativeEvent }: LayoutChangeEvent) => setSize(nativeEvent.layout)}
    >
      <GestureDetector gesture={drag}>
        <View
          testID="inset-handle"
          aria-hidden
          style={[
            styles.handle,
            {
              left: percent(shown.x),
              top: percent(shown.y),
              width: percent(shown.width),
              height: percent(shown.height),
              borderColor: dragged ? theme.action : 'transparent',
              borderRadius: inset.shape === 'circle' ? 999 : RADIUS.small,
            },
          ]}
        />
      </GestureDetector>
    </View>
  );
};

const styles = StyleSheet.create({
  handle: {
    position: 'absolute',
    borderWidth: 3,
    borderStyle: 'dashed',
    ...({ cursor: 'grab' } as object),
  },
});
