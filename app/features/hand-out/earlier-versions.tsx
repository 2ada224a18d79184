import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { codeOf } from '../../data/client';
import { useEndEarlier } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { dateTimeInWords } from '../../ui/date-time';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** The film that was replaced can be watched to its end by those who have it open, unless its teacher stops it. */
export const EarlierVersions = ({ shareLink }: { shareLink: ShareLink }) => {
  const end = useEndEarlier(shareLink.lessonId);
  const until = shareLink.given
    .flatMap(({ goesOnUntil }) => goesOnUntil ?? [])
    .sort()
    .at(-1);
  // The button is gone then.
  const stopped = useFocusWhen(end.isSuccess && until === undefined);
  if (until === undefined)
    return end.isSuccess ? (
      <View ref={stopped} {...({ tabIndex: -1 } as object)}>
        <Words size="small" tone="good" role="status">
          The earlier film is stopped.
        </Words>
      </View>
    ) : null;
  return (
    <View style={styles.earlier}>
      <Words size="small">
        {`Students who have the earlier film open can watch it until ${dateTimeInWords(until)}.`}
      </Words>
      <View style={styles.action}>
        <Button
          small
          label="Stop it now"
          spoken="Stop the earlier film now"
          disabled={end.isPending}
          onPress={() => end.mutate(shareLink.id)}
        />
      </View>
      {end.error ? <ProblemNotice code={codeOf(end.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  earlier: { gap: SPACE.hair },
  action: { flexDirection: 'row' },
});
