import { useEffect, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import {
  keyName,
  SHORTCUT_ACTIONS,
  USUAL_SHORTCUTS,
  withShortcut,
  type ShortcutAction,
  type Shortcuts,
} from '@under-chalk/core/record/shortcuts';
import { Button } from '../../ui/button';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

interface Props {
  readonly shortcuts: Shortcuts;
  /** Absent: the keys are only shown. */
  readonly onChange?: (shortcuts: Shortcuts) => void;
}

/** The keys, and what they do while recording. Each can be changed by pressing another. */
export const KeyCard = ({ shortcuts, onChange }: Props) => {
  const theme = useTheme();
  const [asking, setAsking] = useState<ShortcutAction | null>(null);
  useEffect(() => {
    if (!asking || !onChange) return undefined;
    const pressed = (event: KeyboardEvent) => {
      // Leaves the way out by keyboard open.
      if (event.key === 'Tab') return setAsking(null);
      event.preventDefault();
      event.stopPropagation();
      if (event.key !== 'Escape') onChange(withShortcut(shortcuts, asking, event.key));
      setAsking(null);
    };
    document.addEventListener('keydown', pressed, true);
    return () => document.removeEventListener('keydown', pressed, true);
  }, [asking, onChange, shortcuts]);
  const changed = Object.entries(shortcuts).some(
    ([action, key]) => USUAL_SHORTCUTS[action as ShortcutAction] !== key,
  );
  return (
    <View style={styles.group}>
      <Heading level={2}>Keys while recording</Heading>
      <View role="list" aria-label="Keys while recording" style={styles.list}>
        {(Object.keys(SHORTCUT_ACTIONS) as ShortcutAction[]).map((action) => (
          <View key={action} role="listitem" style={styles.row}>
            <View style={[styles.key, { borderColor: theme.ink, backgroundColor: theme.card }]}>
              <Words strong>{keyName(shortcuts[action])}</Words>
            </View>
            <Words style={styles.what}>{SHORTCUT_ACTIONS[action]}</Words>
            {onChange ? (
              <Button
                small
                kind="bare"
                label={asking === action ? 'Press a key…' : 'Change'}
                spoken={
                  asking === action
                    ? `Press the new key for ${SHORTCUT_ACTIONS[action]}`
                    : `Change the key for ${SHORTCUT_ACTIONS[action]}`
                }
                onPress={() => setAsking(asking === action ? null : action)}
              />
            ) : null}
          </View>
        ))}
      </View>
      {onChange && changed ? (
        <Button small label="Back to the usual keys" onPress={() => onChange(USUAL_SHORTCUTS)} />
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small, alignItems: 'flex-start' },
  list: { gap: SPACE.hair, width: '100%' },
  row: { flexDirection: 'row', alignItems: 'center', gap: SPACE.medium, minHeight: 44 },
  key: {
    minWidth: 40,
    minHeight: 34,
    paddingHorizontal: SPACE.small,
    alignItems: 'center',
    justifyContent: 'center',
    borderWidth: 1.5,
    borderBottomWidth: 4,
    borderRadius: RADIUS.small,
  },
  what: { flexGrow: 1, flexShrink: 1 },
});
