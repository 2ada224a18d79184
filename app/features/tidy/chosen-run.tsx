import { StyleSheet, View } from 'react-native';
import type { ColumnRow } from '@under-chalk/core/film/column';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { withBeat, type ChosenStretch } from './open-stretch';
import { useTidying } from './tidying';

interface Props {
  readonly rows: readonly ColumnRow[];
  readonly chosen: ChosenStretch;
}

const isBeat = ({ kind }: ColumnRow) => kind === 'beat';

/** Which beats are chosen, and one more above or below. */
export const ChosenRun = ({ rows, chosen }: Props) => {
  const tidying = useTidying();
  const { startUs, endUs, opened } = chosen;
  const beats = rows.filter(isBeat);
  const count = beats.filter((row) => row.startUs >= startUs && row.endUs <= endUs).length;
  const above = beats.findLast((row) => row.endUs <= startUs);
  const below = beats.find((row) => row.startUs >= endUs);
  const seconds = ((endUs - startUs) / 1e6).toFixed(1);
  return (
    <View style={styles.line}>
      <Words size="small" role="status" style={styles.words}>
        {count > 1 ? `${count} beats chosen, ${seconds} s` : `One beat chosen, ${seconds} s`}
      </Words>
      <Button
        small
        label="One more above"
        disabled={!above}
        onPress={() => above && tidying.choose(withBeat(chosen, above))}
      />
      <Button
        small
        label="One more below"
        disabled={!below}
        onPress={() => below && tidying.choose(withBeat(chosen, below))}
      />
      {count > 1 ? (
        <Button
          small
          label="Only this one"
          onPress={() => tidying.choose({ ...chosen, ...opened })}
        />
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  line: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
  words: { flexGrow: 1 },
});
