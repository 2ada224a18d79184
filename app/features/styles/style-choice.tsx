import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { isPlain, savedStyleOf, MOST_SAVED_STYLES } from '@under-chalk/core/lesson/saved-style';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/client';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { savedStyleNow, useSavedStyles, useTakeSavedStyle } from './use-styles';

type Grantee = 'nobody' | 'class';

/** Chooses a saved style for the lesson, or saves the lesson's style. */
export const SavedStyleChoice = ({ lesson }: { lesson: Lesson }) => {
  const { t } = useTeacherText();
  const { savedStyles, keep, forget } = useSavedStyles();
  const take = useTakeSavedStyle(lesson);
  const now = savedStyleNow(savedStyles, lesson);
  const { className } = lesson.decisions.plan;
  const own = t(isPlain(lesson.decisions) ? 'styles.plain' : 'styles.changed');
  const ofClass = now && className !== '' && now.className === className;
  const problem = keep.error ?? forget.error ?? take.error;
  return (
    <ChoiceLine
      label={t('styles.title')}
      value={now ? (ofClass ? t('styles.classDefault', { name: now.name }) : now.name) : own}
    >
      <View style={styles.group}>
        <Words size="small" tone="soft">
          {t('styles.help')}
        </Words>
        {savedStyles.length > 0 ? (
          <View role="group" aria-label={t('styles.saved')} style={styles.line}>
            {savedStyles.map((one) => (
              <Button
                key={one.id}
                small
                label={one.name}
                spoken={t('styles.use', { name: one.name })}
                disabled={one.id === now?.id}
                onPress={() => take.mutate(one)}
              />
            ))}
          </View>
        ) : null}
        {problem ? <ProblemNotice code={codeOf(problem)} /> : null}
        {now || savedStyles.length >= MOST_SAVED_STYLES ? null : (
          <KeepThis
            lesson={lesson}
            onKeep={(name, className) =>
              keep.mutate({ id: newId(), name, className, says: savedStyleOf(lesson.decisions) })
            }
          />
        )}
        {savedStyles.length > 0 ? (
          <View style={styles.line}>
            {savedStyles.map(({ id, name }) => (
              <Button
                key={id}
                small
                kind="bare"
                label={t('styles.delete', { name })}
                onPress={() => forget.mutate(id)}
              />
            ))}
          </View>
        ) : null}
      </View>
    </ChoiceLine>
  );
};

interface KeepProps {
  readonly lesson: Lesson;
  readonly onKeep: (name: string, className: string) => void;
}

const KeepThis = ({ lesson, onKeep }: KeepProps) => {
  const { t } = useTeacherText();
  const [name, setName] = useState('');
  const [grantee, setGrantee] = useState<Grantee>('class');
  const { className } = lesson.decisions.plan;
  const keep = () => {
    const called = name.trim();
    if (called) onKeep(called, grantee === 'class' ? className : '');
  };
  return (
    <>
      <Field
        label={t('styles.name')}
        hint={t('styles.nameHelp')}
        maxLength={60}
        value={name}
        onChangeText={setName}
        onSubmitEditing={keep}
      />
      {className ? (
        <Choices
          label={t('styles.useFor')}
          choices={[
            { value: 'class', label: t('styles.ofClass', { className }) },
            { value: 'nobody', label: t('styles.never') },
          ]}
          value={grantee}
          onChoose={setGrantee}
        />
      ) : null}
      <View style={styles.line}>
        <Button
          small
          kind="main"
          label={t('styles.save')}
          disabled={name.trim() === ''}
          onPress={keep}
        />
      </View>
    </>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
