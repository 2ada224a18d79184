import { StyleSheet, View } from 'react-native';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { useCancelFilm, useRetryFilm } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** How it stands with a film, and what can be done about it. */
export const FilmState = ({ film }: { film: FilmRow }) => {
  const cancel = useCancelFilm(film.lessonId);
  const retry = useRetryFilm(film.lessonId);
  switch (film.state) {
    case 'waiting':
    case 'making':
      return (
        <>
          <ProgressLine done={film.done} doing={film.doing || 'Beginning'} leftUs={film.leftUs} />
          <View style={styles.actions}>
            <Button small label="Call it off" onPress={() => cancel.mutate(film.id)} />
          </View>
        </>
      );
    case 'failed':
      return (
        <ProblemNotice code={film.problem ?? 'export-failed'}>
          <Button small label="Try again" onPress={() => retry.mutate(film.id)} />
          {film.problemDetail ? (
            <Words size="small" tone="soft">
              {film.problemDetail}
            </Words>
          ) : null}
        </ProblemNotice>
      );
    case 'cancelled':
      return (
        <View style={styles.actions}>
          <Words size="small">Called off.</Words>
          <Button small label="Make it after all" onPress={() => retry.mutate(film.id)} />
        </View>
      );
    case 'done':
      return (
        <Words size="small" tone="good">
          Ready.
        </Words>
      );
  }
};

const styles = StyleSheet.create({
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
