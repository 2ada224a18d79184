import { StyleSheet, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import type { Watched } from '@under-chalk/core/contract/watched';
import { formatClock } from '@under-chalk/core/time/us';
import { inSteps } from '@under-chalk/core/watched/seconds';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** Steps that it is drawn in: an hour's seconds can't be told apart on a phone. */
const STEPS = 160;
/** Its own units; drawn as wide as there is room. */
const HIGH = 60;

/** A line over the steps, as a path; closed along the bottom where it is filled. */
const pathOf = (values: readonly number[], most: number, closed: boolean): string => {
  const y = (value: number) => (HIGH - (value / most) * (HIGH - 4)).toFixed(1);
  const line = values.map((value, at) => `${at === 0 ? 'M' : 'L'}${at} ${y(value)}H${at + 1}`);
  return closed ? `${line.join('')}V${HIGH}H0Z` : line.join('');
};

interface Props {
  readonly watched: Watched;
  /** The same in words: what a screen reader has of it. */
  readonly inWords: string;
}

/** How many have watched each place of a film, how many more than once, and the chapters under it. */
export const RetentionCurve = ({ watched: { curve, filmUs, chapters }, inWords }: Props) => {
  const theme = useTheme();
  const [once, again] = [inSteps(curve.watched, STEPS), inSteps(curve.again, STEPS)];
  const most = Math.max(1, ...once);
  return (
    <View style={styles.group}>
      <View role="img" aria-label={inWords} style={[styles.box, { borderColor: theme.line }]}>
        <Svg
          width="100%"
          height={HIGH + 12}
          viewBox={`0 0 ${once.length} ${HIGH}`}
          preserveAspectRatio="none"
          aria-hidden
        >
          <Path d={pathOf(once, most, true)} fill={theme.actionSoft} />
          <Path
            d={pathOf(once, most, false)}
            fill="none"
            stroke={theme.action}
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
          <Path
            d={pathOf(again, most, false)}
            fill="none"
            stroke={theme.warn}
            strokeWidth={2}
            strokeDasharray="5 4"
            vectorEffect="non-scaling-stroke"
          />
        </Svg>
      </View>
      {chapters.length > 1 ? (
        <View style={styles.chapters} aria-hidden>
          {chapters.map(({ title, startUs, endUs }) => (
            <View
              key={startUs}
              style={[styles.chapter, { flexGrow: endUs - startUs, borderColor: theme.line }]}
            >
              <Words size="small" tone="soft" numberOfLines={1}>
                {title}
              </Words>
            </View>
          ))}
        </View>
      ) : null}
      <View style={styles.ends} aria-hidden>
        <Words size="small" tone="soft">
          {formatClock(0)}
        </Words>
        <Words size="small" tone="soft">
          {formatClock(filmUs)}
        </Words>
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  // Time runs to the right, as in every script's players.
  group: { gap: SPACE.hair, ...({ direction: 'ltr' } as object) },
  box: { borderWidth: 1, borderRadius: RADIUS.small, overflow: 'hidden' },
  chapters: { flexDirection: 'row', gap: 2 },
  chapter: { flexBasis: 0, minWidth: 0, borderTopWidth: 3, overflow: 'hidden' },
  ends: { flexDirection: 'row', justifyContent: 'space-between' },
});
