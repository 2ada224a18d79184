import { useRef, useState } from 'react';
import { StyleSheet, View, type TextInput } from 'react-native';
import { inOrder, rankAt, type Topic } from '@under-chalk/core/plan/topic';
import { prompterParts, PROMPTER_SPEED, readingUs } from '@under-chalk/core/plan/prompter';
import { formatSpoken } from '@under-chalk/core/time/us';
import { newId } from '../../capture/new-id';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { focusOn, useFocusWhen } from '../../ui/focus';
import { Notice } from '../../ui/notice';
import { SortableList } from '../../ui/sortable-list';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { TopicRow } from './topic-row';

/** What to cover, in the order it will be covered. */
export const Outline = () => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const [removed, setRemoved] = useState<Topic | null>(null);
  const [backId, setBackId] = useState<string | null>(null);
  const topics = inOrder(lesson.decisions.topics);
  const move = (id: string, to: number) => {
    const others = topics.filter((topic) => topic.id !== id);
    put({ do: 'move-topic', topicId: id, rank: rankAt(others, to) });
  };
  const parts = prompterParts(topics);
  return (
    <View style={styles.group}>
      <Heading level={2}>Outline</Heading>
      <Words tone="soft">
        What to cover, one topic after another. Mark them done while you record, and they become the
        chapters.
      </Words>
      <SortableList
        label="Outline"
        noun="the topic"
        items={topics.map(({ id, text }) => ({ id, name: text }))}
        onMove={move}
      >
        {topics.map((topic, index) => (
          <TopicRow
            key={topic.id}
            topic={topic}
            number={index + 1}
            isBack={topic.id === backId}
            onRemove={() => {
              setRemoved(topic);
              setBackId(null);
              put({ do: 'remove-topic', topicId: topic.id });
            }}
          />
        ))}
      </SortableList>
      {removed ? (
        <RemovedTopic
          key={removed.id}
          topic={removed}
          onBack={() => {
            put({ do: 'set-topic', topic: removed });
            setBackId(removed.id);
            setRemoved(null);
          }}
        />
      ) : null}
      <NewTopic topics={topics} />
      {parts.length > 0 ? (
        <Words size="small" tone="soft">
          {`The words to read take about ${formatSpoken(readingUs(parts, PROMPTER_SPEED.usual))} at ${PROMPTER_SPEED.usual} words a minute.`}
        </Words>
      ) : null}
    </View>
  );
};

/** The way back for a topic that was removed. */
const RemovedTopic = ({ topic, onBack }: { topic: Topic; onBack: () => void }) => {
  const button = useFocusWhen(true);
  return (
    <Notice title={`“${topic.text || 'A topic'}” is removed, with its words.`}>
      <Button ref={button} small label="Restore" onPress={onBack} />
    </Notice>
  );
};

const NewTopic = ({ topics }: { topics: readonly Topic[] }) => {
  const { put } = useEdits();
  const [text, setText] = useState('');
  const field = useRef<TextInput>(null);
  const add = () => {
    if (text.trim() === '') return;
    const rank = rankAt(topics, topics.length);
    put({ do: 'set-topic', topic: { id: newId(), text: text.trim(), show: '', words: '', rank } });
    setText('');
    focusOn(field.current);
  };
  return (
    <View style={styles.add}>
      <View style={styles.grow}>
        <Field
          ref={field}
          label="Another topic"
          value={text}
          maxLength={200}
          onChangeText={setText}
          onSubmitEditing={add}
        />
      </View>
      <Button label="Add it" onPress={add} disabled={text.trim() === ''} style={styles.beside} />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  add: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'flex-start' },
  grow: { flexGrow: 1, flexShrink: 1, flexBasis: 160 },
  beside: { marginTop: 27 },
});
