import { useState, type ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { useTheme } from './theme';

/** How the line round the picture is drawn: the sign of the recorder's state that needs no colour. */
export type ChalkLine = 'none' | 'dashed' | 'whole' | 'broken';

/** A rectangle as a hand would draw it: each side bows a little. Repeatable, so that it doesn't crawl. */
const handDrawn = (width: number, height: number): string => {
  const m = 5;
  const [w, h] = [width - m, height - m];
  const bow = (n: number) => ((n * 7919) % 5) - 2;
  return [
    `M ${m + 2} ${m + 1}`,
    `C ${w * 0.3} ${m + bow(1)}, ${w * 0.7} ${m + bow(2)}, ${w - 1} ${m + 2}`,
    `C ${w + bow(3)} ${h * 0.3}, ${w + bow(4)} ${h * 0.7}, ${w - 2} ${h - 1}`,
    `C ${w * 0.7} ${h + bow(5)}, ${w * 0.3} ${h + bow(6)}, ${m + 1} ${h - 2}`,
    `C ${m + bow(7)} ${h * 0.7}, ${m + bow(8)} ${h * 0.3}, ${m} ${m - 2}`,
  ].join(' ');
};

/** Draws the chalk line round what is shown: dashed before the start, whole while recording, broken open while paused. */
export const ChalkFrame = ({ line, children }: { line: ChalkLine; children: ReactNode }) => {
  const theme = useTheme();
  const [size, setSize] = useState({ width: 0, height: 0 });
  const path = handDrawn(size.width, size.height);
  // Broken open: two gaps, each a good part of a side.
  const around = 2 * (size.width + size.height);
  const dash =
    line === 'dashed'
      ? '14 12'
      : line === 'broken'
        ? `${around * 0.36} ${around * 0.14}`
        : undefined;
  return (
    <View
      style={styles.frame}
      onLayout={({ nativeEvent: { layout } }) =>
        setSize({ width: layout.width, height: layout.height })
      }
    >
      {children}
      {line === 'none' || size.width === 0 ? null : (
        <View style={styles.over} pointerEvents="none" testID={`chalk-${line}`} aria-hidden>
          <Svg width={size.width} height={size.height}>
            <Path
              d={path}
              fill="none"
              stroke={theme.chalk}
              strokeWidth={line === 'whole' ? 6 : 4}
              strokeLinecap="round"
              strokeDasharray={dash}
              opacity={0.95}
            />
          </Svg>
        </View>
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  frame: { padding: 10 },
  over: { position: 'absolute', top: 0, left: 0, right: 0, bottom: 0 },
});
