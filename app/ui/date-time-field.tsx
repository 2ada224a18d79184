import { useId } from 'react';
import { StyleSheet, View } from 'react-native';
import { Words } from './text';
import { FONTS, RADIUS, SPACE, TYPE, useTheme } from './theme';

interface Props {
  readonly label: string;
  /** As {@link momentToField} has it; empty: none. */
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** Day and time, by the browser's own calendar. */
export const DateTimeField = ({ label, value, onChange }: Props) => {
  const theme = useTheme();
  const id = useId();
  return (
    <View style={styles.field}>
      <label htmlFor={id}>
        <Words strong>{label}</Words>
      </label>
      <input
        id={id}
        type="datetime-local"
        value={value}
        onChange={({ target }) => onChange(target.value)}
        style={{
          ...{ minHeight: 44, boxSizing: 'border-box', width: '100%', maxWidth: 260 },
          ...{ padding: `0 ${SPACE.small}px`, borderRadius: RADIUS.small },
          ...{ border: `1px solid ${theme.line}`, background: theme.card, color: theme.ink },
          ...{ fontFamily: FONTS.text, fontSize: TYPE.body },
          colorScheme: theme.dark ? 'dark' : 'light',
        }}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  field: { gap: SPACE.hair, flexGrow: 1, flexBasis: 200 },
});
