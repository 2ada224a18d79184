import type { ReactNode } from 'react';
import { Modal, Pressable, ScrollView, StyleSheet, useWindowDimensions, View } from 'react-native';
import { Button } from './button';
import { Heading } from './text';
import { RADIUS, SPACE, useTheme, WIDE } from './theme';

interface Props {
  readonly title: string;
  readonly open: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/**
 * Something to choose or to read, over the page: from below on a phone, in the middle where there is room. While it
 * is there the focus stays in it; Escape, the button and a press beside it close it, and the focus goes back to what
 * opened it (WAI-ARIA APG, dialog).
 */
export const Sheet = ({ title, open, onClose, children }: Props) => {
  const theme = useTheme();
  const { width } = useWindowDimensions();
  const wide = width >= WIDE;
  return (
    <Modal
      visible={open}
      transparent
      animationType="none"
      onRequestClose={onClose}
      {...({ 'aria-label': title } as object)}
    >
      <View style={[styles.over, wide ? styles.middle : styles.below]}>
        <Pressable
          style={styles.beside}
          onPress={onClose}
          aria-hidden
          tabIndex={-1}
          testID="beside-sheet"
        />
        <View
          style={[
            styles.sheet,
            wide ? styles.card : styles.fromBelow,
            { backgroundColor: theme.paper, borderColor: theme.line },
          ]}
        >
          <View style={styles.head}>
            <Heading level={2} style={styles.title}>
              {title}
            </Heading>
            <Button small label="Done" onPress={onClose} />
          </View>
          <ScrollView contentContainerStyle={styles.inside}>{children}</ScrollView>
        </View>
      </View>
    </Modal>
  );
};

const styles = StyleSheet.create({
  over: { flex: 1, backgroundColor: 'rgba(20, 28, 33, 0.55)' },
  below: { justifyContent: 'flex-end' },
  middle: { justifyContent: 'center', alignItems: 'center' },
  beside: { position: 'absolute', top: 0, bottom: 0, left: 0, right: 0 },
  sheet: { maxHeight: '88%', borderWidth: 1.5 },
  fromBelow: { borderTopLeftRadius: RADIUS.large, borderTopRightRadius: RADIUS.large },
  card: { width: 560, borderRadius: RADIUS.large },
  head: {
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'space-between',
    gap: SPACE.medium,
    paddingHorizontal: SPACE.large,
    paddingVertical: SPACE.small,
  },
  title: { flexShrink: 1 },
  inside: { padding: SPACE.large, paddingTop: SPACE.small, gap: SPACE.large },
});
