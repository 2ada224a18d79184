import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { cropOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { DrawnPart } from './drawn-part';

/** Whether there is a surface of which only a part could be shown. */
export const canCrop = (take: Take): boolean => (trackOf(take, 'surface')?.widthPx ?? 0) > 0;

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  readonly onDone: () => void;
}

/** Which part of a take's surface is shown; the rest is kept, and can be had back. */
export const CropPanel = ({ lesson, take, onDone }: Props) => {
  const { put } = useEdits();
  const crop = cropOf(lesson, take.id);
  const [drawn, setDrawn] = useState<Crop>(crop);
  const first = useFocusWhen(true);
  const surface = trackOf(take, 'surface');
  if (!surface) return null;
  const show = (part: Crop | null) => {
    put({ do: 'crop', takeId: take.id, crop: part });
    onDone();
  };
  return (
    <View style={styles.group}>
      <DrawnPart
        {...{ lesson, take }}
        atUs={take.durationUs / 2}
        alt="The whole surface of this take"
        part={drawn}
        onPart={setDrawn}
      />
      <Words size="small" tone="soft">
        Drag over the part to show. Each edge can also be moved with the arrow keys.
      </Words>
      <View style={styles.buttons}>
        <Button ref={first} small kind="main" label="Show this part" onPress={() => show(drawn)} />
        {crop === UNCROPPED ? null : (
          <Button small label="Show all of it" onPress={() => show(null)} />
        )}
        <Button small label="Leave it as it was" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
