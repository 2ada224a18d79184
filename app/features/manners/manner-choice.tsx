import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { isPlain, mannerOf, MOST_MANNERS } from '@under-chalk/core/lesson/manner';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/client';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { mannerNow, useManners, useTakeManner } from './use-manners';

type Whom = 'nobody' | 'class';

/** The lesson's manner: one that was kept before, or this one kept for the next lessons. */
export const MannerChoice = ({ lesson }: { lesson: Lesson }) => {
  const { manners, keep, forget } = useManners();
  const take = useTakeManner(lesson);
  const now = mannerNow(manners, lesson);
  const { className } = lesson.decisions.plan;
  const own = isPlain(lesson.decisions) ? 'plain' : 'its own';
  const ofClass = now && className !== '' && now.className === className;
  const problem = keep.error ?? forget.error ?? take.error;
  return (
    <ChoiceLine
      label="Its manner"
      value={now ? (ofClass ? `${now.name}, as lessons of the class begin` : now.name) : own}
    >
      <View style={styles.group}>
        <Words size="small" tone="soft">
          Arrangement, frame, watermark and cards, kept under a name for the next lessons.
        </Words>
        {manners.length > 0 ? (
          <View role="group" aria-label="Manners that are kept" style={styles.line}>
            {manners.map((one) => (
              <Button
                key={one.id}
                small
                label={one.name}
                spoken={`Take the manner ${one.name}`}
                disabled={one.id === now?.id}
                onPress={() => take.mutate(one)}
              />
            ))}
          </View>
        ) : null}
        {problem ? <ProblemNotice code={codeOf(problem)} /> : null}
        {now || manners.length >= MOST_MANNERS ? null : (
          <KeepThis
            lesson={lesson}
            onKeep={(name, className) =>
              keep.mutate({ id: newId(), name, className, says: mannerOf(lesson.decisions) })
            }
          />
        )}
        {manners.length > 0 ? (
          <View style={styles.line}>
            {manners.map(({ id, name }) => (
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
  const [whom, setWhom] = useState<Whom>('class');
  const { className } = lesson.decisions.plan;
  const keep = () => {
    const called = name.trim();
    if (called) onKeep(called, whom === 'class' ? className : '');
  };
  return (
    <>
      <Field
        label="Name of this manner"
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
          value={whom}
          onChoose={setWhom}
        />
      ) : null}
      <View style={styles.line}>
        <Button
          small
          kind="main"
          label="Keep this manner"
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
