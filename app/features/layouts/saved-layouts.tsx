import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Layout } from '@under-chalk/core/lesson/layout';
import { MOST_SAVED_LAYOUTS } from '@under-chalk/core/lesson/saved-layout';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/client';
import { useTeacherText } from '../../messages/use-text';
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

/** The teacher's saved layouts: uses one, saves the current one, deletes one. */
export const SavedLayouts = ({ now, onChoose, keyed }: Props) => {
  const { t } = useTeacherText();
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
        {kept.length === 0 ? t('layouts.help') : t(keyed ? 'layouts.savedKeys' : 'layouts.saved')}
      </Words>
      <View style={styles.line}>
        {kept.map((one) => (
          <Button
            key={one.id}
            small
            label={one.name}
            spoken={t('layouts.use', { name: one.name })}
            onPress={() => onChoose(one.layout)}
          />
        ))}
        <Button
          small
          label={t(full ? 'layouts.edit' : 'layouts.save')}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <View style={styles.group}>
          {full ? (
            <Words size="small" tone="soft">
              {t('layouts.full')}
            </Words>
          ) : (
            <>
              <Field
                label={t('layouts.name')}
                maxLength={40}
                value={name}
                onChangeText={setName}
                onSubmitEditing={keepNow}
              />
              <View style={styles.line}>
                <Button
                  small
                  kind="main"
                  label={t('layouts.saveName')}
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
                label={t('layouts.delete', { name: one.name })}
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
