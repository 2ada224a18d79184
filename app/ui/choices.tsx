import { useRef } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import { focusOn } from './focus';
import { arrowStep } from './mirrored';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

export interface Choice<T extends string> {
  readonly value: T;
  readonly label: string;
  readonly hint?: string;
  readonly disabled?: boolean;
  /** A colour that it stands for, shown with its name. */
  readonly swatch?: string;
  /** Of the label, where it isn't the page's (BCP 47). */
  readonly lang?: string;
}

interface Props<T extends string> {
  readonly label: string;
  readonly choices: readonly Choice<T>[];
  readonly value: T | null;
  readonly onChoose: (value: T) => void;
  /** Below one another, with their hints; else in a row that wraps. */
  readonly stacked?: boolean;
  readonly hideLabel?: boolean;
  /** In one row of equal parts, for few and short ones at the thumb. */
  readonly segments?: boolean;
  /** Segments in so many rows of equal parts. */
  readonly rows?: number;
}

/**
 * One of a few, all in sight. One stop of the Tab key; arrows move the focus and the choice together, Space chooses
 * (WAI-ARIA APG, radio group). Where text runs from right to left, so do the arrows.
 */
export const Choices = <T extends string>({
  label,
  choices,
  value,
  onChoose,
  stacked,
  hideLabel,
  segments,
  rows = 1,
}: Props<T>) => {
  const theme = useTheme();
  const parts = useRef(new Map<T, View>());
  // A little less than its share: the gaps between have to fit.
  const basis = Math.floor(94 / Math.ceil(choices.length / rows));
  const open = choices.filter((choice) => !choice.disabled);
  // Where nothing that can be chosen is, the first is the way in.
  const entry = open.some((choice) => choice.value === value) ? value : open[0]?.value;
  const onKeyDown = (event: {
    key: string;
    currentTarget: Element;
    target: unknown;
    preventDefault(): void;
  }) => {
    const step = arrowStep(event);
    if (step === 0 || open.length === 0) return;
    event.preventDefault();
    const focused = open.findIndex((choice) => parts.current.get(choice.value) === event.target);
    const from = focused < 0 ? open.findIndex((choice) => choice.value === entry) : focused;
    const next = open[(from + step + open.length) % open.length]!;
    focusOn(parts.current.get(next.value) ?? null);
    onChoose(next.value);
  };
  return (
    <View style={styles.group}>
      {hideLabel ? null : (
        <Words size="small" strong tone="soft" aria-hidden>
          {label}
        </Words>
      )}
      <View
        role="radiogroup"
        aria-label={label}
        {...({ onKeyDown } as object)}
        style={stacked ? styles.stack : segments ? styles.segments : styles.row}
      >
        {choices.map((choice) => {
          const chosen = choice.value === value;
          return (
            <Pressable
              key={choice.value}
              ref={(part) => {
                if (part) parts.current.set(choice.value, part);
                else parts.current.delete(choice.value);
              }}
              role="radio"
              {...({ lang: choice.lang } as object)}
              aria-checked={chosen}
              aria-disabled={choice.disabled ?? false}
              aria-label={choice.hint ? `${choice.label}: ${choice.hint}` : choice.label}
              disabled={choice.disabled ?? false}
              tabIndex={choice.value === entry ? 0 : -1}
              onPress={() => onChoose(choice.value)}
              style={[
                styles.choice,
                stacked ? styles.wide : null,
                segments ? styles.segment : null,
                segments && rows > 1 ? { flexBasis: `${basis}%` } : null,
                {
                  borderColor: chosen ? theme.action : theme.line,
                  ...(segments && chosen ? { borderBottomWidth: 4 } : {}),
                  backgroundColor: chosen ? theme.actionSoft : theme.card,
                  opacity: choice.disabled ? 0.5 : 1,
                },
              ]}
            >
              {segments ? null : (
                <View
                  style={[styles.ring, { borderColor: chosen ? theme.action : theme.inkSoft }]}
                  aria-hidden
                >
                  {chosen ? <View style={[styles.dot, { backgroundColor: theme.action }]} /> : null}
                </View>
              )}
              <View style={[styles.words, choice.swatch ? styles.swatched : null]}>
                {choice.swatch ? (
                  <View
                    style={[
                      styles.swatch,
                      { backgroundColor: choice.swatch, borderColor: theme.inkSoft },
                    ]}
                  />
                ) : null}
                <Words
                  strong={chosen}
                  size={stacked ? 'body' : 'small'}
                  style={segments ? styles.centred : null}
                >
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
  group: { gap: SPACE.hair, maxWidth: '100%' },
  row: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  stack: { gap: SPACE.small },
  segments: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.hair },
  segment: {
    flexGrow: 1,
    flexBasis: 0,
    // Wraps before a thumb would miss it.
    minWidth: 44,
    justifyContent: 'center',
    paddingHorizontal: SPACE.hair,
    paddingVertical: 2,
  },
  centred: { textAlign: 'center', lineHeight: 17 },
  choice: {
    maxWidth: '100%',
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
  swatched: { alignItems: 'center', gap: 2 },
  swatch: { width: 20, height: 20, borderRadius: 10, borderWidth: 1 },
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
