import { StyleSheet, View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Take } from '@under-chalk/core/lesson/take';
import { middleOf } from '@under-chalk/core/time/ranges';
import { at } from '@under-chalk/core/time/timeline';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { OpenStretch } from './open-stretch';

interface Props {
  readonly film: Film;
  readonly take: Take;
  readonly stretch: OpenStretch;
}

/** Has nothing heard of what is chosen, while its picture goes on. */
export const SilencePanel = ({ film, take, stretch }: Props) => {
  const { put } = useEdits();
  if (ofMedium(take.tracks, 'sound').length === 0) return null;
  const { takeId, startUs, endUs } = stretch;
  const silent = at(film.lesson.decisions.silenced, takeId, middleOf(stretch)) !== undefined;
  return (
    <View style={styles.buttons}>
      <Button
        small
        label={silent ? 'Let it be heard' : 'Silence it'}
        spoken={silent ? 'Let it be heard again' : 'Silence it: its picture goes on'}
        onPress={() => put({ do: 'silence', takeId, startUs, endUs, silent: !silent })}
      />
      {silent ? (
        <Words size="small" tone="soft" role="status">
          Nothing is heard here.
        </Words>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
