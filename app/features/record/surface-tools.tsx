import { StyleSheet, View } from 'react-native';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { SurfaceWords } from './surface-words';
import type { Chosen, Sources } from './use-sources';

interface Props {
  readonly chosen: Chosen;
  readonly sources: Sources;
  readonly crop: Crop;
  /** The part that is shown is being drawn. */
  readonly cropping: boolean;
  readonly onCropping: (cropping: boolean) => void;
  readonly onCrop: (crop: Crop) => void;
}

/** What is and isn't in the picture, and which part of it. */
export const SurfaceTools = ({ chosen, sources, crop, cropping, onCropping, onCrop }: Props) => {
  const cropped = crop !== UNCROPPED;
  return (
    <View style={styles.group}>
      {sources.screen ? <SurfaceWords chosen={chosen} sources={sources} cropped={cropped} /> : null}
      <View style={styles.buttons}>
        {chosen.screen === 'real' ? (
          <Button
            small
            label={sources.screen ? 'Choose something else to show' : 'Choose what to show'}
            onPress={() => void sources.chooseScreen()}
          />
        ) : null}
        {sources.screen ? (
          <Button
            small
            label={cropping ? 'This part' : cropped ? 'Change the part' : 'Show only a part'}
            expanded={cropping}
            onPress={() => onCropping(!cropping)}
          />
        ) : null}
        {cropped ? (
          <Button
            small
            label="Show all of it"
            onPress={() => {
              onCrop(UNCROPPED);
              onCropping(false);
            }}
          />
        ) : null}
      </View>
      {cropping ? (
        <Words size="small" tone="soft">
          Drag over the part to show. Each edge can also be moved with the arrow keys.
        </Words>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small, alignItems: 'stretch' },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
