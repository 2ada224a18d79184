import { useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import Svg, { Polygon } from 'react-native-svg';
import { moveCorner, type Corners } from '@under-chalk/core/material/sheet/corners';
import { useTheme } from './theme';

const NAMES = ['upper left', 'upper right', 'lower right', 'lower left'] as const;
const STEP = 0.005;
const COARSE_STEP = 0.03;

interface Props {
  readonly corners: Corners;
  readonly onCorners: (corners: Corners) => void;
}

/**
 * Lies over a whole picture, with the corners of a sheet in it. Each is dragged, the nearest one from wherever the drag
 * begins, and moved by the arrow keys.
 */
export const CornerBox = ({ corners, onCorners }: Props) => {
  const theme = useTheme();
  const [size, setSize] = useState({ width: 1, height: 1 });
  const [drag, setDrag] = useState<{ index: number; dx: number; dy: number } | null>(null);
  const place = (at: { x: number; y: number }) => ({
    x: at.x / Math.max(1, size.width),
    y: at.y / Math.max(1, size.height),
  });
  const pan = Gesture.Pan()
    .runOnJS(true)
    .minDistance(0)
    .onBegin((at) => {
      const away = corners.map(({ x, y }) =>
        Math.hypot(x * size.width - at.x, y * size.height - at.y),
      );
      const index = away.indexOf(Math.min(...away));
      const from = place(at);
      // It stays under the finger as it was taken hold of: what is moved is seen beside it.
      setDrag({ index, dx: corners[index]!.x - from.x, dy: corners[index]!.y - from.y });
    })
    .onUpdate((at) => {
      if (!drag) return;
      const to = place(at);
      onCorners(moveCorner(corners, drag.index, { x: to.x + drag.dx, y: to.y + drag.dy }));
    })
    .onFinalize(() => setDrag(null));
  const keyed =
    (index: number) => (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
      const by = {
        ArrowLeft: [-1, 0],
        ArrowUp: [0, -1],
        ArrowRight: [1, 0],
        ArrowDown: [0, 1],
      }[event.key];
      if (!by) return;
      event.preventDefault();
      const step = event.shiftKey ? COARSE_STEP : STEP;
      const { x, y } = corners[index]!;
      onCorners(moveCorner(corners, index, { x: x + by[0]! * step, y: y + by[1]! * step }));
    };
  const percent = (fraction: number) => `${fraction * 100}%` as const;
  const inWords = ({ x, y }: Corners[number]) =>
    `${Math.round(x * 100)} % across, ${Math.round(y * 100)} % down`;
  return (
    <GestureDetector gesture={pan}>
      <View
        testID="corner-box"
        style={[StyleSheet.absoluteFill, styles.over]}
        onLayout={({ nativeEvent }: LayoutChangeEvent) => setSize(nativeEvent.layout)}
      >
        <Svg width="100%" height="100%" viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden>
          {[
            { stroke: '#11171b', width: 5 },
            { stroke: '#f7f3e9', width: 2 },
          ].map(({ stroke, width }) => (
            <Polygon
              key={stroke}
              points={corners.map(({ x, y }) => `${x},${y}`).join(' ')}
              fill="none"
              stroke={stroke}
              strokeWidth={width}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </Svg>
        {corners.map((corner, index) => (
          <View
            key={NAMES[index]}
            role="slider"
            tabIndex={0}
            aria-label={`${NAMES[index]} corner of the sheet`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(corner.x * 100)}
            aria-valuetext={inWords(corner)}
            {...({ onKeyDown: keyed(index) } as object)}
            style={[styles.handle, { left: percent(corner.x), top: percent(corner.y) }]}
          >
            <View style={[styles.knob, { backgroundColor: theme.card, borderColor: theme.ink }]} />
          </View>
        ))}
      </View>
    </GestureDetector>
  );
};

const styles = StyleSheet.create({
  over: { ...({ cursor: 'crosshair', touchAction: 'none' } as object) },
  handle: {
    position: 'absolute',
    width: 44,
    height: 44,
    marginLeft: -22,
    marginTop: -22,
    borderRadius: 22,
    alignItems: 'center',
    justifyContent: 'center',
  },
  knob: { width: 22, height: 22, borderRadius: 11, borderWidth: 3 },
});
