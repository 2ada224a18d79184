import { useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import { cropBetween, moveEdge, pinched, type Crop } from '@under-chalk/core/lesson/crop';
import { PartShown } from './part-shown';
import { useTheme } from './theme';

const EDGES = ['left', 'right', 'top', 'bottom'] as const;
const STEP = 0.01;
const COARSE_STEP = 0.05;

interface Props {
  readonly crop: Crop;
  readonly onCrop: (crop: Crop) => void;
}

/**
 * Lies over a whole picture. Dragging draws the part that is shown; the rest is dimmed; two fingers make it less or more. Each edge can
 * also be moved by the arrow keys, as a slider (WAI-ARIA APG).
 */
export const CropBox = ({ crop, onCrop }: Props) => {
  const theme = useTheme();
  const [size, setSize] = useState({ width: 1, height: 1 });
  const [drawn, setDrawn] = useState<Crop | null>(null);
  const [start, setStart] = useState({ x: 0, y: 0 });
  const shown = drawn ?? crop;
  const place = (at: { x: number; y: number }) => ({
    x: at.x / Math.max(1, size.width),
    y: at.y / Math.max(1, size.height),
  });
  const between = (at: { x: number; y: number }) => cropBetween(start, place(at));
  const drag = Gesture.Pan()
    .runOnJS(true)
    .minDistance(4)
    .maxPointers(1)
    .onBegin((at) => setStart(place(at)))
    .onUpdate((at) => setDrawn(between(at)))
    .onEnd((at) => {
      const whole = between(at);
      if (whole) onCrop(whole);
    })
    .onFinalize(() => setDrawn(null));
  const pinch = Gesture.Pinch()
    .runOnJS(true)
    .onUpdate(({ scale, focalX, focalY }) =>
      setDrawn(pinched(crop, scale, place({ x: focalX, y: focalY }))),
    )
    .onEnd(({ scale, focalX, focalY }) =>
      onCrop(pinched(crop, scale, place({ x: focalX, y: focalY }))),
    )
    .onFinalize(() => setDrawn(null));
  const value = (edge: (typeof EDGES)[number]) =>
    ({
      left: shown.x,
      right: shown.x + shown.width,
      top: shown.y,
      bottom: shown.y + shown.height,
    })[edge];
  const keyed =
    (edge: (typeof EDGES)[number]) =>
    (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
      const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
      if (!by) return;
      event.preventDefault();
      onCrop(moveEdge(crop, edge, by * (event.shiftKey ? COARSE_STEP : STEP)));
    };
  const percent = (fraction: number) => `${fraction * 100}%` as const;
  const right = shown.x + shown.width;
  const bottom = shown.y + shown.height;
  const handles = {
    left: { left: percent(shown.x), top: percent(shown.y + shown.height / 2) },
    right: { left: percent(right), top: percent(shown.y + shown.height / 2) },
    top: { left: percent(shown.x + shown.width / 2), top: percent(shown.y) },
    bottom: { left: percent(shown.x + shown.width / 2), top: percent(bottom) },
  } as const;
  return (
    <GestureDetector gesture={Gesture.Race(pinch, drag)}>
      <View
        testID="crop-box"
        style={[StyleSheet.absoluteFill, styles.draw]}
        onLayout={({ nativeEvent }: LayoutChangeEvent) => setSize(nativeEvent.layout)}
      >
        <PartShown part={shown} />
        {EDGES.map((edge) => (
          <View
            key={edge}
            role="slider"
            tabIndex={0}
            aria-label={`${edge} edge of the part that is shown`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(value(edge) * 100)}
            aria-valuetext={`${Math.round(value(edge) * 100)} %`}
            {...({ onKeyDown: keyed(edge) } as object)}
            style={[styles.handle, handles[edge]]}
          >
            <View style={[styles.dot, { backgroundColor: theme.card, borderColor: theme.ink }]} />
          </View>
        ))}
      </View>
    </GestureDetector>
  );
};

const styles = StyleSheet.create({
  draw: { ...({ cursor: 'crosshair', touchAction: 'none' } as object) },
  handle: {
    position: 'absolute',
    width: 44,
    height: 44,
    marginLeft: -22,
    marginTop: -22,
    alignItems: 'center',
    justifyContent: 'center',
  },
  dot: { width: 16, height: 16, borderRadius: 8, borderWidth: 2 },
});
