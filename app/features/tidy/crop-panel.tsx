import { useState } from 'react';
import { Image, StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { cropOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { CropBox } from '../../ui/crop-box';
import { Words } from '../../ui/text';
import { RADIUS, SPACE } from '../../ui/theme';

/** Which part of a take's surface is shown; the rest is kept, and can be had back. */
export const CropPanel = ({ lesson, take }: { lesson: Lesson; take: Take }) => {
  const { put } = useEdits();
  const [drawn, setDrawn] = useState<Crop | null>(null);
  const surface = trackOf(take, 'surface');
  if (!surface || surface.widthPx === 0) return null;
  const crop = cropOf(lesson, take.id);
  const cropped = crop !== UNCROPPED;
  if (!drawn) {
    return (
      <View style={styles.buttons}>
        <Button
          small
          label={cropped ? 'Change the part that is shown' : 'Show only a part'}
          onPress={() => setDrawn(crop)}
        />
        {cropped ? (
          <Button
            small
            label="Show all of it"
            onPress={() => put({ do: 'crop', takeId: take.id, crop: null })}
          />
        ) : null}
      </View>
    );
  }
  return (
    <View style={styles.group}>
      <View style={[styles.picture, { aspectRatio: surface.widthPx / surface.heightPx }]}>
        <Image
          source={{
            uri: `${pathTo('still', { takeId: take.id })}?size=large&atUs=${Math.round(take.durationUs / 2)}`,
          }}
          style={styles.fill}
          alt="The whole surface of this take"
        />
        <CropBox crop={drawn} onCrop={setDrawn} />
      </View>
      <Words size="small" tone="soft">
        Drag over the part to show. Each edge can also be moved with the arrow keys.
      </Words>
      <View style={styles.buttons}>
        <Button
          small
          kind="main"
          label="Show this part"
          onPress={() => {
            put({ do: 'crop', takeId: take.id, crop: drawn });
            setDrawn(null);
          }}
        />
        <Button small label="Leave it as it was" onPress={() => setDrawn(null)} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  picture: { width: '100%', borderRadius: RADIUS.small, overflow: 'hidden' },
  fill: { width: '100%', height: '100%' },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
