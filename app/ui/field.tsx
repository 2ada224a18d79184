import { useId, useLayoutEffect, useRef, useState, type Ref } from 'react';
import { StyleSheet, TextInput, View, type TextInputProps } from 'react-native';
import { Button } from './button';
import { elementOf } from './focus';
import { Words } from './text';
import { FONTS, RADIUS, SPACE, TYPE, useTheme } from './theme';

interface Props extends TextInputProps {
  readonly label: string;
  readonly hint?: string;
  readonly problem?: string | undefined;
  /** What its number counts, in sight behind it. */
  readonly unit?: string;
  /** Only for a screen reader: what it is for is plain from where it stands. */
  readonly hideLabel?: boolean;
  readonly ref?: Ref<TextInput>;
  /** What is often written here: offered by the browser while it is typed. Not together with `ref`. */
  readonly offered?: readonly string[];
}

/** A labelled line, or several, to type in. */
export const Field = ({
  label,
  hint,
  problem,
  multiline,
  style,
  hideLabel,
  unit,
  secureTextEntry,
  offered = [],
  ...rest
}: Props) => {
  const theme = useTheme();
  const id = useId();
  const [shown, setShown] = useState(false);
  const below = problem ?? hint;
  const own = useRef<TextInput>(null);
  const offers = offered.length > 0;
  useLayoutEffect(() => {
    // A list of its own, which React Native knows nothing of.
    if (offers) elementOf(own.current)?.setAttribute('list', `${id}-offered`);
    else elementOf(own.current)?.removeAttribute('list');
  }, [offers, id]);
  return (
    <View style={styles.field}>
      {hideLabel ? null : (
        <View style={styles.head}>
          <Words strong nativeID={`${id}-label`}>
            {label}
          </Words>
          {secureTextEntry ? (
            <Button
              small
              kind="bare"
              label={shown ? 'Hide' : 'Show'}
              spoken={`${shown ? 'Hide' : 'Show'}: ${label}`}
              onPress={() => setShown(!shown)}
            />
          ) : null}
        </View>
      )}
      <View style={styles.line}>
        <TextInput
          ref={own}
          {...rest}
          secureTextEntry={secureTextEntry === true && !shown}
          multiline={multiline}
          // Enter does what the form does; where the focus goes then is the form's to say.
          blurOnSubmit={false}
          aria-label={unit ? `${label}, ${unit}` : label}
          {...(hideLabel || unit ? {} : { 'aria-labelledby': `${id}-label` })}
          {...({
            'aria-invalid': problem !== undefined,
            ...(below ? { 'aria-describedby': `${id}-hint` } : {}),
          } as object)}
          placeholderTextColor={theme.inkSoft}
          style={[
            styles.input,
            {
              color: theme.ink,
              backgroundColor: theme.card,
              borderColor: problem ? theme.bad : theme.line,
              fontFamily: FONTS.text,
            },
            unit ? styles.short : styles.whole,
            multiline ? styles.tall : null,
            style,
          ]}
        />
        {offers ? (
          <datalist id={`${id}-offered`}>
            {offered.map((one) => (
              <option key={one} value={one} />
            ))}
          </datalist>
        ) : null}
        {unit ? (
          <Words size="small" tone="soft" aria-hidden>
            {unit}
          </Words>
        ) : null}
      </View>
      {below ? (
        <Words size="small" tone={problem ? 'bad' : 'soft'} nativeID={`${id}-hint`}>
          {below}
        </Words>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  field: { gap: SPACE.hair },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  whole: { flexGrow: 1, flexShrink: 1, minWidth: 0 },
  short: { width: 120 },
  head: { flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' },
  input: {
    minHeight: 48,
    borderWidth: 1.5,
    borderRadius: RADIUS.medium,
    paddingHorizontal: SPACE.medium,
    paddingVertical: SPACE.medium,
    fontSize: TYPE.body,
  },
  tall: { minHeight: 96, textAlignVertical: 'top' },
});
