import { StyleSheet, View } from 'react-native';
import { canCaptureScreen, PRACTICE } from '../../capture/devices';
import { Button } from '../../ui/button';
import { SPACE } from '../../ui/theme';
import { SurfaceWords } from './surface-words';
import type { Chosen, Sources } from './use-sources';

interface Props {
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
}

/** What is in the picture, in words, and the way to show something else. */
export const SurfaceChange = ({ chosen, choose, sources }: Props) => {
  const showOther = () => {
    // Asked for first: a browser opens its own choice only straight after a press.
    void sources.chooseScreen().then((given) => {
      if (given) choose({ source: 'screen', screen: 'real' });
    });
  };
  return (
    <View style={styles.group}>
      <SurfaceWords chosen={chosen} sources={sources} />
      <View style={styles.buttons}>
        {canCaptureScreen() ? (
          <Button
            small
            label={sources.screen ? 'Choose something else to show' : 'Choose what to show'}
            onPress={showOther}
          />
        ) : null}
        {chosen.screen === PRACTICE ? null : (
          <Button
            small
            label="Show the practice screen"
            onPress={() => choose({ source: 'screen', screen: PRACTICE })}
          />
        )}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
