import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { RADIUS, SPACE, useTheme } from './theme';

interface Props {
  /** What it is about stands first, what can be done to it after; they wrap where there is no room. */
  readonly children: ReactNode;
  /** The colour that it is marked with at its beginning. */
  readonly marked?: string;
}

/** A line of a list, with what can be done to it. */
export const Row = ({ children, marked }: Props) => {
  const theme = useTheme();
  return (
    <View
      role="listitem"
      style={[
        styles.row,
        { borderColor: marked ?? theme.line, backgroundColor: theme.card },
        marked ? styles.marked : null,
      ]}
    >
      {children}
    </View>
  );
};

const styles = StyleSheet.create({
  row: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    alignItems: 'center',
    gap: SPACE.small,
    borderWidth: 1,
    borderRadius: RADIUS.medium,
    paddingHorizontal: SPACE.medium,
    paddingVertical: SPACE.hair,
  },
  marked: { borderLeftWidth: 5 },
});
