import { StyleSheet, View } from 'react-native';
import { calledName } from '@under-chalk/core/material/material';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { SendingLine } from '../lessons/sending-line';
import type { Coming, useBringMaterials } from './use-bring-materials';

interface Props {
  readonly coming: Coming;
  readonly onAgain: () => void;
  readonly onForget: () => void;
}

/** Files on their way in, or why they didn’t come. */
export const ComingRows = ({
  coming,
  again,
  forget,
}: Pick<ReturnType<typeof useBringMaterials>, 'coming' | 'again' | 'forget'>) =>
  coming.map((one) => (
    <ComingRow
      key={one.id}
      coming={one}
      onAgain={() => again(one)}
      onForget={() => forget(one.id)}
    />
  ));

const ComingRow = ({ coming, onAgain, onForget }: Props) => {
  const { name, sending, problem } = coming;
  if (problem) {
    return (
      <View style={styles.group}>
        <Words strong>{calledName(name)}</Words>
        <ProblemNotice code={problem} />
        <View style={styles.buttons}>
          <Button small label="Try again" onPress={onAgain} />
          <Button small label="Leave it" spoken={`Leave ${calledName(name)}`} onPress={onForget} />
        </View>
      </View>
    );
  }
  return (
    <View style={styles.group}>
      <SendingLine sending={sending} doing={`Bringing in ${calledName(name)}`} />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small, alignItems: 'stretch' },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
