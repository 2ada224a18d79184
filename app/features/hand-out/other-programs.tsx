import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import { Button } from '../../ui/button';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';

/** The lesson for other programs: its cut list, and all of it. */
export const OtherPrograms = () => {
  const { lesson } = useThisLesson();
  if (lesson.takes.length === 0) return null;
  const params = { lessonId: lesson.id };
  return (
    <View style={styles.group}>
      <Heading level={2}>For other programs</Heading>
      <Words size="small" tone="soft">
        All of it is one archive: what was recorded, written and brought in, what was decided, and
        the cut list beside them as OpenTimelineIO. It is for you, and not for students.
      </Words>
      <View style={styles.line}>
        <Button
          small
          label="Save all of it"
          spoken="Save all of the lesson as one archive"
          onPress={() => location.assign(pathTo('bundle', params))}
        />
        <Button
          small
          label="Save the cut list"
          spoken="Save the cut list as OpenTimelineIO"
          onPress={() => location.assign(pathTo('timeline', params))}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
