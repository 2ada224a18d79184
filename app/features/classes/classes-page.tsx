import { useMutation } from '@tanstack/react-query';
import { Link, useRouter, type Href } from 'expo-router';
import Plus from 'lucide-react-native/icons/plus';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ClassRow } from '@under-chalk/core/contract/classes';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/client';
import { useClasses, useSetClass } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';
import { counted } from '../../ui/counted';
import { RosterFile } from './roster-file';
import { saveRoster } from './save-roster';
import { newClassMail } from './class-mail';

/** Who is taught, class by class. */
export const ClassesPage = () => {
  const classes = useClasses();
  return (
    <Screen name="Classes" head={<BackToLessons />}>
      <Heading level={1}>Classes</Heading>
      <NewClass />
      {classes.data ? (
        <List classes={classes.data} />
      ) : classes.error ? (
        <Failed code={codeOf(classes.error)} onRetry={() => void classes.refetch()} />
      ) : (
        <Loading what="your classes" />
      )}
    </Screen>
  );
};

/** Makes a class, by its name. */
const NewClass = () => {
  const [name, setName] = useState('');
  const router = useRouter();
  const set = useSetClass();
  const isReady = name.trim() !== '' && !set.isPending;
  const make = () =>
    set.mutate(
      { id: newId(), name, units: [], mail: newClassMail() },
      { onSuccess: ({ id }) => router.push(`/classes/${id}` as Href) },
    );
  return (
    <View>
      <View style={styles.line}>
        <View style={styles.grow}>
          <Field
            label="A new class"
            placeholder="Name, year or evening"
            value={name}
            onChangeText={setName}
            onSubmitEditing={() => (isReady ? make() : undefined)}
            maxLength={200}
          />
        </View>
        <Button
          label="Make it"
          spoken="Make this class"
          icon={Plus}
          disabled={!isReady}
          onPress={make}
        />
      </View>
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
    </View>
  );
};

const List = ({ classes }: { classes: readonly ClassRow[] }) => {
  const theme = useTheme();
  const save = useMutation({
    mutationFn: () =>
      saveRoster(
        classes.map(({ id }) => id),
        'classes',
      ),
  });
  return (
    <>
      {classes.length === 0 ? (
        <Notice
          title="No class yet."
          text="Name one above; its students come from a list that you paste, or from a file."
        />
      ) : (
        <View role="list" aria-label="Classes" style={styles.list}>
          {classes.map(({ id, name, students, lessons, units }) => (
            <Row key={id}>
              <View style={styles.words}>
                <Link href={`/classes/${id}` as Href} style={styles.link}>
                  <Words strong style={{ color: theme.action, textDecorationLine: 'underline' }}>
                    {name}
                  </Words>
                </Link>
                <Words size="small" tone="soft">
                  {[
                    counted(students, 'student'),
                    ...(units.length > 0 ? [counted(units.length, 'unit')] : []),
                    counted(lessons, 'lesson'),
                  ].join(' · ')}
                </Words>
              </View>
            </Row>
          ))}
        </View>
      )}
      <View style={styles.line}>
        <RosterFile />
        {classes.length > 0 ? (
          <Button
            label="Save all as a roster"
            spoken="Save all classes as a roster (OneRoster ZIP)"
            disabled={save.isPending}
            onPress={() => save.mutate()}
          />
        ) : null}
      </View>
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
      <Link href={'/classes/course-sites' as Href} style={styles.link}>
        <Words style={{ color: theme.action, textDecorationLine: 'underline' }}>Course sites</Words>
      </Link>
    </>
  );
};

const styles = StyleSheet.create({
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'flex-end' },
  grow: { flexGrow: 1, flexShrink: 1, flexBasis: 200 },
  list: { gap: SPACE.small },
  words: { flexShrink: 1, flexGrow: 1, paddingBottom: SPACE.small },
  link: { display: 'flex', alignItems: 'center', minHeight: 44 },
});
