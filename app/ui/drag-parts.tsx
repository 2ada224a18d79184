import type { ComponentProps } from 'react';
import { StyleSheet } from 'react-native';
import { GestureHandlerRootView } from 'react-native-gesture-handler';
import { CornerBox as Corner } from './corner-box';
import { CropBox as Crop } from './crop-box';
import { EndStrip as Strip, type EndStripProps } from './end-strip';
import { InsetDrag as Inset } from './inset-drag';
import { PinchArea as Pinch } from './pinch-area';

// What is drawn and dragged over a picture: fetched when it is first shown, with the package for gestures.

export const CropBox = (props: ComponentProps<typeof Crop>) => (
  <GestureHandlerRootView style={StyleSheet.absoluteFill}>
    <Crop {...props} />
  </GestureHandlerRootView>
);

export const CornerBox = (props: ComponentProps<typeof Corner>) => (
  <GestureHandlerRootView style={StyleSheet.absoluteFill}>
    <Corner {...props} />
  </GestureHandlerRootView>
);

export const InsetDrag = (props: ComponentProps<typeof Inset>) => (
  <GestureHandlerRootView style={StyleSheet.absoluteFill} pointerEvents="box-none">
    <Inset {...props} />
  </GestureHandlerRootView>
);

export const PinchArea = (props: ComponentProps<typeof Pinch>) => (
  <GestureHandlerRootView style={StyleSheet.absoluteFill}>
    <Pinch {...props} />
  </GestureHandlerRootView>
);

export const EndStrip = (props: EndStripProps) => (
  <GestureHandlerRootView>
    <Strip {...props} />
  </GestureHandlerRootView>
);
