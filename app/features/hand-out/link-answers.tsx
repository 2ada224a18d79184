import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { Answered } from '@under-chalk/core/contract/answers';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { answerInWords } from '@under-chalk/core/interaction/answer';
import { formatClock } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import { useAnswered } from '../../data/queries';
import { Button } from '../../ui/button';
import { counted } from '../../ui/counted';
import { Failed } from '../../ui/screen';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** So many answers are shown of a question at first. */
const FEW = 6;

/** What was answered to the questions of a film; nothing where it asks none. */
export const LinkAnswers = ({ shareLink }: { shareLink: ShareLink }) => {
  const answered = useAnswered(shareLink.id);
  if (answered.error) {
    return <Failed code={codeOf(answered.error)} onRetry={() => void answered.refetch()} />;
  }
  const all = answered.data ?? [];
  if (all.length === 0) return null;
  return (
    <View style={styles.group}>
      <View role="list" aria-label="What was answered" style={styles.group}>
        {all.map((one) => (
          <QuestionAnswers key={`${one.interactionId} ${one.text} ${one.filmUs}`} question={one} />
        ))}
      </View>
      {all.some(({ answers }) => answers.length > 0) ? (
        <View style={styles.line}>
          <Button
            small
            label="Save the answers as a table (CSV)"
            onPress={() => location.assign(pathTo('answersFile', { shareLinkId: shareLink.id }))}
          />
        </View>
      ) : null}
    </View>
  );
};

/** How many have chosen each answer, in its order; null where it is answered otherwise. */
const chosenOf = ({ asked, answers }: Answered) =>
  'options' in asked
    ? asked.options.map(({ text, right }, at) => ({
        text,
        right,
        many: answers.filter(({ answer }) =>
          answer.by === 'one'
            ? answer.option === at
            : answer.by === 'several' && answer.options.includes(at),
        ).length,
      }))
    : null;

const QuestionAnswers = ({ question }: { question: Answered }) => {
  const theme = useTheme();
  const { text, asked, filmUs, answers } = question;
  const [all, setAll] = useState(false);
  const chosen = chosenOf(question);
  const right = answers.filter((one) => one.right === true).length;
  const judged = answers.some((one) => one.right !== null);
  const shown = all ? answers : answers.slice(0, FEW);
  return (
    <View role="listitem" style={[styles.question, { borderColor: theme.line }]}>
      <Words strong>{text}</Words>
      <Words size="small" tone="soft">
        {[
          filmUs === null ? 'asked before' : `at ${formatClock(filmUs)}`,
          counted(answers.length, 'answer'),
          ...(judged ? [`${right} right`] : []),
        ].join(' · ')}
      </Words>
      {chosen?.map(({ text: option, right: isRight, many }, at) => (
        <View key={at} style={styles.option}>
          <View
            style={[
              styles.bar,
              {
                backgroundColor: isRight ? theme.action : theme.line,
                width: `${answers.length === 0 ? 0 : Math.round((100 * many) / answers.length)}%`,
              },
            ]}
          />
          <Words size="small">{`${option} · ${many}${isRight ? ' · right' : ''}`}</Words>
        </View>
      ))}
      {(chosen ? shown.filter(({ name }) => name !== null) : shown).map((one, at) => (
        <Words key={at} size="small" tone={one.right === false ? 'warn' : 'ink'}>
          {`${one.name ?? 'Somebody'}: ${answerInWords(asked, one.answer)}`}
        </Words>
      ))}
      {answers.length > FEW && !all ? (
        <View style={styles.line}>
          <Button
            small
            kind="bare"
            label={`Show all ${answers.length}`}
            onPress={() => setAll(true)}
          />
        </View>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  question: {
    gap: SPACE.hair,
    borderWidth: 1,
    borderRadius: RADIUS.small,
    padding: SPACE.small,
  },
  option: { gap: 2 },
  bar: { height: 6, borderRadius: 3 },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
