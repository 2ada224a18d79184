import { StyleSheet, View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { ZONE_BORDERS, zoneOf, type Level, type LevelZone } from '@under-chalk/core/sound/level';
import { TO_THE_RIGHT } from './mirrored';
import { Words } from './text';
import { SPACE, useTheme } from './theme';

const SAID: Record<LevelZone, string> = {
  nothing: 'Nothing to hear: is it muted?',
  'too-quiet': 'Too quiet: come closer',
  right: 'Just right',
  'too-loud': 'Too loud: move back',
};

/** −60 dBFS at the left end, 0 at the right. */
const place = (dbfs: number) => Math.min(1, Math.max(0, (dbfs + 60) / 60));
const percent = (fraction: number) => `${(fraction * 100).toFixed(1)}%`;

interface Props {
  /** What is heard now. */
  readonly now: Level;
  /** The loudest of the last seconds: decides the zone, since speech has pauses. */
  readonly held: Level;
  /** What it means is said beside it. */
  readonly wordless?: boolean;
}

/** The live level with its three zones, told in words, by place and by pattern as well as by colour. */
export const LevelMeter = ({ now, held, wordless }: Props) => {
  const theme = useTheme();
  const zone = zoneOf(held);
  const colour = {
    nothing: theme.bad,
    'too-quiet': theme.warn,
    right: theme.good,
    'too-loud': theme.bad,
  }[zone];
  const quiet = place(ZONE_BORDERS.quietDbfs);
  const loud = place(ZONE_BORDERS.loudPeakDbfs - 4);
  return (
    <View {...TO_THE_RIGHT} style={styles.group}>
      <Svg width="100%" height={22} aria-hidden>
        <Rect x={0} y={4} width="100%" height={14} rx={3} fill={theme.line} />
        <Rect x={0} y={4} width={percent(place(now.rmsDbfs))} height={14} rx={3} fill={colour} />
        <Line
          x1={percent(place(now.peakDbfs))}
          x2={percent(place(now.peakDbfs))}
          y1={4}
          y2={18}
          stroke={theme.ink}
          strokeWidth={2}
        />
        {[quiet, loud].map((border) => (
          <Line
            key={border}
            x1={percent(border)}
            x2={percent(border)}
            y1={0}
            y2={22}
            stroke={theme.ink}
            strokeWidth={1.5}
            strokeDasharray="2 2"
          />
        ))}
      </Svg>
      <View style={styles.legend} aria-hidden>
        <Words size="small" tone="soft">
          too quiet
        </Words>
        <Words size="small" tone="soft">
          right
        </Words>
        <Words size="small" tone="soft">
          too loud
        </Words>
      </View>
      {wordless ? null : (
        <View>
          <Words strong style={{ color: colour }} testID="level-words">
            {SAID[zone]}
          </Words>
        </View>
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: 2 },
  legend: { flexDirection: 'row', justifyContent: 'space-between', gap: SPACE.small },
});
