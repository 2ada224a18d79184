import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { inOrder } from '@under-chalk/core/plan/topic';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { roughCues } from '@under-chalk/core/words/roughly';
import { newId } from '../../capture/new-id';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { Captions } from './use-captions';

interface Props {
  readonly captions: Captions;
  readonly speech: readonly TimeRange[];
  /** Text to begin with; else the words of the outline. */
  readonly text?: string;
  readonly onDone: (put: boolean) => void;
}

/** Most signs that are taken: some ten hours of talk. */
const MOST = 400_000;

/** A text that is said in the film, as captions: spread over where somebody speaks. */
export const PastePanel = ({ captions, speech, text: given, onDone }: Props) => {
  const { film, language, cues } = captions;
  const planned = inOrder(film.lesson.decisions.topics)
    .map(({ words }) => words.trim())
    .filter(Boolean)
    .join('\n\n');
  const [text, setText] = useState(given ?? (cues.length === 0 ? planned : ''));
  const put = () => {
    const made = roughCues(film, text, language, speech, newId);
    if (made.length > 0)
      captions.writeLaidOut(
        made,
        cues.map(({ id }) => id),
      );
    onDone(made.length > 0);
  };
  return (
    <View style={styles.panel}>
      <Heading level={2}>Paste the words</Heading>
      <Field
        label="All that is said in the film"
        hint={
          planned !== '' && text === planned
            ? 'These are the words of your outline. Change what you said otherwise.'
            : 'A line break begins a new caption; so does a full stop.'
        }
        multiline
        maxLength={MOST}
        value={text}
        onChangeText={setText}
        style={styles.field}
      />
      {cues.length > 0 ? (
        <Words size="small" tone="warn">
          {`They take the place of the ${cues.length} captions that are there. Undo brings those back.`}
        </Words>
      ) : null}
      <View style={styles.buttons}>
        <Button small label="Never mind" onPress={() => onDone(false)} />
        <Button
          small
          kind="main"
          label="Make captions of it"
          disabled={text.trim() === ''}
          onPress={put}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  panel: { gap: SPACE.small },
  field: { minHeight: 180 },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
