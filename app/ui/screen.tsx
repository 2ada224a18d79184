import { useEffect, type ReactNode } from 'react';
import { ActivityIndicator, Platform, ScrollView, StyleSheet, View } from 'react-native';
import { Button } from './button';
import { ProblemNotice } from './notice';
import { Words } from './text';
import { SPACE, useTheme } from './theme';

interface Props {
  /** Name of the page, for the browser's tab and for screen readers. */
  readonly name: string;
  readonly children: ReactNode;
  /** Stays in reach at the bottom. */
  readonly foot?: ReactNode;
  readonly head?: ReactNode;
  readonly wide?: boolean;
}

/** A page: what stays at the top, what scrolls, what stays within a thumb's reach. */
export const Screen = ({ name, children, foot, head, wide }: Props) => {
  const theme = useTheme();
  useEffect(() => {
    if (Platform.OS === 'web') document.title = `${name} · Under Chalk`;
  }, [name]);
  return (
    <View style={[styles.page, { backgroundColor: theme.paper }]}>
      {head}
      <ScrollView style={styles.scroll} contentContainerStyle={styles.scrolled}>
        <View role="main" style={[styles.content, wide ? styles.wide : null]}>
          {children}
        </View>
      </ScrollView>
      {foot ? (
        <View style={[styles.foot, { backgroundColor: theme.paper, borderColor: theme.line }]}>
          <View style={[styles.footInner, wide ? styles.wide : null]}>{foot}</View>
        </View>
      ) : null}
    </View>
  );
};

/** While the first answer is on its way. */
export const Loading = ({ what }: { what: string }) => {
  const theme = useTheme();
  return (
    <View style={styles.waiting} role="status">
      <ActivityIndicator color={theme.action} />
      <Words tone="soft">{`Fetching ${what}…`}</Words>
    </View>
  );
};

/** When it did not come. */
export const Failed = ({ code, onRetry }: { code: string; onRetry: () => void }) => (
  <ProblemNotice code={code}>
    <Button label="Try again" onPress={onRetry} />
  </ProblemNotice>
);

const styles = StyleSheet.create({
  page: { flex: 1 },
  scroll: { flex: 1 },
  scrolled: { flexGrow: 1 },
  content: {
    width: '100%',
    maxWidth: 720,
    alignSelf: 'center',
    padding: SPACE.large,
    gap: SPACE.large,
    flexGrow: 1,
  },
  wide: { maxWidth: 1240 },
  foot: { borderTopWidth: 1, paddingVertical: SPACE.small, paddingHorizontal: SPACE.large },
  footInner: {
    width: '100%',
    maxWidth: 720,
    alignSelf: 'center',
    flexDirection: 'row',
    flexWrap: 'wrap',
    justifyContent: 'flex-end',
    gap: SPACE.small,
  },
  waiting: { padding: SPACE.huge, alignItems: 'center', gap: SPACE.medium },
});
