import { useQuery } from '@tanstack/react-query';
import { useRouter, type Href } from 'expo-router';
import { useDeferredValue } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import { formatClock } from '@under-chalk/core/time/us';
import { searchTranscripts } from '../../data/transcript-search';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** From so many signs on it is looked for. */
const LEAST_SIGNS = 3;
const MOST_SHOWN = 12;

/** Where what is looked for is said, in all lessons, with the way there. */
export const TranscriptResults = ({ looked }: { looked: string }) => {
  const theme = useTheme();
  const router = useRouter();
  const words = useDeferredValue(looked.trim());
  const found = useQuery({
    queryKey: ['said', words],
    queryFn: () => searchTranscripts(words),
    enabled: words.length >= LEAST_SIGNS,
    placeholderData: (before) => before,
  });
  const places = words.length >= LEAST_SIGNS ? (found.data ?? []) : [];
  if (places.length === 0) return null;
  return (
    <View style={styles.group}>
      <Heading level={2} style={styles.name}>
        {places.length === 1
          ? 'Said at one place'
          : `Said at ${places.length === 50 ? 'more than 50' : places.length} places`}
      </Heading>
      <View role="list" aria-label="Where it is said" style={styles.group}>
        {places.slice(0, MOST_SHOWN).map(({ lessonId, title, kind, text, filmUs }) => (
          <View key={`${lessonId} ${filmUs} ${text}`} role="listitem">
            <Pressable
              role="link"
              aria-label={`${title}, at ${formatClock(filmUs)}: ${text}`}
              onPress={() => router.push(`/lessons/${lessonId}/words?at=${filmUs}` as Href)}
              style={[styles.place, { borderColor: theme.line, backgroundColor: theme.card }]}
            >
              <Words size="small" tone="soft">
                {`${title || 'Without a title'} · ${formatClock(filmUs)}${kind === 'chapter' ? ' · chapter' : ''}`}
              </Words>
              <Words numberOfLines={2}>{text}</Words>
            </Pressable>
          </View>
        ))}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  name: { fontSize: 17, lineHeight: 24 },
  place: {
    minHeight: 44,
    borderWidth: 1,
    borderRadius: RADIUS.medium,
    paddingHorizontal: SPACE.medium,
    paddingVertical: SPACE.small,
  },
});
