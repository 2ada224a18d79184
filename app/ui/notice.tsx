import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { useText } from '../messages/use-text';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

interface Props {
  readonly tone?: 'plain' | 'good' | 'warn' | 'bad';
  readonly title: string;
  readonly text?: string;
  /** Read out at once by a screen reader. */
  readonly urgent?: boolean;
  /** Not said of itself: its words change all the time, or are said elsewhere. */
  readonly still?: boolean;
  readonly children?: ReactNode;
}

/** A few words about the state of things, with what can be done about it. */
export const Notice = ({ tone = 'plain', title, text, urgent, still, children }: Props) => {
  const theme = useTheme();
  const edge = { plain: theme.line, good: theme.good, warn: theme.warn, bad: theme.bad }[tone];
  return (
    <View
      {...(still ? {} : { role: urgent ? ('alert' as const) : ('status' as const) })}
      style={[
        styles.box,
        { borderColor: edge, backgroundColor: tone === 'bad' ? theme.badSoft : theme.card },
      ]}
    >
      <Words strong>{title}</Words>
      {text ? <Words>{text}</Words> : null}
      {children ? <View style={styles.actions}>{children}</View> : null}
    </View>
  );
};

/** What went wrong, and what to do, by the error's code. */
export const ProblemNotice = ({ code, children }: { code: string; children?: ReactNode }) => {
  const { message, hint } = useText().problem(code);
  return (
    <Notice tone="bad" urgent title={message} text={hint}>
      {children}
    </Notice>
  );
};

const styles = StyleSheet.create({
  box: {
    borderWidth: 1.5,
    borderLeftWidth: 6,
    borderRadius: RADIUS.medium,
    padding: SPACE.large,
    gap: SPACE.small,
  },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
