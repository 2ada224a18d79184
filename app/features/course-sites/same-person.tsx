import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { JoinedSite, Newcomer } from '@under-chalk/core/contract/course-sites';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { focusOn } from '../../ui/focus';
import { ProblemNotice } from '../../ui/notice';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

const inClasses = ({ classes }: Newcomer['other']): string =>
  classes.length > 0 ? classes.join(', ') : 'in no class';

/** What tells one person of a name from another. */
const known = (person: Newcomer['other']): string =>
  `${person.address ?? 'no e-mail address'} · ${inClasses(person)}`;

interface Props {
  readonly siteId: string;
  readonly newcomer: Newcomer;
  /** Told what came of it, in a sentence. */
  readonly onSettled: (sentence: string) => void;
}

/** Asks whether somebody who came from a course site is a student who was here before. */
const Question = ({ siteId, newcomer, onSettled }: Props) => {
  const theme = useTheme();
  const client = useQueryClient();
  const { studentId, name, other, by } = newcomer;
  const settle = useMutation({
    mutationFn: (same: boolean) =>
      call('settleNewcomer', { params: { siteId, studentId }, body: { same } }),
    onSuccess: (all, same) => {
      onSettled(
        same
          ? `${name} and ${other.name} are one student now.`
          : `${name} is a student of their own.`,
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
            // An address that somebody has already is not theirs before the teacher says so.
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
        As the same person, they have one page with the films of both, and what each has watched,
        answered and submitted. This can’t be undone; if you aren’t sure, keep them apart.
      </Words>
      <View style={styles.line}>
        <Button
          small
          label="Same person"
          spoken={`${name} and ${other.name} are the same person`}
          disabled={settle.isPending}
          onPress={() => settle.mutate(true)}
        />
        <Button
          small
          label="Different people"
          spoken={`${name} and ${other.name} are different people`}
          disabled={settle.isPending}
          onPress={() => settle.mutate(false)}
        />
      </View>
      {settle.error ? <ProblemNotice code={codeOf(settle.error)} /> : null}
    </View>
  );
};

/** Asks, one after the other, whether those who came from a course site are students who were here before. */
export const SamePeople = ({ site: { id, newcomers } }: { site: JoinedSite }) => {
  const [settled, setSettled] = useState('');
  // Where the question was, and its buttons, there is what came of it.
  const [last, setLast] = useState<View | null>(null);
  useEffect(() => {
    if (settled) focusOn(last);
  }, [settled, last]);
  return (
    <>
      {settled ? (
        <View ref={setLast} tabIndex={-1} role="status">
          <Words size="small">{settled}</Words>
        </View>
      ) : null}
      {newcomers.map((newcomer) => (
        <Question key={newcomer.studentId} siteId={id} newcomer={newcomer} onSettled={setSettled} />
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
