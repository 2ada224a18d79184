import { StyleSheet, View } from 'react-native';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** dB. */
const LOWERED = [
  { value: '0', label: 'not at all' },
  { value: '6', label: 'a little' },
  { value: '10', label: 'clearly' },
  { value: '20', label: 'nearly away' },
];

/** By how much what the computer plays goes down while somebody speaks over it, in all of the lesson. */
export const DuckingPanel = ({ lesson, onDone }: { lesson: Lesson; onDone: () => void }) => {
  const { put } = useEdits();
  const first = useFocusWhen(true);
  return (
    <View style={styles.group}>
      <Choices
        label="While you speak, the computer’s sound goes down"
        choices={LOWERED}
        value={String(lesson.decisions.duckingDb)}
        onChoose={(db) => put({ do: 'set-ducking', db: Number(db) })}
      />
      <Words size="small" tone="soft">
        A moment before you speak, and up again after it; in all takes of this lesson.
      </Words>
      <View style={styles.buttons}>
        <Button ref={first} small label="Done with its sound" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
