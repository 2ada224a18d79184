import { useQuery } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import { strokesInWords } from '@under-chalk/core/ink/in-words';
import { trackOf } from '@under-chalk/core/lesson/take';
import { formatClock } from '@under-chalk/core/time/us';
import { takeNameOf } from '@under-chalk/core/lesson/take-names';
import { filmOf } from '@under-chalk/core/film/film';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';

/** The pages of the board as they are left, for students to keep, and what was written for other programs. */
export const BoardNotes = () => {
  const { lesson } = useThisLesson();
  const written = filmOf(lesson).spans.some(({ take }) => trackOf(take, 'ink'));
  const notes = useQuery({
    queryKey: KEYS.notes(lesson.id, lesson.revision),
    queryFn: () => call('notes', { params: { lessonId: lesson.id } }),
    enabled: written,
  });
  if (!written || notes.data?.length === 0) return null;
  const takes = [
    ...new Set(filmOf(lesson).spans.flatMap(({ take }) => (trackOf(take, 'ink') ? take.id : []))),
  ];
  const save = (path: string) => location.assign(path);
  const params = { lessonId: lesson.id };
  return (
    <View style={styles.group}>
      <Heading level={2}>Pages of the board</Heading>
      {notes.error ? <ProblemNotice code={codeOf(notes.error)} /> : null}
      {notes.data ? (
        <>
          <Words size="small" tone="soft">
            As they are left in the film. Whoever has the link can save them too.
          </Words>
          <View style={styles.line}>
            <Button
              small
              label="Save them as PDF"
              onPress={() => save(pathTo('notesPdf', params))}
            />
            {takes.map((takeId) => (
              <Button
                key={takeId}
                small
                label={
                  takes.length === 1
                    ? 'Save the ink'
                    : `Save the ink of ${takeNameOf(lesson, takeId)}`
                }
                spoken="Save the ink with its times, as InkML for other programs"
                onPress={() => save(pathTo('inkml', { ...params, takeId }))}
              />
            ))}
          </View>
          <View role="list" aria-label="Pages of the board" style={styles.group}>
            {notes.data.map(({ strokes, says, shownUs }, index) => {
              const number = index + 1;
              const times = shownUs.map(formatClock).join(', ');
              const on = says || strokesInWords(strokes);
              return (
                <Row key={number}>
                  <Words style={styles.grow}>{`Page ${number} · ${on} · at ${times}`}</Words>
                  <Button
                    small
                    label="Save as SVG"
                    spoken={`Save page ${number} as SVG`}
                    onPress={() => save(pathTo('notesSvg', { ...params, page: number }))}
                  />
                </Row>
              );
            })}
          </View>
        </>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  grow: { flexGrow: 1, flexShrink: 1 },
});
