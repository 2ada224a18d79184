import { useMutation, useQuery } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { smallerBytes } from '@under-chalk/core/destination/fitted';
import type { SoundForm } from '@under-chalk/core/destination/sound-form';
import { errorText } from '@under-chalk/core/errors/errors';
import { filmLoudnessInWords } from '@under-chalk/core/sound/levelling';
import { formatSpoken } from '@under-chalk/core/time/us';
import { call, codeOf } from '../../data/client';
import { KEYS, useFilms } from '../../data/queries';
import { Button } from '../../ui/button';
import { Menu } from '../../ui/menu';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { useDestination } from '../destinations/lesson-gauge';
import { FilmState } from './film-state';
import { FittedFile, Fits, useFitted } from './fits';
import { megabytes, SIZE_NAMES } from './film-words';

/** The films made of the lesson, to be saved. */
export const Files = ({ revision }: { revision: number }) => {
  const { lesson } = useThisLesson();
  const theme = useTheme();
  const films = useFilms(lesson.id);
  const destination = useDestination(lesson.decisions.plan.destinationId);
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
              {film.state === 'done' ? <FilmLoudness filmId={film.id} /> : null}
              {film.state === 'done' ? <Fits film={film} destination={destination} /> : null}
              {film.state === 'done' ? <Saving film={film} /> : null}
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

/** What can be saved of a film that was made. */
const Saving = ({ film }: { film: FilmRow }) => {
  const smallBytes = smallerBytes(film.bytes);
  const small = useFitted(film.id, smallBytes);
  const canBeSmaller = small.data?.state === 'none' || small.data?.state === 'failed';
  return (
    <>
      <View style={styles.actions}>
        <Button
          small
          label={`Save (${megabytes(film.bytes)})`}
          spoken={`Save ${film.fileName}, ${SIZE_NAMES[film.size]}`}
          onPress={() => location.assign(pathTo('filmFile', { filmId: film.id }))}
        />
        <OtherForms
          filmId={film.id}
          name={film.fileName}
          smaller={
            smallBytes !== null && canBeSmaller
              ? {
                  label: `A smaller file (${megabytes(smallBytes)})`,
                  onPress: () => small.make.mutate(),
                }
              : null
          }
        />
      </View>
      {smallBytes === null ? null : (
        <FittedFile
          {...{ film, mostBytes: smallBytes, fitted: small }}
          doing="Making a smaller file"
          label="Save the smaller one"
        />
      )}
    </>
  );
};

/** What else can be had of a film: a smaller file; its sound alone, as it is in it or as an MP3; or all there is, in one archive. */
const OtherForms = ({
  filmId,
  name,
  smaller,
}: {
  filmId: string;
  name: string;
  smaller: { readonly label: string; readonly onPress: () => void } | null;
}) => {
  const make = useMutation({
    mutationFn: async (form: SoundForm) => {
      await call('makeFilmSound', { params: { filmId }, body: { form } });
      location.assign(`${pathTo('filmSound', { filmId })}?form=${form}`);
    },
  });
  if (make.isPending)
    return (
      <Words size="small" tone="soft" role="status">
        Its sound is being made…
      </Words>
    );
  return (
    <>
      <Menu
        of={name}
        items={[
          ...(smaller ? [smaller] : []),
          { label: 'Sound alone (M4A)', onPress: () => make.mutate('m4a') },
          { label: 'Sound alone (MP3)', onPress: () => make.mutate('mp3') },
          {
            label: 'Everything (ZIP)',
            onPress: () => location.assign(pathTo('filmArchive', { filmId })),
          },
          {
            label: 'For a course site (SCORM 1.2)',
            onPress: () => location.assign(pathTo('filmPackage', { filmId })),
          },
        ]}
      />
      {make.error ? (
        <Words size="small" tone="warn" role="status">
          {errorText(codeOf(make.error)).message}
        </Words>
      ) : null}
    </>
  );
};

/** How loud it came out; a moment after the film, for it is measured of the finished file. */
const FilmLoudness = ({ filmId }: { filmId: string }) => {
  const { data } = useQuery({
    queryKey: KEYS.filmLoudness(filmId),
    queryFn: () => call('filmLoudness', { params: { filmId } }),
    staleTime: Infinity,
  });
  const told = data && filmLoudnessInWords(data);
  return told ? (
    <Words size="small" tone="soft">
      {told}
    </Words>
  ) : null;
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
