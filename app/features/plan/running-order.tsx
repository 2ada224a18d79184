import { useRef, useState } from 'react';
import { StyleSheet, View, type TextInput } from 'react-native';
import { inOrder, rankAt, type Point } from '@under-chalk/core/plan/point';
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
import { PointRow } from './point-row';

/** What to cover, in the order it will be covered. */
export const RunningOrder = () => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const [removed, setRemoved] = useState<Point | null>(null);
  const [backId, setBackId] = useState<string | null>(null);
  const points = inOrder(lesson.decisions.points);
  const move = (id: string, to: number) => {
    const others = points.filter((point) => point.id !== id);
    put({ do: 'move-point', pointId: id, rank: rankAt(others, to) });
  };
  const parts = prompterParts(points);
  return (
    <View style={styles.group}>
      <Heading level={2}>Running order</Heading>
      <Words tone="soft">
        What to cover, one point after another. Tick them off while you record, and they become the
        chapters.
      </Words>
      <SortableList
        label="Running order"
        noun="the point"
        items={points.map(({ id, text }) => ({ id, name: text }))}
        onMove={move}
      >
        {points.map((point, index) => (
          <PointRow
            key={point.id}
            point={point}
            number={index + 1}
            isBack={point.id === backId}
            onRemove={() => {
              setRemoved(point);
              setBackId(null);
              put({ do: 'remove-point', pointId: point.id });
            }}
          />
        ))}
      </SortableList>
      {removed ? (
        <RemovedPoint
          key={removed.id}
          point={removed}
          onBack={() => {
            put({ do: 'set-point', point: removed });
            setBackId(removed.id);
            setRemoved(null);
          }}
        />
      ) : null}
      <NewPoint points={points} />
      {parts.length > 0 ? (
        <Words size="small" tone="soft">
          {`The words to read take about ${formatSpoken(readingUs(parts, PROMPTER_SPEED.usual))} at ${PROMPTER_SPEED.usual} words a minute.`}
        </Words>
      ) : null}
    </View>
  );
};

/** The way back for a point that was removed. */
const RemovedPoint = ({ point, onBack }: { point: Point; onBack: () => void }) => {
  const button = useFocusWhen(true);
  return (
    <Notice title={`“${point.text || 'A point'}” is removed, with its words.`}>
      <Button ref={button} small label="Bring it back" onPress={onBack} />
    </Notice>
  );
};

const NewPoint = ({ points }: { points: readonly Point[] }) => {
  const { put } = useEdits();
  const [text, setText] = useState('');
  const field = useRef<TextInput>(null);
  const add = () => {
    if (text.trim() === '') return;
    const rank = rankAt(points, points.length);
    put({ do: 'set-point', point: { id: newId(), text: text.trim(), show: '', words: '', rank } });
    setText('');
    focusOn(field.current);
  };
  return (
    <View style={styles.add}>
      <View style={styles.grow}>
        <Field
          ref={field}
          label="Another point"
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
