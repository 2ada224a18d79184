import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react';
import { ActivityIndicator, Platform, ScrollView, StyleSheet, View } from 'react-native';
import { useText } from '../messages/use-text';
import { Button } from './button';
import { useArrival } from './focus';
import { ProblemNotice } from './notice';
import { useLayout } from './layout';
import { useKeptScroll } from './kept-scroll';
import { SkipLink } from './skip-link';
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
  /** Stands there only until the page is fetched. */
  readonly fleeting?: boolean;
  /** Comes back to where it was scrolled to, under this name. */
  readonly keepScroll?: string;
}

const ScrollContext = createContext<HTMLElement | null>(null);

/** What scrolls the page that one stands in; null until it is there. */
export const useScrollElement = (): HTMLElement | null => useContext(ScrollContext);

/** Keeps what the focus goes to from under something that stays at the top, px high. */
export const useScrollPadding = (px: number): void => {
  const element = useScrollElement();
  useEffect(() => {
    element?.style.setProperty('scroll-padding-top', `${px}px`);
  }, [element, px]);
};

const MAIN = 'page';

/** A page: what stays at the top, what scrolls, what stays within a thumb's reach. */
export const Screen = ({
  name,
  children,
  foot,
  head,
  wide,
  fleeting = false,
  keepScroll,
}: Props) => {
  const theme = useTheme();
  const page = useRef<View>(null);
  useArrival(page, !fleeting);
  const { element, scroll } = useKeptScroll(keepScroll);
  const { low, tiny } = useLayout();
  const top = head ? <View role="banner">{head}</View> : null;
  const bottom = foot ? (
    <View
      role="region"
      aria-label="What comes next"
      style={[styles.foot, { backgroundColor: theme.paper, borderColor: theme.line }]}
    >
      <View style={[styles.footInner, wide ? styles.wide : null]}>{foot}</View>
    </View>
  ) : null;
  useEffect(() => {
    if (Platform.OS === 'web') document.title = `${name} · Under Chalk`;
  }, [name]);
  return (
    <View ref={page} style={[styles.page, { backgroundColor: theme.paper }]}>
      <SkipLink to={MAIN} />
      {low ? null : top}
      <ScrollView {...scroll} style={styles.scroll} contentContainerStyle={styles.scrolled}>
        {low ? top : null}
        <View role="main" nativeID={MAIN} style={[styles.content, wide ? styles.wide : null]}>
          <ScrollContext.Provider value={element}>{children}</ScrollContext.Provider>
        </View>
        {tiny ? bottom : null}
      </ScrollView>
      {tiny ? null : bottom}
    </View>
  );
};

/** While the first answer is on its way. */
export const Loading = ({ what }: { what?: string }) => {
  const theme = useTheme();
  const { t } = useText();
  const label = what === undefined ? t('common.loading') : `Fetching ${what}…`;
  return (
    <View style={styles.waiting} role="status">
      <ActivityIndicator color={theme.action} aria-label={label} />
      <Words tone="soft">{label}</Words>
    </View>
  );
};

/** When it did not come. */
export const Failed = ({ code, onRetry }: { code: string; onRetry: () => void }) => {
  const { t } = useText();
  return (
    <ProblemNotice code={code}>
      <Button label={t('common.tryAgain')} onPress={onRetry} />
    </ProblemNotice>
  );
};

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
