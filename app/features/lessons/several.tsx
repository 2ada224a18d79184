import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { LessonRow } from '@under-chalk/core/contract/lessons';
import { asSentence } from '@under-chalk/core/text/as-sentence';
import { call, codeOf } from '../../data/client';
import { useClasses } from '../../data/queries';
import { Button } from '../../ui/button';
import { counted } from '../../ui/counted';
import { Field } from '../../ui/field';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { archiveSeveral, handOutSeveral, deleteSeveral, type Done } from './do-with-several';

interface Props {
  /** Those that are chosen, in the order of the list. */
  readonly lessons: readonly LessonRow[];
  /** Something was done with them: with the way back, where there is one. */
  readonly onDone: (done: Done) => void;
  /** No more choosing. */
  readonly onLeave: () => void;
}

/** What can be done with the lessons that are chosen, at the foot of the list. */
export const SeveralBar = ({ lessons, onDone, onLeave }: Props) => {
  const client = useQueryClient();
  const [moving, setMoving] = useState(false);
  const doing = useMutation({
    mutationFn: (work: () => Promise<Done>) => work(),
    onSuccess: onDone,
    onSettled: () => client.invalidateQueries(),
  });
  const those = counted(lessons.length, 'lesson');
  // What was pressed to begin with is gone.
  const first = useFocusWhen(true);
  const none = lessons.length === 0 || doing.isPending;
  const areArchived = lessons.length > 0 && lessons.every(({ archived }) => archived);
  return (
    <View style={styles.bar}>
      <Words strong role="status" style={styles.count}>
        {doing.isPending ? 'At it…' : `${asSentence(those)} chosen`}
      </Words>
      <Button small ref={first} label="Move…" disabled={none} onPress={() => setMoving(true)} />
      <Button
        small
        label="Hand out"
        spoken="Hand out to their classes"
        disabled={none}
        onPress={() => doing.mutate(() => handOutSeveral(lessons))}
      />
      <Menu
        of="those that are chosen"
        items={[
          {
            label: areArchived ? 'Take them out of the archive' : 'Put them into the archive',
            onPress: () => {
              if (!none) doing.mutate(() => archiveSeveral(lessons, !areArchived));
            },
          },
          {
            label: 'Throw them away',
            grave: true,
            onPress: () => {
              if (!none) doing.mutate(() => deleteSeveral(lessons));
            },
          },
        ]}
      />
      <Button small label="Done" spoken="Done choosing" onPress={onLeave} />
      {doing.error ? <ProblemNotice code={codeOf(doing.error)} /> : null}
      {moving ? (
        <Moving
          lessons={lessons}
          onClose={() => setMoving(false)}
          onMove={(work) => {
            setMoving(false);
            doing.mutate(work);
          }}
        />
      ) : null}
    </View>
  );
};

/** Asks for the class and the unit that lessons are to be of. */
const Moving = ({
  lessons,
  onClose,
  onMove,
}: {
  lessons: readonly LessonRow[];
  onClose: () => void;
  onMove: (work: () => Promise<Done>) => void;
}) => {
  const { data: classes = [] } = useClasses();
  const [className, setClassName] = useState(lessons[0]?.className ?? '');
  const [unit, setUnit] = useState('');
  const units = classes.find(({ name }) => name === className)?.units ?? [];
  const move = async (
    moves: readonly { lessonId: string; className: string; unit: string }[],
  ): Promise<number> => (await call('moveLessons', { body: { moves: [...moves] } })).moved.length;
  const to = [className.trim(), unit.trim()].filter(Boolean).join(', ') || 'no class';
  const those = counted(lessons.length, 'lesson');
  const go = () =>
    onMove(async () => {
      const moved = await move(lessons.map(({ id }) => ({ lessonId: id, className, unit })));
      return {
        title: `${asSentence(counted(moved, 'lesson'))} moved to ${to}.`,
        text: '',
        back: async () => {
          await move(
            lessons.map((lesson) => ({
              ...{ lessonId: lesson.id, className: lesson.className, unit: lesson.unit },
            })),
          );
        },
      };
    });
  return (
    <Sheet title={`Move ${those}`} open onClose={onClose}>
      <Field
        label="Class"
        value={className}
        onChangeText={setClassName}
        offered={classes.map(({ name }) => name)}
        maxLength={140}
      />
      <Field
        label="Unit or week"
        value={unit}
        onChangeText={setUnit}
        offered={units.map(({ name }) => name)}
        onSubmitEditing={go}
        maxLength={140}
      />
      <View style={styles.line}>
        <Button kind="main" label={`Move ${those}`} onPress={go} />
      </View>
    </Sheet>
  );
};

/** What was done with several lessons, and the way back. */
export const SeveralDone = ({ done, onClose }: { done: Done; onClose: () => void }) => {
  const client = useQueryClient();
  const back = useMutation({
    mutationFn: async () => done.back?.(),
    onSuccess: onClose,
    onSettled: () => client.invalidateQueries(),
  });
  const button = useFocusWhen(true);
  return (
    <Notice title={done.title} {...(done.text ? { text: done.text } : {})}>
      {done.back ? (
        <Button
          small
          ref={button}
          label="Take it back"
          disabled={back.isPending}
          onPress={() => back.mutate()}
        />
      ) : null}
      <Button small {...(done.back ? {} : { ref: button })} label="Close" onPress={onClose} />
      {back.error ? <ProblemNotice code={codeOf(back.error)} /> : null}
    </Notice>
  );
};

const styles = StyleSheet.create({
  bar: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    alignItems: 'center',
    gap: SPACE.small,
    flexGrow: 1,
  },
  count: { flexGrow: 1 },
  line: { flexDirection: 'row' },
});
