import { StyleSheet, View } from 'react-native';
import { Button } from '../../ui/button';
import { useLayout } from '../../ui/layout';
import { SPACE } from '../../ui/theme';
import { useTidy, useTidying } from './tidying';
import { useCut } from './use-cut';

/** What can be done with what is chosen, at the thumb. */
export const ChosenBar = () => {
  const chosen = useTidy(({ open }) => open);
  const tidying = useTidying();
  const cut = useCut();
  const { beside } = useLayout();
  if (!chosen) return null;
  const seconds = ((chosen.endUs - chosen.startUs) / 1e6).toFixed(1);
  return (
    <View
      role="group"
      aria-label="What is chosen"
      style={[styles.bar, beside ? styles.inLine : styles.across]}
    >
      <Button
        small
        grow
        label="Hear the join"
        spoken="Hear the join: what it would be without this"
        onPress={() => tidying.hearJoin(chosen)}
      />
      <Button
        small
        grow
        label="Move"
        spoken="Move it elsewhere in the film"
        onPress={() => tidying.carry(chosen)}
      />
      <Button
        small
        grow
        kind="grave"
        label={`Cut ${seconds} s`}
        spoken={`Cut what is chosen, ${seconds} seconds`}
        onPress={() => cut(chosen)}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  bar: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  inLine: { flexGrow: 1, minWidth: 380, maxWidth: 460 },
  across: { width: '100%' },
});
