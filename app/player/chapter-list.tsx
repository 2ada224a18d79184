import { Pressable, StyleSheet, View } from 'react-native';
import type { Chapter } from '@under-chalk/core/film/chapters';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import { useText } from '../messages/use-text';
import { Heading, Words } from '../ui/text';
import { RADIUS, SPACE, useTheme } from '../ui/theme';

interface Props {
  readonly chapters: readonly Chapter[];
  /** Where the film stands. */
  readonly atUs: Us;
  readonly onGo: (startUs: Us) => void;
}

/** The chapters of a film, to jump to. Nothing where there are none. */
export const ChapterList = ({ chapters, atUs, onGo }: Props) => {
  const theme = useTheme();
  const { t, length } = useText();
  if (chapters.length === 0) return null;
  return (
    <View style={styles.group}>
      <Heading level={2}>{t('player.chapters')}</Heading>
      <View role="list" aria-label={t('player.chapters')}>
        {chapters.map(({ title, startUs, endUs }) => {
          const here = atUs >= startUs && atUs < endUs;
          return (
            <View key={startUs} role="listitem">
              <Pressable
                role="button"
                aria-label={t('player.chapterAt', { title, time: length(startUs) })}
                {...({ 'aria-current': here ? 'true' : undefined } as object)}
                onPress={() => onGo(startUs)}
                style={[styles.row, { borderColor: here ? theme.action : 'transparent' }]}
              >
                <Words tone="soft" style={styles.clock}>
                  {formatClock(startUs)}
                </Words>
                <Words strong={here} style={styles.title}>
                  {title}
                </Words>
              </Pressable>
            </View>
          );
        })}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  row: {
    minHeight: 44,
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.medium,
    paddingHorizontal: SPACE.small,
    borderLeftWidth: 4,
    borderRadius: RADIUS.small,
  },
  clock: { fontVariant: ['tabular-nums'] },
  title: { flexShrink: 1 },
});
