import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { isPlain, savedStyleOf, MOST_SAVED_STYLES } from '@under-chalk/core/lesson/saved-style';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/client';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { savedStyleNow, useSavedStyles, useTakeSavedStyle } from './use-styles';

type Grantee = 'nobody' | 'class';

/** The lesson's style: one that was kept before, or this one kept for the next lessons. */
export const SavedStyleChoice = ({ lesson }: { lesson: Lesson }) => {
  const { savedStyles, keep, forget } = useSavedStyles();
  const take = useTakeSavedStyle(lesson);
  const now = savedStyleNow(savedStyles, lesson);
  const { className } = lesson.decisions.plan;
  const own = isPlain(lesson.decisions) ? 'plain' : 'its own';
  const ofClass = now && className !== '' && now.className === className;
  const problem = keep.error ?? forget.error ?? take.error;
  return (
    <ChoiceLine
      label="Style"
      value={now ? (ofClass ? `${now.name}, as lessons of the class begin` : now.name) : own}
    >
      <View style={styles.group}>
        <Words size="small" tone="soft">
          Layout, frame, watermark and cards, kept under a name for the next lessons.
        </Words>
        {savedStyles.length > 0 ? (
          <View role="group" aria-label="Styles that are kept" style={styles.line}>
            {savedStyles.map((one) => (
              <Button
                key={one.id}
                small
                label={one.name}
                spoken={`Take the style ${one.name}`}
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
                label={`Let ${name} go`}
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
        label="Name of this style"
        hint="Evening classes, feedback, …"
        maxLength={60}
        value={name}
        onChangeText={setName}
        onSubmitEditing={keep}
      />
      {className ? (
        <Choices
          label="New lessons begin with it"
          choices={[
            { value: 'class', label: `those of ${className}` },
            { value: 'nobody', label: 'none of themselves' },
          ]}
          value={grantee}
          onChoose={setGrantee}
        />
      ) : null}
      <View style={styles.line}>
        <Button small kind="main" label="Save style" disabled={name.trim() === ''} onPress={keep} />
      </View>
    </>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
