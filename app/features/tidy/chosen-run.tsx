import { StyleSheet, View } from 'react-native';
import type { ColumnRow } from '@under-chalk/core/film/column';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { reaching, secondsOf, type ChosenStretch } from './open-stretch';
import { useTidying } from './tidying';

interface Props {
  readonly rows: readonly ColumnRow[];
  readonly chosen: ChosenStretch;
}

const isPhrase = ({ kind }: ColumnRow) => kind === 'phrase';

/** Which phrases are chosen, and one more above or below. */
export const ChosenRun = ({ rows, chosen }: Props) => {
  const tidying = useTidying();
  const { startUs, endUs, opened } = chosen;
  const phrases = rows.filter(isPhrase);
  const count = phrases.filter((row) => row.startUs >= startUs && row.endUs <= endUs).length;
  const above = phrases.findLast((row) => row.endUs <= startUs);
  const below = phrases.find((row) => row.startUs >= endUs);
  const seconds = secondsOf(chosen);
  return (
    <View style={styles.group}>
      <Words size="small" role="status">
        {count === 0
          ? `A part of a phrase chosen, ${seconds} s`
          : count === 1
            ? `One phrase chosen, ${seconds} s`
            : `${count} phrases chosen, ${seconds} s`}
      </Words>
      <View style={styles.line}>
        <Button
          small
          grow
          skipped
          label="Above too"
          spoken="Choose the phrase above too; at the phrase, Shift and the up arrow do the same"
          disabled={!above}
          onPress={() => above && tidying.choose(reaching(chosen, chosen, above))}
        />
        <Button
          small
          grow
          skipped
          label="Below too"
          spoken="Choose the phrase below too; at the phrase, Shift and the down arrow do the same"
          disabled={!below}
          onPress={() => below && tidying.choose(reaching(chosen, chosen, below))}
        />
        {startUs !== opened.startUs || endUs !== opened.endUs ? (
          <Button
            small
            grow
            label="Only this"
            spoken="Choose only this phrase"
            onPress={() => tidying.choose({ ...chosen, ...opened })}
          />
        ) : null}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  line: { flexDirection: 'row', gap: SPACE.small },
});
