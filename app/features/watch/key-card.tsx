import { StyleSheet, View } from 'react-native';
import { useText, type MessageId } from '../../messages/use-text';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** The key, or the message that names it; and what it does. */
const KEYS: readonly (readonly [key: string | { id: MessageId }, does: MessageId])[] = [
  [{ id: 'player.keyPlay' }, 'player.doesPlay'],
  [{ id: 'player.keyFive' }, 'player.doesFive'],
  [{ id: 'player.keyTen' }, 'player.doesTen'],
  [{ id: 'player.keyEnds' }, 'player.doesEnds'],
  [{ id: 'player.keySpeed' }, 'player.doesSpeed'],
  ['F', 'player.doesFull'],
];
const CAPTIONS_KEY = ['C', 'player.doesCaptions'] as const;
const DESCRIPTION_KEY = ['D', 'player.doesDescription'] as const;
const HELP_KEY = ['?', 'player.doesHelp'] as const;

/** Which keys do what. */
export const KeyCard = ({ captions, described }: { captions: boolean; described: boolean }) => {
  const theme = useTheme();
  const { t } = useText();
  const more = [...(captions ? [CAPTIONS_KEY] : []), ...(described ? [DESCRIPTION_KEY] : [])];
  return (
    <View
      role="list"
      aria-label={t('player.shortcuts')}
      style={[styles.card, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      {[...KEYS, ...more, HELP_KEY].map(([key, does]) => (
        <View key={does} role="listitem" style={styles.line}>
          <Words strong size="small" style={styles.key}>
            {typeof key === 'string' ? key : t(key.id)}
          </Words>
          <Words size="small">{t(does)}</Words>
        </View>
      ))}
    </View>
  );
};

const styles = StyleSheet.create({
  card: { borderWidth: 1, borderRadius: RADIUS.small, padding: SPACE.small, gap: SPACE.hair },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  key: { width: 110 },
});
