import Svg, { Rect } from 'react-native-svg';
import { barsOf, type LevelLine } from '@under-chalk/core/sound/level-line';
import type { Us } from '@under-chalk/core/time/us';
import { useTheme } from './theme';

interface Props {
  readonly line: LevelLine;
  readonly startUs: Us;
  readonly endUs: Us;
  readonly height?: number;
  readonly faded?: boolean;
}

const BARS = 56;

/** The sound of a stretch, drawn as bars. */
export const Wave = ({ line, startUs, endUs, height = 30, faded }: Props) => {
  const theme = useTheme();
  return (
    <Svg
      width="100%"
      height={height}
      viewBox={`0 0 ${BARS * 3} ${height}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      {barsOf(line, startUs, endUs, BARS).map((bar, index) => {
        const tall = Math.max(1.5, bar * height);
        return (
          <Rect
            key={index}
            x={index * 3 + 0.5}
            y={(height - tall) / 2}
            width={2}
            height={tall}
            rx={0.8}
            fill={faded ? theme.line : theme.inkSoft}
          />
        );
      })}
    </Svg>
  );
};
