import { StyleSheet, View } from 'react-native';
import { MOST_ANSWER_SIGNS, readNumber, type Answer } from '@under-chalk/core/interaction/answer';
import type { ShownAsked, ShownInteraction } from '@under-chalk/core/interaction/shown';
import { useText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/check-row';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import type { AnswerDraft, Answers, Given } from './use-answers';
import { stops } from './use-interactions';

interface Props {
  readonly interaction: ShownInteraction;
  readonly answers: Answers;
  readonly onLeave: () => void;
}

/** What stands at an interaction of the film, below its picture: read, answered, or passed. */
export const InteractionCard = ({ interaction, answers, onLeave }: Props) => {
  const theme = useTheme();
  const { t } = useText();
  const { does, text } = interaction;
  const given = answers.given[interaction.id];
  const stopped = stops(interaction);
  // A film that has stopped says why; one that goes on takes the focus from nobody.
  const card = useFocusWhen(stopped);
  const canGoOn = does.is !== 'question' || !does.waits || given !== undefined;
  return (
    <View
      ref={card}
      role="group"
      aria-label={text}
      {...({ tabIndex: -1 } as object)}
      style={[styles.card, { borderColor: theme.action, backgroundColor: theme.card }]}
    >
      <Words strong>{text}</Words>
      {does.is === 'link' ? (
        <Words
          tone="action"
          style={styles.link}
          {...({
            href: does.address,
            hrefAttrs: { rel: 'noopener noreferrer nofollow', target: '_blank' },
          } as object)}
        >
          {does.address}
        </Words>
      ) : null}
      {does.is === 'question' ? (
        <Question key={interaction.id} id={interaction.id} asked={does.asked} answers={answers} />
      ) : null}
      <View style={styles.buttons}>
        <Button
          small
          kind={given || does.is === 'pause' ? 'main' : 'plain'}
          label={
            !stopped
              ? t('watch.close')
              : does.is === 'question' && !given
                ? t('watch.skip')
                : t('player.continue')
          }
          disabled={!canGoOn}
          onPress={onLeave}
        />
      </View>
    </View>
  );
};

/** What is answered, and what is said to it. */
const Question = ({ id, asked, answers }: { id: string; asked: ShownAsked; answers: Answers }) => {
  const { t } = useText();
  const draft = answers.draftOf(id);
  const given = answers.given[id];
  const made = answerIn(asked, draft);
  const isSame = given !== undefined && JSON.stringify(given.answer) === JSON.stringify(made);
  return (
    <>
      <AnswerField asked={asked} draft={draft} onChange={(now) => answers.write(id, now)} />
      <View style={styles.buttons}>
        <Button
          small
          kind={given ? 'plain' : 'main'}
          label={given ? t('watch.changeAnswer') : t('watch.answer')}
          disabled={made === null || isSame}
          onPress={() => {
            if (made) answers.answer(id, made);
          }}
        />
      </View>
      <View role="status">{given ? <GivenWords given={given} /> : null}</View>
    </>
  );
};

const AnswerField = ({
  asked,
  draft,
  onChange,
}: {
  asked: ShownAsked;
  draft: AnswerDraft;
  onChange: (draft: AnswerDraft) => void;
}) => {
  const { t } = useText();
  switch (asked.by) {
    case 'one':
      return (
        <Choices
          label={t('watch.yourAnswer')}
          hideLabel
          stacked
          choices={asked.options.map((text, at) => ({ value: String(at), label: text }))}
          value={draft.options[0] === undefined ? null : String(draft.options[0])}
          onChoose={(value) => onChange({ ...draft, options: [Number(value)] })}
        />
      );
    case 'several':
      return (
        <>
          {asked.options.map((text, at) => (
            <CheckRow
              key={at}
              label={text}
              checked={draft.options.includes(at)}
              onChange={(isIn) =>
                onChange({
                  ...draft,
                  options: isIn
                    ? [...draft.options, at].sort((a, b) => a - b)
                    : draft.options.filter((one) => one !== at),
                })
              }
            />
          ))}
        </>
      );
    case 'words':
      return (
        <Field
          label={t('watch.yourAnswer')}
          hideLabel
          multiline
          maxLength={MOST_ANSWER_SIGNS}
          value={draft.text}
          onChangeText={(text) => onChange({ ...draft, text })}
        />
      );
    case 'number':
      return (
        <Field
          label={t('watch.yourAnswer')}
          {...(asked.unit ? { unit: asked.unit } : {})}
          inputMode="decimal"
          maxLength={24}
          value={draft.text}
          onChangeText={(text) => onChange({ ...draft, text })}
        />
      );
  }
};

/** How it stands with an answer, in words. */
const GivenWords = ({ given: { state, right, says } }: { given: Given }) => {
  const { t } = useText();
  if (state === 'waits') {
    return (
      <Words size="small" tone="soft">
        {t('watch.answerWaits')}
      </Words>
    );
  }
  if (state === 'refused') {
    return (
      <Words size="small" tone="warn">
        {t('watch.answerRefused')}
      </Words>
    );
  }
  const verdict = right === null ? 'answered' : right ? 'correct' : 'incorrect';
  const tone = right === false ? 'warn' : 'good';
  return (
    <>
      <Words tone={tone} strong>
        {t(`watch.${verdict}`)}
      </Words>
      {says ? <Words tone={tone}>{says}</Words> : null}
    </>
  );
};

/** What is about to be answered; null: nothing that could be. */
const answerIn = (asked: ShownAsked, { text, options }: AnswerDraft): Answer | null => {
  switch (asked.by) {
    case 'one':
      return options[0] === undefined ? null : { by: 'one', option: options[0] };
    case 'several':
      return { by: 'several', options };
    case 'words':
      return text.trim() === '' ? null : { by: 'words', text: text.trim() };
    case 'number': {
      const value = readNumber(text);
      return value === null ? null : { by: 'number', value };
    }
  }
};

const styles = StyleSheet.create({
  card: {
    gap: SPACE.small,
    marginTop: SPACE.small,
    padding: SPACE.medium,
    borderWidth: 2,
    borderRadius: RADIUS.small,
  },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  link: {
    textDecorationLine: 'underline',
    lineHeight: 44,
    ...({ overflowWrap: 'anywhere' } as object),
  },
});
