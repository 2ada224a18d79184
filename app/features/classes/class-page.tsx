import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLocalSearchParams, type Href } from 'expo-router';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { BIN_DAYS } from '@under-chalk/core/contract/bin';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { rosterCsv } from '@under-chalk/core/class/roster-table';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { call, codeOf } from '../../data/client';
import { KEYS, useClass, useSetClass } from '../../data/queries';
import { saveBytes } from '../../data/save-bytes';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Field } from '../../ui/field';
import { Menu } from '../../ui/menu';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { WayBack } from '../../ui/way-back';
import { counted } from '../../ui/counted';
import { ClassMailSettings } from './class-mail';
import { ClassPageSheet } from './class-page-sheet';
import { Enrolling } from './enrolling';
import { saveAddresses } from './save-addresses';
import { saveRoster } from './save-roster';
import { Students } from './students';
import { Units } from './units';

/** A class: who is in it, and its units in order. */
export const ClassPage = () => {
  const { classId } = useLocalSearchParams<{ classId: string }>();
  const found = useClass(classId);
  return (
    <Screen
      name={found.data?.name ?? 'Class'}
      head={<WayBack label="Classes" to={'/classes' as Href} />}
    >
      {found.data ? (
        <Shown view={found.data} />
      ) : found.error ? (
        <Failed code={codeOf(found.error)} onRetry={() => void found.refetch()} />
      ) : (
        <Loading what="the class" />
      )}
    </Screen>
  );
};

const Shown = ({ view }: { view: ClassView }) => {
  const client = useQueryClient();
  const { id, name, units, students } = view;
  const [renaming, setRenaming] = useState(false);
  const [gone, setGone] = useState(false);
  const [paging, setPaging] = useState(false);
  const [mailing, setMailing] = useState(false);
  const refetch = { onSettled: () => client.invalidateQueries({ queryKey: KEYS.classes }) };
  const away = useMutation({
    mutationFn: () => call('deleteClass', { params: { classId: id } }),
    onSuccess: () => setGone(true),
    ...refetch,
  });
  const back = useMutation({
    mutationFn: () => call('restoreClass', { params: { classId: id } }),
    onSuccess: () => setGone(false),
    ...refetch,
  });
  const save = useMutation({ mutationFn: () => saveRoster([id], name) });
  const addresses = useMutation({ mutationFn: () => saveAddresses(view) });
  const button = useFocusWhen(gone);
  const error = away.error ?? back.error ?? save.error ?? addresses.error;
  if (gone) {
    return (
      <>
        <Heading level={1}>{name}</Heading>
        <Notice
          title={`${name} is taken away.`}
          text={`It can be brought back for ${BIN_DAYS} days; then who is in no other class is erased with it.`}
        >
          <Button
            small
            ref={button}
            label="Restore"
            disabled={back.isPending}
            onPress={() => back.mutate()}
          />
        </Notice>
        {error ? <ProblemNotice code={codeOf(error)} /> : null}
      </>
    );
  }
  return (
    <>
      <View style={styles.head}>
        <View style={styles.grow}>
          <Heading level={1}>{name}</Heading>
          <Words tone="soft">{counted(students.length, 'student')}</Words>
        </View>
        <Menu
          of={name}
          items={[
            { label: 'The class’s page…', onPress: () => setPaging(true) },
            { label: 'Rename class', onPress: () => setRenaming(true) },
            { label: 'E-mail language and time zone', onPress: () => setMailing(true) },
            ...(students.length > 0
              ? [
                  {
                    label: 'Save the list (CSV)',
                    onPress: () =>
                      saveBytes(rosterCsv(students), 'text/csv', fileNameOf(name, 'csv')),
                  },
                  {
                    label: 'Save addresses of their pages',
                    onPress: () => addresses.mutate(),
                  },
                  { label: 'Save a roster (ZIP)', onPress: () => save.mutate() },
                ]
              : []),
            { label: 'Take it away', grave: true, onPress: () => away.mutate() },
          ]}
        />
      </View>
      {paging ? <ClassPageSheet classId={id} name={name} onClose={() => setPaging(false)} /> : null}
      {renaming ? <Renaming view={view} onDone={() => setRenaming(false)} /> : null}
      {mailing ? <ClassMailSettings view={view} onDone={() => setMailing(false)} /> : null}
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      <Enrolling view={view} />
      <Students view={view} />
      <Units view={view} units={units} />
    </>
  );
};

const Renaming = ({ view, onDone }: { view: ClassView; onDone: () => void }) => {
  const [name, setName] = useState(view.name);
  const set = useSetClass();
  const rename = () => set.mutate({ ...view, name }, { onSuccess: onDone });
  return (
    <View style={styles.renaming}>
      <Field
        label="Name of the class"
        hint="Lessons are of this class that say so in their plan, by this name."
        value={name}
        onChangeText={setName}
        onSubmitEditing={rename}
        maxLength={200}
        autoFocus
      />
      <View style={styles.buttons}>
        <Button
          label="Save"
          spoken="Save the name"
          disabled={name.trim() === '' || set.isPending}
          onPress={rename}
        />
        <Button label="Cancel" onPress={onDone} />
      </View>
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  head: { flexDirection: 'row', alignItems: 'flex-start', gap: SPACE.small },
  grow: { flexGrow: 1, flexShrink: 1, gap: SPACE.hair },
  renaming: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
