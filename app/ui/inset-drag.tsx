import { useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import type { Inset } from '@under-chalk/core/lesson/arrangement';
import { insetAt, insetRect } from '@under-chalk/core/scene/geometry';
import { RADIUS, useTheme } from './theme';

interface Props {
  readonly inset: Inset;
  /** Width over height. */
  readonly cameraAspect: number;
  readonly frameAspect: number;
  readonly onMove: (inset: Inset) => void;
}

/** Lies over the inset in a picture, so that it can be dragged. With the keyboard it is moved by its corners. */
export const InsetDrag = ({ inset, cameraAspect, frameAspect, onMove }: Props) => {
  const theme = useTheme();
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [dragged, setDragged] = useState<Inset | null>(null);
  const rect = insetRect(inset, cameraAspect, frameAspect);
  const shown = insetRect(dragged ?? inset, cameraAspect, frameAspect);
  const movedBy = (moved: { translationX: number; translationY: number }) =>
    insetAt(
      inset,
      rect.x + rect.width / 2 + moved.translationX / Math.max(1, size.width),
      rect.y + rect.height / 2 + moved.translationY / Math.max(1, size.height),
      cameraAspect,
      frameAspect,
    );
  const drag = Gesture.Pan()
    .runOnJS(true)
    .onUpdate((moved) => setDragged(movedBy(moved)))
    .onEnd((moved) => onMove(movedBy(moved)))
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
    ...({ cursor: 'grab', touchAction: 'none' } as object),
  },
});
