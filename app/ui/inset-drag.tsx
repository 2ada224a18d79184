import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import type { Inset } from '@under-chalk/core/lesson/layout';
import { insetRect } from '@under-chalk/core/scene/geometry';
import { atGuides, nudged, sized, type Guide } from '@under-chalk/core/scene/inset-moves';
import { RADIUS, useTheme } from './theme';

/** How far an arrow key moves it, a fraction of the frame; with Shift so many times as far. */
const STEP = 0.01;
const COARSE = 5;
/** How much plus and minus change its size. */
const GROWS = 1.08;
/** What keys do becomes one decision when none was pressed for so long, ms. */
const KEYS_REST_MS = 700;

const ARROWS: Readonly<Record<string, readonly [x: number, y: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const third = (place: number, names: readonly [string, string, string]) =>
  names[place < 1 / 3 ? 0 : place > 2 / 3 ? 2 : 1];

/** Where it lies, in words: `at the bottom right`. */
const placeInWords = ({ placeX, placeY }: Inset): string => {
  const words = [third(placeY, ['top', '', 'bottom']), third(placeX, ['left', '', 'right'])].filter(
    Boolean,
  );
  return words.length > 0 ? `at the ${words.join(' ')}` : 'in the middle';
};

interface Props {
  readonly inset: Inset;
  /** Width over height. */
  readonly cameraAspect: number;
  readonly frameAspect: number;
  readonly onMove: (inset: Inset) => void;
}

/**
 * Lies over the inset in a picture: it is dragged, made larger and smaller by two fingers, and both by keys. Near the
 * margins, the thirds and the middle of the frame it is drawn there, and a line shows where.
 */
export const InsetDrag = ({ inset, cameraAspect, frameAspect, onMove }: Props) => {
  const theme = useTheme();
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [dragged, setDragged] = useState<Inset | null>(null);
  const [guides, setGuides] = useState<readonly Guide[]>([]);
  const shapes = { cameraAspect, frameAspect };
  const shown = insetRect(dragged ?? inset, cameraAspect, frameAspect);
  const movedBy = (moved: { translationX: number; translationY: number }) =>
    atGuides(
      nudged(
        inset,
        moved.translationX / Math.max(1, size.width),
        moved.translationY / Math.max(1, size.height),
        shapes,
      ),
      shapes,
    );
  const over = () => {
    setDragged(null);
    setGuides([]);
  };
  const drag = Gesture.Pan()
    .runOnJS(true)
    .maxPointers(1)
    .onUpdate((moved) => {
      const at = movedBy(moved);
      setDragged(at.inset);
      setGuides(at.guides);
    })
    .onEnd((moved) => onMove(movedBy(moved).inset))
    .onFinalize(over);
  const pinch = Gesture.Pinch()
    .runOnJS(true)
    .onUpdate(({ scale }) => setDragged(sized(inset, scale, shapes)))
    .onEnd(({ scale }) => onMove(sized(inset, scale, shapes)))
    .onFinalize(over);

  const keyed = useRef<{ inset: Inset; timer: ReturnType<typeof setTimeout> } | null>(null);
  const keep = () => {
    const waiting = keyed.current;
    keyed.current = null;
    if (!waiting) return;
    clearTimeout(waiting.timer);
    over();
    onMove(waiting.inset);
  };
  const press = (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
    const { key, shiftKey } = event;
    const before = keyed.current?.inset ?? inset;
    const arrow = ARROWS[key];
    const grows = { '+': GROWS, '=': GROWS, '-': 1 / GROWS }[key];
    const far = STEP * (shiftKey ? COARSE : 1);
    if (!arrow && !grows) return;
    event.preventDefault();
    const after = arrow
      ? nudged(before, arrow[0] * far, arrow[1] * far * frameAspect, shapes)
      : sized(before, grows!, shapes);
    if (keyed.current) clearTimeout(keyed.current.timer);
    keyed.current = { inset: after, timer: setTimeout(keep, KEYS_REST_MS) };
    setDragged(after);
  };
  // What keys have done is decided, too, when it is left before they rested.
  const keepLast = useRef(keep);
  useEffect(() => {
    keepLast.current = keep;
  });
  useEffect(() => () => keepLast.current(), []);

  const percent = (fraction: number) => `${fraction * 100}%` as const;
  return (
    <View
      style={StyleSheet.absoluteFill}
      pointerEvents="box-none"
      onLayout={({ nativeEvent }: LayoutChangeEvent) => setSize(nativeEvent.layout)}
    >
      {guides.map(({ axis, at }) => (
        <View
          key={axis}
          aria-hidden
          pointerEvents="none"
          style={[
            axis === 'x' ? styles.upright : styles.level,
            axis === 'x' ? { left: percent(at) } : { top: percent(at) },
            { borderColor: theme.action },
          ]}
        />
      ))}
      <GestureDetector gesture={Gesture.Race(pinch, drag)}>
        <View
          testID="inset-handle"
          role="button"
          tabIndex={0}
          aria-label={`The inset, ${placeInWords(dragged ?? inset)}. Arrow keys move it, plus and minus change its size.`}
          {...({ onKeyDown: press, onBlur: keep } as object)}
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
  upright: { position: 'absolute', top: 0, bottom: 0, borderLeftWidth: 1, borderStyle: 'dashed' },
  level: { position: 'absolute', left: 0, right: 0, borderTopWidth: 1, borderStyle: 'dashed' },
});
