import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { StudentPageSheet } from './student-page-sheet';

type InClass = ClassView['students'][number];

/** Who is in a class, and what can be done about each. */
export const Students = ({ view }: { view: ClassView }) => {
  const client = useQueryClient();
  const [left, setLeft] = useState<InClass | null>(null);
  const refresh = () => {
    void client.invalidateQueries({ queryKey: KEYS.class(view.id) });
    void client.invalidateQueries({ queryKey: KEYS.classes });
  };
  const paramsOf = ({ id }: InClass) => ({ classId: view.id, studentId: id });
  const leave = useMutation({
    mutationFn: (student: InClass) => call('leaveClass', { params: paramsOf(student) }),
    onSuccess: (_, student) => setLeft(student),
    onSettled: refresh,
  });
  const join = useMutation({
    mutationFn: (student: InClass) => call('joinClass', { params: paramsOf(student) }),
    onSuccess: () => setLeft(null),
    onSettled: refresh,
  });
  const button = useFocusWhen(left !== null);
  const error = leave.error ?? join.error;
  return (
    <View style={styles.group}>
      <Heading level={2}>Students</Heading>
      {left ? (
        <Notice title={`${left.name} is out of the class.`}>
          <Button
            small
            ref={button}
            label="Bring back"
            spoken={`Bring ${left.name} back`}
            disabled={join.isPending}
            onPress={() => join.mutate(left)}
          />
        </Notice>
      ) : null}
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      {view.students.length === 0 ? (
        <Words tone="soft">Nobody yet. Names can be pasted above, a line each.</Words>
      ) : (
        <View role="list" aria-label="Students" style={styles.list}>
          {view.students.map((student) => (
            <Student
              key={student.id}
              student={student}
              onLeave={() => leave.mutate(student)}
              onChanged={refresh}
            />
          ))}
        </View>
      )}
    </View>
  );
};

const Student = ({
  student,
  onLeave,
  onChanged,
}: {
  student: InClass;
  onLeave: () => void;
  onChanged: () => void;
}) => {
  const { id, name, address, alsoIn } = student;
  const [doing, setDoing] = useState<'page' | 'changing' | 'erasing' | null>(null);
  const close = () => setDoing(null);
  const about = [address, ...alsoIn.map((one) => `also in ${one}`)].filter(Boolean);
  return (
    <Row>
      <View style={styles.words}>
        <Words strong>{name}</Words>
        {about.length > 0 ? (
          <Words size="small" tone="soft">
            {about.join(' · ')}
          </Words>
        ) : null}
      </View>
      <Menu
        of={name}
        items={[
          { label: 'Their page…', onPress: () => setDoing('page') },
          { label: 'Change name or address', onPress: () => setDoing('changing') },
          { label: 'Take out of the class', onPress: onLeave },
          { label: 'Erase…', grave: true, onPress: () => setDoing('erasing') },
        ]}
      />
      {doing === 'page' ? <StudentPageSheet studentId={id} name={name} onClose={close} /> : null}
      {doing === 'changing' ? (
        <Changing {...{ id, name, address }} onDone={close} onChanged={onChanged} />
      ) : null}
      {doing === 'erasing' ? (
        <Erasing {...{ id, name }} onDone={close} onChanged={onChanged} />
      ) : null}
    </Row>
  );
};

interface Doing {
  readonly id: string;
  readonly name: string;
  readonly onDone: () => void;
  readonly onChanged: () => void;
}

const Changing = ({
  id,
  name: before,
  address: beforeAddress,
  onDone,
  onChanged,
}: Doing & { readonly address: string | null }) => {
  const [name, setName] = useState(before);
  const [address, setAddress] = useState(beforeAddress ?? '');
  const change = useMutation({
    mutationFn: () => call('changeStudent', { params: { studentId: id }, body: { name, address } }),
    onSuccess: onDone,
    onSettled: onChanged,
  });
  return (
    <View style={styles.open}>
      <Field label="Name" value={name} onChangeText={setName} maxLength={200} autoFocus />
      <Field
        label="Address for mail"
        hint="May be left empty."
        value={address}
        onChangeText={setAddress}
        inputMode="email"
        maxLength={254}
        problem={change.error ? 'This can’t be an address, or the name is missing.' : undefined}
      />
      <View style={styles.buttons}>
        <Button
          label="Change it"
          disabled={name.trim() === '' || change.isPending}
          onPress={() => change.mutate()}
        />
        <Button label="Cancel" onPress={onDone} />
      </View>
    </View>
  );
};

const Erasing = ({ id, name, onDone, onChanged }: Doing) => {
  const erase = useMutation({
    mutationFn: () => call('eraseStudent', { params: { studentId: id } }),
    onSettled: onChanged,
  });
  const keep = useFocusWhen(true);
  return (
    <View style={styles.open}>
      <Words>{`${name} is erased, with all that is known of them, in all classes. There is no way back.`}</Words>
      {erase.error ? <ProblemNotice code={codeOf(erase.error)} /> : null}
      <View style={styles.buttons}>
        <Button small ref={keep} label="Keep" spoken={`Keep ${name}`} onPress={onDone} />
        <Button
          small
          kind="grave"
          label="Yes, erase"
          spoken={`Yes, erase ${name}`}
          disabled={erase.isPending}
          onPress={() => erase.mutate()}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  list: { gap: SPACE.small },
  words: { flexShrink: 1, flexGrow: 1, flexBasis: 180, paddingVertical: SPACE.hair },
  open: { flexBasis: '100%', gap: SPACE.small, paddingBottom: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.large },
});
