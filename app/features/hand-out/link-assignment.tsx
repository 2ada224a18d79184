import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import {
  SUBMISSION_BY,
  MOST_ACTIVITY_SIGNS,
  MOST_NEXT_SIGNS,
  type Assignment,
  type SubmissionBy,
} from '@under-chalk/core/submission/assignment';
import { codeOf } from '../../data/client';
import { useSetAssignment } from '../../data/queries';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/check-row';
import { Field } from '../../ui/field';
import { dateTimeFromField, dateTimeToField } from '../../ui/date-time';
import { DateTimeField } from '../../ui/date-time-field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

const BY_WORDS: Readonly<Record<SubmissionBy, string>> = {
  words: 'something they write',
  file: 'a file: a picture, a PDF, a document',
  voice: 'half a minute of voice',
  camera: 'half a minute of camera',
};

const FIRST: Assignment = { text: '', next: '', dueAt: null, by: ['words', 'file'] };

/** What students do when they have watched it. */
export const LinkAssignment = ({
  shareLink,
  onDone,
}: {
  shareLink: ShareLink;
  onDone: () => void;
}) => {
  const set = useSetAssignment(shareLink.lessonId);
  const [draft, setDraft] = useState<Assignment>(shareLink.assignment ?? FIRST);
  const [due, setDue] = useState(dateTimeToField(draft.dueAt));
  const change = (part: Partial<Assignment>) => setDraft({ ...draft, ...part });
  const { text, next, by } = draft;
  const keep = (assignment: Assignment | null) =>
    set.mutate({ shareLinkId: shareLink.id, assignment }, { onSuccess: onDone });
  return (
    <View style={styles.form}>
      <Field
        label="What is to be done"
        multiline
        maxLength={MOST_ACTIVITY_SIGNS}
        value={text}
        onChangeText={(written) => change({ text: written })}
      />
      <View style={styles.line}>
        <DateTimeField label="By when" value={due} onChange={setDue} />
      </View>
      <View role="group" aria-label="They hand in" style={styles.form}>
        <Words strong>They hand in</Words>
        {SUBMISSION_BY.map((one) => (
          <CheckRow
            key={one}
            label={BY_WORDS[one]}
            checked={by.includes(one)}
            onChange={(isIn) =>
              change({ by: SUBMISSION_BY.filter((way) => (way === one ? isIn : by.includes(way))) })
            }
          />
        ))}
      </View>
      <Field
        label="What comes then"
        hint="Stands below it; left empty, nothing does."
        multiline
        maxLength={MOST_NEXT_SIGNS}
        value={next}
        onChangeText={(written) => change({ next: written })}
      />
      <Words size="small" tone="soft">
        {by.length === 0
          ? 'Nothing is handed in: it stands below the film, to be read.'
          : 'It stands below the film. What comes after the date is taken too, and said to be late.'}
      </Words>
      <View style={styles.line}>
        <Button
          small
          label="Put it below the film"
          disabled={text.trim() === '' || set.isPending}
          onPress={() => keep({ ...draft, dueAt: dateTimeFromField(due) })}
        />
        {shareLink.assignment ? (
          <Button
            small
            kind="grave"
            label="Take it away again"
            disabled={set.isPending}
            onPress={() => keep(null)}
          />
        ) : null}
      </View>
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  form: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'flex-end' },
});
