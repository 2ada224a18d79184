import { useRef } from 'react';
import { Image, Pressable, StyleSheet, View } from 'react-native';
import { focusOn } from '../../ui/focus';
import { arrowStep } from '../../ui/mirrored';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

interface Props {
  readonly label: string;
  /** Width by height of the pictures. */
  readonly aspect: number;
  readonly choices: readonly {
    readonly value: string;
    readonly label: string;
    readonly uri: string;
  }[];
  readonly value: string | null;
  readonly onChoose: (value: string) => void;
}

/**
 * One of a few pictures. One stop of the Tab key; arrows go from one to the next, Space and Enter choose: a press is a decision
 * that is put down, so going past one makes none (WAI-ARIA APG, radio group in a toolbar).
 */
export const PictureChoices = ({ label, aspect, choices, value, onChoose }: Props) => {
  const theme = useTheme();
  const parts = useRef(new Map<string, View>());
  const entry = choices.some((choice) => choice.value === value) ? value : choices[0]?.value;
  const onKeyDown = (event: {
    key: string;
    currentTarget: Element;
    target: unknown;
    preventDefault(): void;
  }) => {
    const at = choices.findIndex((choice) => parts.current.get(choice.value) === event.target);
    const step = arrowStep(event);
    if (event.key === ' ' && choices[at]) {
      event.preventDefault();
      onChoose(choices[at].value);
    }
    if (step === 0) return;
    event.preventDefault();
    const next = choices[(at + step + choices.length) % choices.length];
    if (next) focusOn(parts.current.get(next.value) ?? null);
  };
  return (
    <View style={styles.group}>
      <Words size="small" tone="soft">
        {label}
      </Words>
      <View role="radiogroup" aria-label={label} style={styles.grid} {...({ onKeyDown } as object)}>
        {choices.map((choice) => {
          const isChosen = choice.value === value;
          return (
            <Pressable
              key={choice.value}
              ref={(part) => {
                if (part) parts.current.set(choice.value, part);
                else parts.current.delete(choice.value);
              }}
              role="radio"
              aria-checked={isChosen}
              aria-label={choice.label}
              tabIndex={choice.value === entry ? 0 : -1}
              onPress={() => onChoose(choice.value)}
              style={[
                styles.choice,
                { borderColor: isChosen ? theme.action : theme.line, backgroundColor: theme.card },
              ]}
            >
              <Image
                source={{ uri: choice.uri }}
                style={[styles.picture, { aspectRatio: aspect, backgroundColor: theme.line }]}
                alt=""
              />
              <Words size="small" strong={isChosen} tone={isChosen ? 'action' : 'ink'}>
                {choice.label}
              </Words>
            </Pressable>
          );
        })}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  grid: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  choice: {
    flexBasis: 140,
    flexGrow: 1,
    maxWidth: 240,
    borderWidth: 3,
    borderRadius: RADIUS.small,
    padding: SPACE.hair,
    alignItems: 'center',
    gap: SPACE.hair,
  },
  picture: { width: '100%', borderRadius: RADIUS.small },
});
