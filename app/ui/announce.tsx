import { StyleSheet, View } from 'react-native';
import { Words } from './text';

/**
 * Said by a screen reader when its words change, and not seen: for what stands elsewhere in figures that change
 * all the time. `urgent` interrupts what is being read.
 */
export const Announce = ({ words, urgent = false }: { words: string; urgent?: boolean }) => (
  <View aria-live={urgent ? 'assertive' : 'polite'} style={styles.unseen}>
    <Words>{words}</Words>
  </View>
);

const styles = StyleSheet.create({
  unseen: {
    position: 'absolute',
    width: 1,
    height: 1,
    overflow: 'hidden',
    ...({ clipPath: 'inset(50%)', whiteSpace: 'nowrap' } as object),
  },
});
