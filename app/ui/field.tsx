import { useId } from 'react';
import { StyleSheet, TextInput, View, type TextInputProps } from 'react-native';
import { Words } from './text';
import { FONTS, RADIUS, SPACE, TYPE, useTheme } from './theme';

interface Props extends TextInputProps {
  readonly label: string;
  readonly hint?: string;
  readonly problem?: string | undefined;
}

/** A labelled line, or several, to type in. */
export const Field = ({ label, hint, problem, multiline, style, ...rest }: Props) => {
  const theme = useTheme();
  const id = useId();
  return (
    <View style={styles.field}>
      <Words strong nativeID={`${id}-label`}>
        {label}
      </Words>
      <TextInput
        {...rest}
        multiline={multiline}
        aria-labelledby={`${id}-label`}
        {...({ 'aria-invalid': problem !== undefined, 'aria-describedby': `${id}-hint` } as object)}
        placeholderTextColor={theme.inkSoft}
        style={[
          styles.input,
          {
            color: theme.ink,
            backgroundColor: theme.card,
            borderColor: problem ? theme.bad : theme.line,
            fontFamily: FONTS.text,
          },
          multiline ? styles.tall : null,
          style,
        ]}
      />
      <Words size="small" tone={problem ? 'bad' : 'soft'} nativeID={`${id}-hint`}>
        {problem ?? hint ?? ''}
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  field: { gap: SPACE.hair },
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
