import { StyleSheet, View } from 'react-native';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

const KEYS = [
  ['Space or K', 'plays and pauses'],
  ['← and →', 'five seconds back and on'],
  ['J and L', 'ten seconds back and on'],
  ['Home and End', 'to the beginning and the end'],
  ['< and >', 'slower and faster'],
  ['F', 'fills the screen, and leaves it'],
] as const;
const CAPTIONS_KEY = ['C', 'captions on and off'] as const;
const DESCRIBED_KEY = ['D', 'what is seen told, or not'] as const;
const CARD_KEY = ['?', 'shows this card'] as const;

/** Which keys do what. */
export const KeyCard = ({ captions, described }: { captions: boolean; described: boolean }) => {
  const theme = useTheme();
  const more = [...(captions ? [CAPTIONS_KEY] : []), ...(described ? [DESCRIBED_KEY] : [])];
  return (
    <View
      role="list"
      aria-label="Keys"
      style={[styles.card, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      {[...KEYS, ...more, CARD_KEY].map(([key, does]) => (
        <View key={key} role="listitem" style={styles.line}>
          <Words strong size="small" style={styles.key}>
            {key}
          </Words>
          <Words size="small">{does}</Words>
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
