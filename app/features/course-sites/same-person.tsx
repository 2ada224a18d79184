import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { JoinedSite, Newcomer } from '@under-chalk/core/contract/course-sites';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { ProblemNotice } from '../../ui/notice';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

const inClasses = ({ classes }: Newcomer['other']): string =>
  classes.length > 0 ? classes.join(', ') : 'in no class';

/** Facts that help to tell two people of the same name apart. */
const known = (person: Newcomer['other']): string =>
  `${person.address ?? 'no e-mail address'} · ${inClasses(person)}`;

interface Props {
  readonly siteId: string;
  readonly newcomer: Newcomer;
  /** Receives the result as a sentence. */
  readonly onSettled: (sentence: string) => void;
}

/** Asks whether a new student from a course site already exists. */
const Question = ({ siteId, newcomer, onSettled }: Props) => {
  const theme = useTheme();
  const client = useQueryClient();
  const { studentId, name, other, by } = newcomer;
  const answer = useMutation({
    mutationFn: (same: boolean) =>
      call('resolveNewcomer', { params: { siteId, studentId }, body: { same } }),
    onSuccess: (all, same) => {
      onSettled(
        same
          ? `${name} and ${other.name} are one student now.`
          : `${name} stays a separate student.`,
      );
      client.setQueryData(KEYS.courseSites, all);
      void client.invalidateQueries({ queryKey: KEYS.classes });
    },
  });
  return (
    <View
      role="group"
      aria-label={`Is ${name} the same person?`}
      style={[styles.box, { borderColor: theme.warn }]}
    >
      <Heading level={2}>Same person?</Heading>
      <View style={styles.people}>
        {[
          {
            label: 'New, from this course site',
            person: newcomer,
            // A taken address is not stored for the new student until the teacher confirms it.
            facts:
              by === 'address' ? `same e-mail address · ${inClasses(newcomer)}` : known(newcomer),
          },
          { label: 'Already here', person: other, facts: known(other) },
        ].map(({ label, person, facts }) => (
          <View key={label} style={styles.person}>
            <Words size="small" tone="soft">
              {label}
            </Words>
            <Words strong>{person.name}</Words>
            <Words size="small" tone="soft" style={styles.known}>
              {facts}
            </Words>
          </View>
        ))}
      </View>
      <Words size="small">
        If you merge them, they get one page with the films of both, and everything each has
        watched, answered and submitted. Merging can’t be undone. If you aren’t sure, choose
        “Different people”.
      </Words>
      <View style={styles.line}>
        <Button
          small
          label="Same person"
          spoken={`${name} and ${other.name} are the same person`}
          disabled={answer.isPending}
          onPress={() => answer.mutate(true)}
        />
        <Button
          small
          label="Different people"
          spoken={`${name} and ${other.name} are different people`}
          disabled={answer.isPending}
          onPress={() => answer.mutate(false)}
        />
      </View>
      {answer.error ? <ProblemNotice code={codeOf(answer.error)} /> : null}
    </View>
  );
};

/** The result of an answer. The pressed button is gone, so it gets the focus. */
const Answered = ({ sentence }: { sentence: string }) => (
  <View ref={useFocusWhen(true)} tabIndex={-1} role="status">
    <Words size="small">{sentence}</Words>
  </View>
);

/** Asks for each new student from a course site whether they already exist. */
export const SamePeople = ({ site: { id, newcomers } }: { site: JoinedSite }) => {
  const [answered, setAnswered] = useState('');
  return (
    <>
      {answered ? <Answered key={answered} sentence={answered} /> : null}
      {newcomers.map((newcomer) => (
        <Question
          key={newcomer.studentId}
          siteId={id}
          newcomer={newcomer}
          onSettled={setAnswered}
        />
      ))}
    </>
  );
};

const styles = StyleSheet.create({
  box: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  people: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.medium },
  person: { flexGrow: 1, flexBasis: 200, flexShrink: 1 },
  known: { ...({ overflowWrap: 'anywhere' } as object) },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
