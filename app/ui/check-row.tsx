import { Pressable, StyleSheet, View } from 'react-native';
import Check from 'lucide-react-native/icons/check';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

interface Props {
  readonly label: string;
  readonly hint?: string;
  readonly checked: boolean;
  readonly disabled?: boolean;
  readonly onChange: (checked: boolean) => void;
}

/** One of several that can be chosen together. Space and Enter change it (WAI-ARIA APG, checkbox). */
export const CheckRow = ({ label, hint, checked, disabled = false, onChange }: Props) => {
  const theme = useTheme();
  const change = () => onChange(!checked);
  // Space is the browser's own for buttons alone.
  const onKeyDown = (event: { key: string; preventDefault(): void }) => {
    if (event.key !== ' ') return;
    event.preventDefault();
    if (!disabled) change();
  };
  return (
    <Pressable
      role="checkbox"
      aria-checked={checked}
      aria-label={hint ? `${label}: ${hint}` : label}
      disabled={disabled}
      onPress={change}
      {...({ onKeyDown } as object)}
      style={[
        styles.row,
        {
          borderColor: checked ? theme.action : theme.line,
          backgroundColor: checked ? theme.actionSoft : theme.card,
        },
      ]}
    >
      <View
        style={[styles.box, { borderColor: checked ? theme.action : theme.inkSoft }]}
        aria-hidden
      >
        {checked ? <Check size={16} color={theme.action} strokeWidth={3} /> : null}
      </View>
      <View style={styles.words}>
        <Words strong={checked}>{label}</Words>
        {hint ? (
          <Words size="small" tone="soft">
            {hint}
          </Words>
        ) : null}
      </View>
    </Pressable>
  );
};

const styles = StyleSheet.create({
  row: {
    minHeight: 44,
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    paddingHorizontal: SPACE.medium,
    paddingVertical: SPACE.small,
    borderWidth: 1.5,
    borderRadius: RADIUS.medium,
  },
  box: {
    width: 20,
    height: 20,
    borderRadius: RADIUS.small,
    borderWidth: 2,
    alignItems: 'center',
    justifyContent: 'center',
  },
  words: { flexShrink: 1 },
});
