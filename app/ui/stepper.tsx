import { useState } from 'react';
import { StyleSheet, TextInput, View, type TextInputKeyPressEvent } from 'react-native';
import { Button } from './button';
import { Words } from './text';
import { FONTS, RADIUS, SPACE, TYPE, useTheme } from './theme';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  /** How far one press moves it; ten of them with Page Up and Page Down. */
  readonly step: number;
  /** How far an arrow moves it while Shift is held. */
  readonly fineStep?: number;
  readonly onChange: (value: number) => void;
  /** The value as it is shown and typed. */
  readonly format: (value: number) => string;
  /** What was typed as a value; null where it is none. */
  readonly parse: (text: string) => number | null;
  /** What the number counts, in sight beside it. */
  readonly unit: string;
  /** One step back and one on, in words, for the buttons. */
  readonly stepWords: readonly [back: string, on: string];
}

/**
 * A number with its unit: typed, or moved in steps by the buttons beside it and by the arrow keys (WAI-ARIA APG,
 * spinbutton). What can't be read is put back to what it was.
 */
export const Stepper = (props: Props) => {
  const { label, value, least, most, step, fineStep = step } = props;
  const { onChange, format, parse, unit, stepWords } = props;
  const theme = useTheme();
  const [typed, setTyped] = useState<string | null>(null);
  const set = (next: number) => onChange(Math.min(most, Math.max(least, next)));
  const take = () => {
    const read = typed === null ? null : parse(typed);
    if (read !== null) set(read);
    setTyped(null);
  };
  const onKeyPress = (event: TextInputKeyPressEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.nativeEvent.key];
    if (by === undefined) return;
    event.preventDefault();
    setTyped(null);
    const { shiftKey } = event.nativeEvent as unknown as KeyboardEvent;
    set(value + by * (shiftKey ? fineStep : step));
  };
  return (
    <View style={styles.group}>
      <Words size="small" strong aria-hidden>
        {label}
      </Words>
      <View style={styles.line}>
        <Button
          small
          skipped
          label="−"
          spoken={`${label}: ${stepWords[0]}`}
          disabled={value <= least}
          onPress={() => set(value - step)}
        />
        <TextInput
          role={'spinbutton' as never}
          aria-label={`${label}, ${unit}`}
          aria-valuenow={value}
          aria-valuemin={least}
          aria-valuemax={most}
          aria-valuetext={`${format(value)} ${unit}`}
          inputMode="text"
          value={typed ?? format(value)}
          onChangeText={setTyped}
          onBlur={take}
          onSubmitEditing={take}
          onKeyPress={onKeyPress}
          style={[
            styles.input,
            {
              color: theme.ink,
              borderColor: theme.line,
              backgroundColor: theme.card,
              fontFamily: FONTS.text,
            },
          ]}
        />
        <Button
          small
          skipped
          label="+"
          spoken={`${label}: ${stepWords[1]}`}
          disabled={value >= most}
          onPress={() => set(value + step)}
        />
        <Words size="small" tone="soft" aria-hidden>
          {unit}
        </Words>
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.hair, flexWrap: 'wrap' },
  input: {
    width: 92,
    minHeight: 44,
    borderWidth: 1.5,
    borderRadius: RADIUS.small,
    textAlign: 'center',
    fontSize: TYPE.body,
  },
});
