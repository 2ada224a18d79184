import { useLayoutEffect, useRef, type ComponentType, type RefObject } from 'react';
import { Pressable, StyleSheet, View, type ViewStyle } from 'react-native';
import { elementOf } from './focus';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

export type Icon = ComponentType<{ size?: number; color?: string; strokeWidth?: number }>;

interface Props {
  readonly label: string;
  readonly onPress: () => void;
  /** `main`: the one thing to do here. `plain`: everything else. `grave`: takes something away. `bare`: in a line of text. */
  readonly kind?: 'main' | 'plain' | 'grave' | 'bare';
  readonly icon?: Icon;
  readonly disabled?: boolean;
  /** More for a screen reader than the words say, where they need their surroundings. */
  readonly spoken?: string;
  readonly expanded?: boolean;
  readonly grow?: boolean;
  readonly small?: boolean;
  readonly style?: ViewStyle;
  readonly testID?: string;
  /** Not a stop of the Tab key: what has the focus beside it does the same by other keys. */
  readonly skipped?: boolean;
  /** To put the focus on it ({@link useFocusWhen}). */
  readonly ref?: RefObject<View | null>;
}

/** A button that says what it does. At least 44 px high. */
export const Button = ({
  label,
  onPress,
  kind = 'plain',
  icon: IconShape,
  disabled = false,
  spoken,
  expanded,
  grow,
  small,
  style,
  testID,
  skipped,
  ref,
}: Props) => {
  const theme = useTheme();
  const own = useRef<View>(null);
  const part = ref ?? own;
  // Said to be disabled, and not disabled as elements are: what has the focus would lose it in the middle of the work.
  useLayoutEffect(() => {
    const element = elementOf(part.current);
    if (disabled) element?.setAttribute?.('aria-disabled', 'true');
    else element?.removeAttribute?.('aria-disabled');
  }, [part, disabled]);
  const looks = {
    main: { back: theme.action, edge: theme.action, text: theme.onAction },
    plain: { back: theme.card, edge: theme.line, text: theme.ink },
    grave: { back: theme.card, edge: theme.bad, text: theme.bad },
    bare: { back: 'transparent', edge: 'transparent', text: theme.action },
  }[kind];
  return (
    <Pressable
      ref={part}
      role="button"
      aria-label={spoken ?? label}
      {...(expanded === undefined ? {} : { 'aria-expanded': expanded })}
      {...(skipped ? { tabIndex: -1 as const } : {})}
      onPress={() => {
        if (!disabled) onPress();
      }}
      testID={testID}
      style={({ pressed }) => [
        styles.button,
        {
          backgroundColor: looks.back,
          borderColor: looks.edge,
          opacity: disabled ? 0.45 : pressed ? 0.8 : 1,
          ...(disabled ? ({ cursor: 'default' } as object) : {}),
        },
        kind === 'main' ? styles.main : null,
        small ? styles.small : null,
        grow ? styles.grow : null,
        style,
      ]}
    >
      {IconShape ? (
        <View aria-hidden>
          <IconShape size={small ? 18 : 20} color={looks.text} strokeWidth={2} />
        </View>
      ) : null}
      <Words
        strong={kind !== 'bare' || !small}
        size={small ? 'small' : 'body'}
        style={{ color: looks.text, textAlign: 'center', flexShrink: 1 }}
      >
        {label}
      </Words>
    </Pressable>
  );
};

const styles = StyleSheet.create({
  button: {
    minHeight: 44,
    minWidth: 44,
    maxWidth: '100%',
    paddingHorizontal: SPACE.large,
    paddingVertical: SPACE.small,
    borderRadius: RADIUS.medium,
    borderWidth: 1.5,
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'center',
    gap: SPACE.small,
  },
  main: { minHeight: 52 },
  small: { paddingHorizontal: SPACE.medium, minHeight: 44 },
  grow: { flexGrow: 1, flexShrink: 1, flexBasis: 0, maxWidth: 440 },
});
