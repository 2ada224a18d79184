import { useState } from 'react';
import { StyleSheet, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import { pinched, UNCROPPED } from '@under-chalk/core/lesson/crop';
import { PartShown } from './part-shown';

export interface Pinch {
  /** How many times as near. */
  readonly times: number;
  /** The point between the fingers, fractions of the area. */
  readonly x: number;
  readonly y: number;
}

/**
 * Lies over a picture and takes two fingers only: one scrolls the page as ever. Pulled apart, they show which part of the
 * picture that will be.
 */
export const PinchArea = ({ onPinch }: { readonly onPinch: (pinch: Pinch) => void }) => {
  const [size, setSize] = useState({ width: 1, height: 1 });
  const [now, setNow] = useState<Pinch | null>(null);
  const read = (told: { scale: number; focalX: number; focalY: number }): Pinch => ({
    times: told.scale,
    x: told.focalX / Math.max(1, size.width),
    y: told.focalY / Math.max(1, size.height),
  });
  const pinch = Gesture.Pinch()
    .runOnJS(true)
    .onUpdate((told) => setNow(read(told)))
    .onEnd((told) => onPinch(read(told)))
    .onFinalize(() => setNow(null));
  return (
    <GestureDetector gesture={pinch} touchAction="pan-y">
      <View
        testID="pinch-area"
        aria-hidden
        style={StyleSheet.absoluteFill}
        onLayout={({ nativeEvent }: LayoutChangeEvent) => setSize(nativeEvent.layout)}
      >
        {now && now.times > 1 ? <PartShown part={pinched(UNCROPPED, now.times, now)} /> : null}
      </View>
    </GestureDetector>
  );
};
