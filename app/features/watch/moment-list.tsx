import { StyleSheet, View } from 'react-native';
import type { ShownMoment } from '@under-chalk/core/moment/shown';
import { formatClock } from '@under-chalk/core/time/us';
import { Button } from '../../ui/button';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { Answers, Given } from './use-answers';

const standsSo = (given: Given | undefined): string =>
  given === undefined
    ? 'not answered yet'
    : given.right === null
      ? 'answered'
      : given.right
        ? 'right'
        : 'not right';

/** All that is asked and said in the film, to be gone to: also for who would rather answer at the end. */
export const MomentList = ({
  moments,
  answers,
  onOpen,
}: {
  moments: readonly ShownMoment[];
  answers: Answers;
  onOpen: (moment: ShownMoment) => void;
}) => (
  <View style={styles.group}>
    <Heading level={2}>In this film</Heading>
    <View role="list" aria-label="In this film">
      {moments.map((moment) => (
        <View key={moment.id} role="listitem" style={styles.line}>
          <Button
            small
            kind="bare"
            label={formatClock(moment.filmUs)}
            spoken={`Go to “${moment.text}”`}
            onPress={() => onOpen(moment)}
          />
          <View style={styles.words}>
            <Words>{moment.text}</Words>
            {moment.does.is === 'question' ? (
              <Words size="small" tone="soft">
                {standsSo(answers.given[moment.id])}
              </Words>
            ) : null}
          </View>
        </View>
      ))}
    </View>
  </View>
);

const styles = StyleSheet.create({
  group: { gap: SPACE.small, maxWidth: 720 },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  words: { flexShrink: 1 },
});
