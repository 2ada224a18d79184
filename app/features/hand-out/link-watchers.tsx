import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { codeOf } from '../../data/client';
import { useLetWatch } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { WatchersChoice } from './watchers-choice';

/** Who may watch what is under a link; each press counts at once. */
export const LinkWatchers = ({ handOut, onDone }: { handOut: HandOut; onDone: () => void }) => {
  const { lesson } = useThisLesson();
  const letWatch = useLetWatch(handOut.lessonId);
  return (
    <View style={styles.group}>
      <WatchersChoice
        grants={handOut.watchers.map(({ whom, fromAt, untilAt }) => ({ whom, fromAt, untilAt }))}
        named={handOut.watchers}
        className={lesson.decisions.plan.className}
        disabled={letWatch.isPending}
        onChange={(grants) => letWatch.mutate({ handOutId: handOut.id, grants })}
      />
      {letWatch.error ? <ProblemNotice code={codeOf(letWatch.error)} /> : null}
      <View style={styles.line}>
        <Button small label="That is all" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row' },
});
