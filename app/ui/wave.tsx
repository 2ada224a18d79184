import { memo } from 'react';
import Svg, { Path } from 'react-native-svg';
import { barsOf, type LevelLine } from '@under-chalk/core/sound/level-line';
import type { Us } from '@under-chalk/core/time/us';
import { useTheme } from './theme';

interface Props {
  readonly line: LevelLine;
  readonly startUs: Us;
  readonly endUs: Us;
  readonly height?: number;
  readonly faded?: boolean;
  /** How many bars it is drawn as. */
  readonly bars?: number;
}

const BARS = 56;
/** From one bar to the next, and how wide each is. */
const PITCH = 3;
const THICK = 2;

/** The bars as one line: a column has many waves, and an element a bar is many elements. */
const pathOf = (bars: readonly number[], height: number): string =>
  bars
    .map((bar, index) => {
      const tall = Math.max(1.5, bar * height);
      return `M${index * PITCH + PITCH / 2} ${((height - tall) / 2).toFixed(2)}v${tall.toFixed(2)}`;
    })
    .join('');

/** The sound of a stretch, drawn as bars. */
export const Wave = memo(function Wave({
  line,
  startUs,
  endUs,
  height = 30,
  faded,
  bars = BARS,
}: Props) {
  const theme = useTheme();
  return (
    <Svg
      width="100%"
      height={height}
      viewBox={`0 0 ${bars * PITCH} ${height}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      <Path
        d={pathOf(barsOf(line, startUs, endUs, bars), height)}
        stroke={faded ? theme.line : theme.inkSoft}
        strokeWidth={THICK}
      />
    </Svg>
  );
});
