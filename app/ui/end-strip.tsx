import { useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import type { Us } from '@under-chalk/core/time/us';
import { STRIP_HEIGHT } from './strip-height';
import { RADIUS, useTheme } from './theme';
import { Wave } from './wave';

/** How much is seen to either side of the end, µs: a frame is some px wide. */
const SEEN_US = 1_000_000;
/** As many bars as there are levels. */
const BARS = 100;

export interface EndStripProps {
  readonly line: LevelLine | null;
  readonly valueUs: Us;
  readonly leastUs: Us;
  readonly mostUs: Us;
  /** On which side of the end what is chosen lies. */
  readonly chosen: 'before' | 'after';
  /** Where it comes to stand when it is let go. */
  readonly snap: (us: Us) => Us;
  readonly onMove: (us: Us) => void;
}

/**
 * One end of a stretch, on the wave of what lies round it: dragged there, to the frame. By keys the same is done at the
 * number beside it, so that it is hidden from readers.
 */
export const EndStrip = ({
  line,
  valueUs,
  leastUs,
  mostUs,
  chosen,
  snap,
  onMove,
}: EndStripProps) => {
  const theme = useTheme();
  const [width, setWidth] = useState(1);
  // While it is dragged the wave stands still.
  const [held, setHeld] = useState<{ middleUs: Us; atUs: Us } | null>(null);
  const middleUs = held?.middleUs ?? valueUs;
  const atUs = held?.atUs ?? valueUs;
  const inside = (us: Us) => Math.min(mostUs, Math.max(leastUs, us));
  const at = (moved: number) => inside(middleUs + (moved / width) * 2 * SEEN_US);
  const drag = Gesture.Pan()
    .runOnJS(true)
    .activeOffsetX([-3, 3])
    .onStart(() => setHeld({ middleUs: valueUs, atUs: valueUs }))
    .onUpdate(({ translationX }) => setHeld({ middleUs, atUs: at(translationX) }))
    .onEnd(({ translationX }) => onMove(inside(snap(at(translationX)))))
    .onFinalize(() => setHeld(null));
  const share = (atUs - middleUs + SEEN_US) / (2 * SEEN_US);
  const percent = (part: number) => `${Math.min(100, Math.max(0, part * 100))}%` as const;
  return (
    <GestureDetector gesture={drag}>
      <View
        aria-hidden
        testID="end-strip"
        onLayout={({ nativeEvent }: LayoutChangeEvent) => setWidth(nativeEvent.layout.width)}
        style={[styles.strip, { backgroundColor: theme.paper, borderColor: theme.line }]}
      >
        {line ? (
          <Wave
            line={line}
            startUs={middleUs - SEEN_US}
            endUs={middleUs + SEEN_US}
            height={STRIP_HEIGHT - 4}
            bars={BARS}
          />
        ) : null}
        <View
          style={[
            styles.other,
            { backgroundColor: theme.line },
            chosen === 'before'
              ? { left: percent(share), right: 0 }
              : { left: 0, right: percent(1 - share) },
          ]}
        />
        <View style={[styles.end, { left: percent(share), backgroundColor: theme.action }]} />
        <View
          style={[
            styles.knob,
            { left: percent(share), backgroundColor: theme.card, borderColor: theme.action },
          ]}
        />
      </View>
    </GestureDetector>
  );
};

const styles = StyleSheet.create({
  strip: {
    height: STRIP_HEIGHT,
    borderWidth: 1.5,
    borderRadius: RADIUS.small,
    overflow: 'hidden',
    justifyContent: 'center',
    cursor: 'grab' as never,
  },
  // What isn’t chosen is seen less.
  other: { position: 'absolute', top: 0, bottom: 0, opacity: 0.62 },
  end: { position: 'absolute', top: 0, bottom: 0, width: 3, marginLeft: -1.5 },
  knob: {
    position: 'absolute',
    bottom: 4,
    width: 18,
    height: 18,
    marginLeft: -9,
    borderRadius: 9,
    borderWidth: 3,
  },
});
