import { useState, type ReactNode } from 'react';
import { Pressable, StyleSheet, useWindowDimensions, View } from 'react-native';
import { Sheet } from './sheet';
import { Words } from './text';
import { RADIUS, SPACE, useTheme, WIDE } from './theme';

interface Props {
  /** What is chosen here: the line's name. */
  readonly label: string;
  /** What is chosen now, as it would be said. */
  readonly value: string;
  readonly tone?: 'ink' | 'warn';
  /** The choosing itself; drawn only while it is open. */
  readonly children: ReactNode;
}

/**
 * What is chosen, as one readable line, with *change* beside it: only what is being changed is open. On a phone it
 * opens as a sheet from below, on a wide screen in its place.
 */
export const ChoiceLine = ({ label, value, tone = 'ink', children }: Props) => {
  const theme = useTheme();
  const [open, setOpen] = useState(false);
  const { width } = useWindowDimensions();
  const inPlace = width >= WIDE;
  return (
    <View
      style={[
        styles.group,
        inPlace && open ? { borderColor: theme.line, backgroundColor: theme.card } : null,
      ]}
    >
      <Pressable
        role="button"
        aria-expanded={open}
        aria-label={`${label}: ${value}. ${open ? 'Close' : 'Change'}`}
        onPress={() => setOpen(!open)}
        style={styles.line}
      >
        <View style={styles.words}>
          <Words size="small" tone="soft">
            {label}
          </Words>
          <Words strong tone={tone} numberOfLines={2}>
            {value}
          </Words>
        </View>
        <Words size="small" strong tone="action" style={styles.change}>
          {open ? 'close' : 'change'}
        </Words>
      </Pressable>
      {inPlace ? (
        open ? (
          <View style={styles.inPlace}>{children}</View>
        ) : null
      ) : (
        <Sheet title={label} open={open} onClose={() => setOpen(false)}>
          {children}
        </Sheet>
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { borderWidth: 1.5, borderColor: 'transparent', borderRadius: RADIUS.medium },
  line: {
    minHeight: 44,
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'space-between',
    gap: SPACE.medium,
    paddingVertical: 2,
    paddingHorizontal: SPACE.small,
  },
  words: { flexShrink: 1 },
  change: { textDecorationLine: 'underline' },
  inPlace: { padding: SPACE.medium, gap: SPACE.large },
});
