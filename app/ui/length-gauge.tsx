import { StyleSheet, View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import type { Destination } from '@under-chalk/core/destination/destination';
import { gauge, type Gauge } from '@under-chalk/core/destination/gauge';
import { formatClock, formatSpoken, type Us } from '@under-chalk/core/time/us';
import { TO_THE_RIGHT } from './mirrored';
import { Words } from './text';
import { SPACE, useTheme } from './theme';

const inWords = ({ state, usedUs, leftUs }: Gauge, destination: Destination): string => {
  switch (state) {
    case 'empty':
      return destination.mostUs === null
        ? 'nothing yet'
        : `nothing yet · ${formatSpoken(destination.mostUs)} to fill`;
    case 'too-short':
      return `${formatSpoken(destination.leastUs - usedUs + 999_999)} short of what “${destination.name}” takes`;
    case 'too-long':
      return `${formatSpoken(-leftUs!)} too long for “${destination.name}”`;
    case 'past-attention':
      return leftUs === null
        ? 'past where attention usually ends'
        : `past where attention usually ends · ${formatSpoken(leftUs)} left`;
    case 'fits':
      return leftUs === null ? 'fits' : `fits · ${formatSpoken(leftUs)} left`;
  }
};

interface Props {
  readonly usedUs: Us;
  readonly destination: Destination;
  /** Where attention usually ends, µs. */
  readonly attentionUs: Us;
  /** The line alone, in a list; the words are for a screen reader. */
  readonly thin?: boolean;
}

/** How long it is, how long it may be, where attention usually ends. Drawn the same everywhere. */
export const LengthGauge = ({ usedUs, destination, attentionUs, thin }: Props) => {
  const theme = useTheme();
  const read = gauge(usedUs, destination, attentionUs);
  const words = inWords(read, destination);
  const colour = {
    empty: theme.inkSoft,
    fits: theme.good,
    'too-short': theme.warn,
    'past-attention': theme.warn,
    'too-long': theme.bad,
  }[read.state];
  const [middle, thick] = thin ? [4, 4] : [9, 8];
  const x = (fraction: number) => `${(fraction * 100).toFixed(2)}%`;
  // Told apart by length and pattern: where attention ends, the least and the most.
  const marks = [
    { at: read.attention, reach: 8, stroke: theme.ink, strokeWidth: 2, strokeDasharray: '3 2.5' },
    { at: read.least, reach: 6, stroke: theme.inkSoft, strokeWidth: 2 },
    { at: read.limit, reach: 9, stroke: theme.ink, strokeWidth: 3 },
  ];
  return (
    <View
      {...TO_THE_RIGHT}
      style={styles.group}
      role="img"
      aria-label={`Length ${formatSpoken(usedUs)}: ${words}`}
    >
      {thin ? null : (
        <View style={styles.line}>
          <Words strong>{formatClock(usedUs)}</Words>
          <Words size="small" style={[styles.words, { color: colour }]}>
            {words}
          </Words>
        </View>
      )}
      <Svg width="100%" height={thin ? 8 : 18} aria-hidden>
        <Rect
          x={0}
          y={middle - thick / 2}
          width="100%"
          height={thick}
          rx={thick / 2}
          fill={theme.line}
        />
        <Rect
          x={0}
          y={middle - thick / 2}
          width={x(read.used)}
          height={thick}
          rx={thick / 2}
          fill={colour}
        />
        {marks.map(({ at, reach, ...line }) =>
          at === null ? null : (
            <Line
              key={reach}
              x1={x(at)}
              x2={x(at)}
              y1={Math.max(0, middle - reach)}
              y2={middle + reach}
              {...line}
            />
          ),
        )}
      </Svg>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: 2 },
  line: { flexDirection: 'row', alignItems: 'baseline', gap: SPACE.small },
  words: { flexShrink: 1 },
});
