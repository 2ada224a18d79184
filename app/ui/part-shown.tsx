import { StyleSheet, View } from 'react-native';
import type { Crop } from '@under-chalk/core/lesson/crop';

const percent = (fraction: number) => `${fraction * 100}%` as const;

/** A part of a picture: a line round it, and the rest dimmed. Lies over the picture. */
export const PartShown = ({ part }: { readonly part: Crop }) => {
  const { x, y, width, height } = part;
  const [right, bottom] = [x + width, y + height];
  const dimmed = [
    { left: 0, top: 0, width: percent(1), height: percent(y) },
    { left: 0, top: percent(bottom), width: percent(1), height: percent(1 - bottom) },
    { left: 0, top: percent(y), width: percent(x), height: percent(height) },
    { left: percent(right), top: percent(y), width: percent(1 - right), height: percent(height) },
  ] as const;
  const box = {
    left: percent(x),
    top: percent(y),
    width: percent(width),
    height: percent(height),
  };
  return (
    <>
      {dimmed.map((one, index) => (
        <View key={index} aria-hidden style={[styles.dim, one]} />
      ))}
      <View aria-hidden style={[styles.line, box]} />
    </>
  );
};

const styles = StyleSheet.create({
  dim: { position: 'absolute', backgroundColor: 'rgba(20, 26, 30, 0.62)' },
  line: { position: 'absolute', borderWidth: 2, borderStyle: 'dashed', borderColor: '#f7f3e9' },
});
