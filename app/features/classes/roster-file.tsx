import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { RosterClass } from '@under-chalk/core/class/one-roster';
import { AppError } from '@under-chalk/core/errors/errors';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { useClasses } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { FileInput } from '../../ui/file-input';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { counted } from '../../ui/counted';
import { readRosterFile } from './read-roster-file';
import { newClassMail } from './class-mail';

/** Brings in whole classes with their students, from a roster (OneRoster 1.2). Shown first, and brought in when that is wanted. */
export const RosterFile = () => {
  const client = useQueryClient();
  const classes = useClasses();
  const input = useRef<HTMLInputElement>(null);
  const [found, setFound] = useState<readonly RosterClass[] | null>(null);
  const read = useMutation({
    mutationFn: async (file: File) => {
      const roster = await readRosterFile(file);
      if (roster.is !== 'classes' || roster.classes.length === 0) throw new AppError('no-roster');
      return roster.classes;
    },
    onSuccess: setFound,
  });
  const idOf = (name: string) => classes.data?.find((one) => one.name === name)?.id;
  const bring = useMutation({
    mutationFn: async (all: readonly RosterClass[]) => {
      for (const { name, students } of all) {
        const known = idOf(name);
        const classId = known ?? newId();
        if (!known)
          await call('setClass', { body: { id: classId, name, units: [], mail: newClassMail() } });
        if (students.length > 0)
          await call('enrol', {
            params: { classId },
            body: { students: students.map((one) => ({ ...one, address: one.address ?? '' })) },
          });
      }
    },
    onSuccess: () => setFound(null),
    onSettled: () => client.invalidateQueries(),
  });
  const button = useFocusWhen(found !== null);
  const error = read.error ?? bring.error;
  return (
    <View style={styles.all}>
      {found ? (
        <Notice title={`In it: ${counted(found.length, 'class', 'classes')}`}>
          <View style={styles.found}>
            {found.map(({ name, students }) => (
              <Words key={name}>
                {`${name}: ${counted(students.length, 'student')}${idOf(name) ? ', into the class that is there' : ''}`}
              </Words>
            ))}
            <View style={styles.buttons}>
              <Button
                kind="main"
                ref={button}
                label="Bring them in"
                disabled={bring.isPending}
                onPress={() => bring.mutate(found)}
              />
              <Button label="Cancel" onPress={() => setFound(null)} />
            </View>
          </View>
        </Notice>
      ) : (
        <Button
          label="Bring in a roster"
          spoken="Bring in classes from a roster (OneRoster ZIP)"
          onPress={() => input.current?.click()}
        />
      )}
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      <FileInput
        ref={input}
        label="A roster of classes"
        accept=".zip,application/zip"
        onFiles={([file]) => read.mutate(file!)}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  all: { gap: SPACE.small },
  found: { gap: SPACE.hair, flexGrow: 1 },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, paddingTop: SPACE.small },
});
