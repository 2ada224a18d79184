import { StyleSheet, View } from 'react-native';
import { MOST_ASKED_SIGNS, MOST_TOLD_SIGNS } from '@under-chalk/core/interaction/interaction';
import { offeredOptions, type InteractionDraft } from '@under-chalk/core/interaction/draft';
import { CheckRow } from '../../ui/check-row';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { SPACE } from '../../ui/theme';

const KINDS: { value: InteractionDraft['is']; label: string }[] = [
  { value: 'question', label: 'a question' },
  { value: 'note', label: 'a note' },
  { value: 'link', label: 'a link' },
  { value: 'pause', label: 'a pause to do something' },
];
const TEXTS: Readonly<Record<InteractionDraft['is'], { label: string; hint: string }>> = {
  question: { label: 'Question', hint: 'The film stops while it is answered.' },
  note: { label: 'Note', hint: 'It is shown beside the film, which goes on.' },
  link: { label: 'What it leads to', hint: 'It is shown beside the film, which goes on.' },
  pause: { label: 'What to do', hint: 'The film stops until somebody goes on.' },
};
const ANSWERS: { value: InteractionDraft['by']; label: string }[] = [
  { value: 'one', label: 'one choice' },
  { value: 'several', label: 'several' },
  { value: 'words', label: 'own words' },
  { value: 'number', label: 'a number' },
];

interface Props {
  readonly draft: InteractionDraft;
  readonly onChange: (draft: InteractionDraft) => void;
}

/** What is asked or said at a time of the film, as it is being written. */
export const InteractionForm = ({ draft, onChange }: Props) => {
  const set = (part: Partial<InteractionDraft>) => onChange({ ...draft, ...part });
  const text = TEXTS[draft.is];
  return (
    <View style={styles.group}>
      <Choices
        label="What happens there"
        choices={KINDS}
        value={draft.is}
        onChoose={(is) => set({ is })}
      />
      <Field
        label={text.label}
        hint={text.hint}
        multiline
        maxLength={MOST_ASKED_SIGNS}
        value={draft.text}
        onChangeText={(typed) => set({ text: typed })}
      />
      {draft.is === 'link' ? (
        <Field
          label="Address"
          inputMode="url"
          autoCapitalize="none"
          maxLength={500}
          value={draft.address}
          onChangeText={(address) => set({ address })}
        />
      ) : null}
      {draft.is === 'question' ? <QuestionForm draft={draft} set={set} /> : null}
    </View>
  );
};

/** How a question is answered, and what is said to it. */
const QuestionForm = ({
  draft,
  set,
}: {
  draft: InteractionDraft;
  set: (part: Partial<InteractionDraft>) => void;
}) => {
  const options = offeredOptions(draft.options);
  const change = (at: number, part: Partial<(typeof options)[number]>) =>
    set({ options: options.map((one, index) => (index === at ? { ...one, ...part } : one)) });
  const hasChoices = draft.by === 'one' || draft.by === 'several';
  return (
    <>
      <Choices
        label="Answered by"
        choices={ANSWERS}
        value={draft.by}
        onChoose={(by) => set({ by })}
      />
      {hasChoices
        ? options.map((option, at) => (
            <View key={at} style={styles.option}>
              <View style={styles.text}>
                <Field
                  label={`Answer ${at + 1}`}
                  hideLabel
                  placeholder={`Answer ${at + 1}`}
                  maxLength={200}
                  value={option.text}
                  onChangeText={(typed) => change(at, { text: typed })}
                />
              </View>
              <CheckRow
                label={`Answer ${at + 1} is right`}
                checked={option.right}
                onChange={(right) => change(at, { right })}
              />
            </View>
          ))
        : null}
      {draft.by === 'number' ? (
        <View style={styles.numbers}>
          <View style={styles.number}>
            <Field
              label="Right is"
              hint="Nothing: any will do."
              inputMode="decimal"
              value={draft.number}
              onChangeText={(number) => set({ number })}
            />
          </View>
          <View style={styles.number}>
            <Field
              label="Give or take"
              inputMode="decimal"
              value={draft.within}
              onChangeText={(within) => set({ within })}
            />
          </View>
          <View style={styles.number}>
            <Field
              label="Unit"
              maxLength={20}
              value={draft.unit}
              onChangeText={(unit) => set({ unit })}
            />
          </View>
        </View>
      ) : null}
      <CheckRow
        label="The film waits for an answer"
        hint="else it can be passed"
        checked={draft.waits}
        onChange={(waits) => set({ waits })}
      />
      <CheckRow
        label={draft.by === 'words' ? 'Say something to it' : 'Say whether it is right'}
        checked={draft.says}
        onChange={(says) => set({ says })}
      />
      {draft.says ? (
        <>
          <Field
            label={draft.by === 'words' ? 'To what is answered' : 'To a right answer'}
            hint="If you like; a word of yours."
            maxLength={MOST_TOLD_SIGNS}
            value={draft.toRight}
            onChangeText={(toRight) => set({ toRight })}
          />
          {draft.by === 'words' ? null : (
            <Field
              label="To a wrong one"
              maxLength={MOST_TOLD_SIGNS}
              value={draft.toWrong}
              onChangeText={(toWrong) => set({ toWrong })}
            />
          )}
        </>
      ) : null}
    </>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  option: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
  text: { flexGrow: 1, flexBasis: 180 },
  numbers: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  number: { flexGrow: 1, flexBasis: 100 },
});
