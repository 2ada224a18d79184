import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pathTo, type FilmRow, type HandOut } from '@under-chalk/core/contract/api';
import { filmOf } from '@under-chalk/core/film/film';
import { likelyBytes, sizeOf } from '@under-chalk/core/place/picture-size';
import type { PictureSize } from '@under-chalk/core/place/size-name';
import { formatSpoken } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import {
  useCancelFilm,
  useFilms,
  useHandOut,
  useHandOuts,
  useMakeFilm,
  useRetryFilm,
  useTakeBack,
} from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Notice, ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { LessonGauge, useDestination } from '../places/lesson-gauge';
import { LessonHead, useThisLesson } from '../lessons/lesson-layout';

const megabytes = (bytes: number) => `${Math.max(0.1, bytes / 1e6).toFixed(1)} MB`;
const NAMES: Record<PictureSize, string> = {
  '720p': '720p',
  '1080p': '1080p',
  'as-recorded': 'as recorded',
};

/** Hand out: a link for students, and the film as a file. */
export const HandOutPage = () => {
  const { lesson } = useThisLesson();
  const film = filmOf(lesson);
  const destination = useDestination(lesson.decisions.plan.destinationId);
  // The place's own size, until another is chosen.
  const [chosen, setSize] = useState<PictureSize | null>(null);
  const size = chosen ?? destination.size;
  const handOut = useHandOut(lesson.id);
  const makeFilm = useMakeFilm(lesson.id);
  const choices = (['720p', '1080p', 'as-recorded'] as const).map((value) => {
    const px = sizeOf(lesson, value);
    return {
      value,
      label: NAMES[value],
      hint: `${px.widthPx} × ${px.heightPx}, about ${megabytes(likelyBytes(px, film.durationUs))}`,
    };
  });
  const failed = handOut.error ?? makeFilm.error;
  return (
    <Screen
      name={`Hand out · ${lesson.decisions.plan.title}`}
      head={<LessonHead />}
      foot={
        <>
          <Button
            grow
            label="Make a file"
            disabled={film.frames === 0 || makeFilm.isPending}
            onPress={() => makeFilm.mutate(size)}
          />
          <Button
            kind="main"
            grow
            label="Make a link"
            disabled={film.frames === 0 || handOut.isPending}
            onPress={() => handOut.mutate(size)}
          />
        </>
      }
    >
      <Heading level={1}>Hand out</Heading>
      {film.frames === 0 ? (
        <Notice title="There is nothing in the film yet." text="Record something first." />
      ) : (
        <>
          <LessonGauge usedUs={film.durationUs} destinationId={destination.id} />
          <Choices
            label="Size of the picture"
            stacked
            choices={choices}
            value={size}
            onChoose={setSize}
          />
        </>
      )}
      {failed ? <ProblemNotice code={codeOf(failed)} /> : null}
      <Links revision={lesson.revision} />
      <Files revision={lesson.revision} />
    </Screen>
  );
};

const Links = ({ revision }: { revision: number }) => {
  const { lesson } = useThisLesson();
  const handOuts = useHandOuts(lesson.id);
  return (
    <View style={styles.group}>
      <Heading level={2}>Links</Heading>
      {handOuts.data ? (
        handOuts.data.length === 0 ? (
          <Words tone="soft">
            No link yet. Anyone who has a link can watch, without signing in; you can take it away
            at any time.
          </Words>
        ) : (
          handOuts.data.map((handOut) => (
            <LinkRow key={handOut.id} handOut={handOut} revision={revision} />
          ))
        )
      ) : handOuts.error ? (
        <Failed code={codeOf(handOuts.error)} onRetry={() => void handOuts.refetch()} />
      ) : (
        <Loading what="the links" />
      )}
    </View>
  );
};

const LinkRow = ({ handOut, revision }: { handOut: HandOut; revision: number }) => {
  const theme = useTheme();
  const { lesson } = useThisLesson();
  const takeBack = useTakeBack(lesson.id);
  const [copied, setCopied] = useState<'no' | 'yes' | 'failed'>('no');
  const address = `${location.origin}/w/${handOut.token}`;
  const copy = () => {
    navigator.clipboard.writeText(address).then(
      () => setCopied('yes'),
      () => setCopied('failed'),
    );
  };
  return (
    <View style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}>
      <Words strong selectable testID="watch-address" style={styles.address}>
        {address}
      </Words>
      <Words size="small" tone="soft">
        {`Open to anyone with the link · ${NAMES[handOut.film.size]}${
          handOut.film.revision < revision ? ' · the lesson has been changed since' : ''
        }`}
      </Words>
      <FilmState film={handOut.film} />
      <View style={styles.actions}>
        <Button small label="Copy the link" onPress={copy} />
        <Button small label="Open it" onPress={() => window.open(address, '_blank', 'noopener')} />
        <Button
          small
          kind="grave"
          label="Take it away"
          disabled={takeBack.isPending}
          onPress={() => takeBack.mutate(handOut.id)}
        />
      </View>
      <Words size="small" role="status">
        {
          {
            no: '',
            yes: 'Copied.',
            failed: 'The browser does not let it be copied; mark it above.',
          }[copied]
        }
      </Words>
    </View>
  );
};

const Files = ({ revision }: { revision: number }) => {
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
                {`${NAMES[film.size]} · ${formatSpoken(film.filmUs)}${
                  film.revision < revision ? ' · made before the last change' : ''
                }`}
              </Words>
              <FilmState film={film} />
              {film.state === 'done' ? (
                <View style={styles.actions}>
                  <Button
                    small
                    label={`Save (${megabytes(film.bytes)})`}
                    spoken={`Save ${film.fileName}, ${NAMES[film.size]}`}
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

/** How it stands with a film, and what can be done about it. */
const FilmState = ({ film }: { film: FilmRow }) => {
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
  group: { gap: SPACE.small },
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
