import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View, type TextInput } from 'react-native';
import { countWords } from '@under-chalk/core/plan/prompter';
import { topicSchema, type Topic } from '@under-chalk/core/plan/topic';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { useFocusWhen } from '../../ui/focus';
import { SortableRow } from '../../ui/sortable-list';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { PageToShow } from '../materials/page-to-show';
import { useSaveSoon } from './use-save-soon';

interface Props {
  readonly topic: Topic;
  readonly number: number;
  readonly onRemove: () => void;
  /** It has just been brought back: the focus goes to it. */
  readonly isBack: boolean;
}

/** As the server keeps it: without spaces at the ends, and what can't be seen. */
const asKept = (topic: Topic): Topic => topicSchema.safeParse(topic).data ?? topic;

const same = (a: Topic, b: Topic) => a.text === b.text && a.show === b.show && a.words === b.words;

/** One topic to cover: what it is, what to show for it, and the words to say. */
export const TopicRow = ({ topic, number, onRemove, isBack }: Props) => {
  const field = useFocusWhen<TextInput>(isBack);
  const theme = useTheme();
  const { put } = useEdits();
  const [typed, setTyped] = useState(topic);
  const [open, setOpen] = useState(false);
  // What was sent last: an answer that brings it back is no news.
  const sent = useRef(topic);
  const saving = useSaveSoon(() => {
    const kept = asKept(typed);
    if (same(kept, sent.current)) return;
    sent.current = kept;
    put({ do: 'set-topic', topic: { ...kept, rank: topic.rank } });
  });
  // What is being typed is never replaced, not even by itself as it comes back (trimmed) from the server.
  const [typing, setTyping] = useState(false);
  useEffect(() => {
    if (typing || saving.pending() || same(topic, sent.current)) return;
    sent.current = topic;
    setTyped(topic);
  }, [topic, saving, typing]);
  const line = {
    onFocus: () => setTyping(true),
    onBlur: () => {
      saving.now();
      setTyping(false);
    },
  };
  const change = (part: Partial<Topic>) => {
    setTyped({ ...typed, ...part });
    saving.soon();
  };
  const name = typed.text || `Topic ${number}`;
  const words = countWords(typed.words);
  return (
    <SortableRow id={topic.id} name={name}>
      {(grip) => (
        <View style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}>
          <View style={styles.line}>
            {grip}
            <View style={styles.grow}>
              <Field
                ref={field}
                label={`Topic ${number}`}
                value={typed.text}
                maxLength={200}
                onChangeText={(text) => change({ text })}
                {...line}
              />
            </View>
          </View>
          <View style={styles.actions}>
            <Button
              small
              label={open ? 'Fold in' : 'Show and say'}
              spoken={`${open ? 'Fold in' : 'What to show and say for'} ${name}`}
              expanded={open}
              onPress={() => setOpen(!open)}
            />
            <Button small label="Remove" spoken={`Remove ${name}`} onPress={onRemove} />
            <Words size="small" tone="soft" style={styles.facts}>
              {[typed.show ? `shows ${typed.show}` : '', words > 0 ? `${words} words to read` : '']
                .filter(Boolean)
                .join(' · ')}
            </Words>
          </View>
          {open ? (
            <>
              <Field
                label={`To show for topic ${number}`}
                hint="An address, a page of your materials, or what it is called."
                value={typed.show}
                maxLength={600}
                onChangeText={(show) => change({ show })}
                {...line}
              />
              <PageToShow
                of={`topic ${number}`}
                show={typed.show}
                onShow={(show) => change({ show })}
              />
              <Field
                label={`Words to say for topic ${number}`}
                hint="The prompter shows them while you record."
                value={typed.words}
                maxLength={20_000}
                multiline
                onChangeText={(said) => change({ words: said })}
                {...line}
              />
            </>
          ) : null}
        </View>
      )}
    </SortableRow>
  );
};

const styles = StyleSheet.create({
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.small, gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'center' },
  grow: { flexGrow: 1, flexShrink: 1 },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
  facts: { flexShrink: 1 },
});
