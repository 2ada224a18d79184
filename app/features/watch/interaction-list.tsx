import { StyleSheet, View } from 'react-native';
import type { ShownInteraction } from '@under-chalk/core/interaction/shown';
import { formatClock } from '@under-chalk/core/time/us';
import { useText, type MessageId } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { Answers, Given } from './use-answers';

const standsSo = (given: Given | undefined): MessageId =>
  given === undefined
    ? 'watch.notAnswered'
    : given.right === null
      ? 'watch.answered'
      : given.right
        ? 'watch.correct'
        : 'watch.incorrect';

/** All that is asked and said in the film, to be gone to: also for who would rather answer at the end. */
export const InteractionList = ({
  interactions,
  answers,
  onOpen,
}: {
  interactions: readonly ShownInteraction[];
  answers: Answers;
  onOpen: (interaction: ShownInteraction) => void;
}) => {
  const { t } = useText();
  return (
    <View style={styles.group}>
      <Heading level={2}>{t('watch.questions')}</Heading>
      <View role="list" aria-label={t('watch.questions')}>
        {interactions.map((interaction) => (
          <View key={interaction.id} role="listitem" style={styles.line}>
            <Button
              small
              kind="bare"
              label={formatClock(interaction.filmUs)}
              spoken={t('watch.goTo', { place: interaction.text })}
              onPress={() => onOpen(interaction)}
            />
            <View style={styles.words}>
              <Words>{interaction.text}</Words>
              {interaction.does.is === 'question' ? (
                <Words size="small" tone="soft">
                  {t(standsSo(answers.given[interaction.id]))}
                </Words>
              ) : null}
            </View>
          </View>
        ))}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small, maxWidth: 720 },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  words: { flexShrink: 1 },
});
