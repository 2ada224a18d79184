import { Pressable, StyleSheet, View } from 'react-native';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

export interface Choice<T extends string> {
  readonly value: T;
  readonly label: string;
  readonly hint?: string;
  readonly disabled?: boolean;
}

interface Props<T extends string> {
  readonly label: string;
  readonly choices: readonly Choice<T>[];
  readonly value: T | null;
  readonly onChoose: (value: T) => void;
  /** Below one another, with their hints; else in a row that wraps. */
  readonly stacked?: boolean;
  readonly hideLabel?: boolean;
}

/** One of a few, all in sight. Arrow keys move, as in a group of radio buttons (WAI-ARIA APG). */
export const Choices = <T extends string>({
  label,
  choices,
  value,
  onChoose,
  stacked,
  hideLabel,
}: Props<T>) => {
  const theme = useTheme();
  const move = (by: number) => {
    const open = choices.filter((choice) => !choice.disabled);
    const at = open.findIndex((choice) => choice.value === value);
    const next = open[(at + by + open.length) % open.length];
    if (next) onChoose(next.value);
  };
  const onKeyDown = (event: { key: string; preventDefault(): void }) => {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    move(by);
  };
  const firstOpen = choices.find((choice) => !choice.disabled)?.value;
  return (
    <View style={styles.group}>
      {hideLabel ? null : (
        <Words size="small" strong tone="soft">
          {label}
        </Words>
      )}
      <View
        role="radiogroup"
        aria-label={label}
        {...({ onKeyDown } as object)}
        style={stacked ? styles.stack : styles.row}
      >
        {choices.map((choice) => {
          const chosen = choice.value === value;
          return (
            <Pressable
              key={choice.value}
              role="radio"
              aria-checked={chosen}
              aria-disabled={choice.disabled ?? false}
              aria-label={choice.hint ? `${choice.label}: ${choice.hint}` : choice.label}
              disabled={choice.disabled ?? false}
              tabIndex={chosen || (value === null && choice.value === firstOpen) ? 0 : -1}
              onPress={() => onChoose(choice.value)}
              style={[
                styles.choice,
                stacked ? styles.wide : null,
                {
                  borderColor: chosen ? theme.action : theme.line,
                  backgroundColor: chosen ? theme.actionSoft : theme.card,
                  opacity: choice.disabled ? 0.5 : 1,
                },
              ]}
            >
              <View
                style={[styles.ring, { borderColor: chosen ? theme.action : theme.inkSoft }]}
                aria-hidden
              >
                {chosen ? <View style={[styles.dot, { backgroundColor: theme.action }]} /> : null}
              </View>
              <View style={styles.words}>
                <Words strong={chosen} size={stacked ? 'body' : 'small'}>
                  {choice.label}
                </Words>
                {stacked && choice.hint ? (
                  <Words size="small" tone="soft">
                    {choice.hint}
                  </Words>
                ) : null}
              </View>
            </Pressable>
          );
        })}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  row: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  stack: { gap: SPACE.small },
  choice: {
    minHeight: 44,
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    paddingHorizontal: SPACE.medium,
    paddingVertical: SPACE.small,
    borderWidth: 1.5,
    borderRadius: RADIUS.medium,
  },
  wide: { alignSelf: 'stretch' },
  words: { flexShrink: 1 },
  ring: {
    width: 18,
    height: 18,
    borderRadius: 9,
    borderWidth: 2,
    alignItems: 'center',
    justifyContent: 'center',
  },
  dot: { width: 8, height: 8, borderRadius: 4 },
});
