import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import { formatSpoken } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import { useFilms } from '../../data/queries';
import { Button } from '../../ui/button';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { FilmState } from './film-state';
import { megabytes, SIZE_NAMES } from './film-words';

/** The films made of the lesson, to be saved. */
export const Files = ({ revision }: { revision: number }) => {
  const { lesson } = useThisLesson();
  const theme = useTheme();
  const films = useFilms(lesson.id);
  return (
    <View style={styles.group}>
      <Heading level={2}>Files</Heading>
      {films.data ? (
        films.data.length === 0 ? (
          <Words tone="soft">No file yet. An MP4 plays everywhere.</Words>
        ) : (
          films.data.map((film) => (
            <View
              key={film.id}
              style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}
            >
              <Words strong>{film.fileName}</Words>
              <Words size="small" tone="soft">
                {`${SIZE_NAMES[film.size]} · ${formatSpoken(film.filmUs)}${
                  film.revision < revision ? ' · made before the last change' : ''
                }`}
              </Words>
              <FilmState film={film} />
              {film.state === 'done' ? (
                <View style={styles.actions}>
                  <Button
                    small
                    label={`Save (${megabytes(film.bytes)})`}
                    spoken={`Save ${film.fileName}, ${SIZE_NAMES[film.size]}`}
                    onPress={() => location.assign(pathTo('filmFile', { filmId: film.id }))}
                  />
                </View>
              ) : null}
            </View>
          ))
        )
      ) : films.error ? (
        <Failed code={codeOf(films.error)} onRetry={() => void films.refetch()} />
      ) : (
        <Loading what="the files" />
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
