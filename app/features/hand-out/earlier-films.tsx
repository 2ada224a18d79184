import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { codeOf } from '../../data/client';
import { useEndEarlier } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { momentInWords } from '../../ui/moment';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** The film that was replaced can be watched to its end by those who have it open, unless its teacher stops it. */
export const EarlierFilms = ({ handOut }: { handOut: HandOut }) => {
  const end = useEndEarlier(handOut.lessonId);
  const until = handOut.given
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
        {`Students who have the earlier film open can watch it until ${momentInWords(until)}.`}
      </Words>
      <View style={styles.action}>
        <Button
          small
          label="Stop it now"
          spoken="Stop the earlier film now"
          disabled={end.isPending}
          onPress={() => end.mutate(handOut.id)}
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
