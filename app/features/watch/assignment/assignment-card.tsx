import { lazy, Suspense, useEffect, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { InView } from '../../../ui/in-view';
import { useText } from '../../../messages/use-text';
import { Heading, Words } from '../../../ui/text';
import { SPACE } from '../../../ui/theme';
import { hasSetting } from '../../../data/kept-setting';
import type { SubmissionProps } from './submission-form';
import { submissionKey } from './submission-key';

/** What couldn’t be fetched is fetched again, ms. */
const AGAIN_MS = 5_000;
/** Who waits for a film on a slow line doesn't wait for where it is handed in, and it is there before the line goes. */
const FETCH_MS = 8_000;

type Form = typeof import('./submission-form');
const fetchForm = (): Promise<Form> =>
  import('./submission-form').catch(async () => {
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    return fetchForm();
  });
const SubmissionForm = lazy(() =>
  fetchForm().then(({ SubmissionForm: form }) => ({ default: form })),
);

/** What is to be done when the film has been watched, and where it is handed in. */
export const AssignmentCard = (props: SubmissionProps) => {
  const { text, next, dueAt, by } = props.assignment;
  const handsIn = by.length > 0;
  const { t, when } = useText();
  // What was begun here may still have to be sent.
  const [isBegun] = useState(() => hasSetting(submissionKey(props.token)));
  useEffect(() => {
    if (!handsIn) return undefined;
    const timer = setTimeout(() => void fetchForm(), FETCH_MS);
    return () => clearTimeout(timer);
  }, [handsIn]);
  return (
    <View style={styles.card}>
      <Heading level={2}>{t('submission.title')}</Heading>
      <Words style={styles.written}>{text}</Words>
      {dueAt === null ? null : <Words strong>{t('submission.due', { when: when(dueAt) })}</Words>}
      {handsIn ? (
        <InView atOnce={isBegun}>
          <Suspense fallback={null}>
            <SubmissionForm {...props} />
          </Suspense>
        </InView>
      ) : null}
      {next ? <Words style={styles.written}>{t('submission.then', { text: next })}</Words> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  card: { gap: SPACE.small },
  written: { ...({ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' } as object) },
});
