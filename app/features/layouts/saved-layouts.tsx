import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Layout } from '@under-chalk/core/lesson/layout';
import { MOST_SAVED_LAYOUTS } from '@under-chalk/core/lesson/saved-layout';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/client';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useSavedLayouts } from './use-saved-layouts';

interface Props {
  /** What is arranged now: it can be kept. */
  readonly now: Layout;
  readonly onChoose: (layout: Layout) => void;
  /** They can be chosen by keys here: 1, 2 and 3. */
  readonly keyed?: boolean;
}

/** The teacher's own layouts: one press sets one; what is arranged now can be kept, and one be let go. */
export const SavedLayouts = ({ now, onChoose, keyed }: Props) => {
  const { kept, keep, forget } = useSavedLayouts();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const full = kept.length >= MOST_SAVED_LAYOUTS;
  const keepNow = () => {
    if (name.trim() === '' || full) return;
    keep.mutate(
      { id: newId(), name: name.trim(), layout: now },
      {
        onSuccess: () => {
          setName('');
          setOpen(false);
        },
      },
    );
  };
  const problem = keep.error ?? forget.error;
  return (
    <View style={styles.group}>
      <Words size="small" tone="soft">
        {kept.length > 0
          ? `Your own${keyed ? ', by the keys 1 to 3 too' : ''}`
          : 'A layout that you use often can be kept, for all lessons.'}
      </Words>
      <View style={styles.line}>
        {kept.map((one) => (
          <Button
            key={one.id}
            small
            label={one.name}
            spoken={`Layout as ${one.name}`}
            onPress={() => onChoose(one.layout)}
          />
        ))}
        <Button
          small
          label={full ? 'Change these' : 'Keep this one'}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <View style={styles.group}>
          {full ? (
            <Words size="small" tone="soft">
              Three are kept. Let one go, and another can be kept.
            </Words>
          ) : (
            <>
              <Field
                label="Name of this layout"
                maxLength={40}
                value={name}
                onChangeText={setName}
                onSubmitEditing={keepNow}
              />
              <View style={styles.line}>
                <Button
                  small
                  kind="main"
                  label="Keep it"
                  disabled={name.trim() === ''}
                  onPress={keepNow}
                />
              </View>
            </>
          )}
          <View style={styles.line}>
            {kept.map((one) => (
              <Button
                key={one.id}
                small
                label={`Let ${one.name} go`}
                onPress={() => forget.mutate(one.id)}
              />
            ))}
          </View>
        </View>
      ) : null}
      {problem ? <ProblemNotice code={codeOf(problem)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
