import { useQueries } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf, recordedAt, type Film } from '@under-chalk/core/film/film';
import { cardPlaceOf } from '@under-chalk/core/lesson/title-card';
import { checksOf } from '@under-chalk/core/checks/checks';
import { seePictures } from '@under-chalk/core/checks/pictures-seen';
import { picturesRead } from '@under-chalk/core/picture/reading';
import { filmLikes, knownBytes, sizeOf } from '@under-chalk/core/destination/picture-size';
import { usePart } from '../../data/live-value';
import {
  levelsQuery,
  useClass,
  useClasses,
  loudnessQuery,
  useCoverChoices,
  useFilms,
  useLessonPictures,
  useMadeSoFar,
} from '../../data/queries';
import { languagesOf } from '@under-chalk/core/words/cue';
import { languageName } from '@under-chalk/core/words/language';
import { CaptionOver } from '../../player/caption-over';
import { ChapterList } from '../../player/chapter-list';
import type { FilmPlayer } from '../../player/film-player';
import { FilmView } from '../../player/film-view';
import { useFilmPlayer } from '../../player/use-film-player';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Loading, Screen } from '../../ui/screen';
import { elementOf } from '../../ui/focus';
import { Heading, Words } from '../../ui/text';
import { LessonGauge, useAttention, useDestination } from '../destinations/lesson-gauge';
import { GettingReady } from '../lessons/getting-ready';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { CoverSheet } from '../cover/cover-sheet';
import { CheckList, type Opened } from './check-list';
import { LicenceSheet } from './licence-sheet';

/** The list of chapters follows the picture this closely, µs. */
const STEP_US = 250_000;

/** Nothing is known of its pictures yet. */
const NO_PICTURES = { tracks: [], pages: [] };

/** A place is shown from a moment before it, µs. */
const BEFORE_US = 1_000_000;

/** Last look: the film as students will see it, and what can be told about it beforehand. */
export const LastLookPage = () => {
  const view = useThisLesson();
  const { lesson } = view;
  const goTo = useGoTo();
  const film = useMemo(() => filmOf(lesson), [lesson]);
  const player = useFilmPlayer(film);
  const picture = useRef<View>(null);
  const { cues, language: spoken, captionLook } = lesson.decisions;
  const { burntIn } = captionLook;
  const languages = languagesOf(cues, spoken);
  // As a student has switched them on.
  const [language, setLanguage] = useState(languages[0] ?? '');
  const destination = useDestination(lesson.decisions.plan.destinationId);
  const attentionUs = useAttention();
  const films = useFilms(lesson.id);
  const { sofar } = useMadeSoFar(lesson.id, lesson.revision, destination.size);
  const made = films.data?.find(
    (one) =>
      one.state === 'done' && one.revision === lesson.revision && one.size === destination.size,
  );
  const likes = filmLikes(lesson, films.data ?? [], sofar);
  const likely = knownBytes(sizeOf(lesson, destination.size), film.durationUs, likes);
  const bytes = made
    ? { count: made.bytes, made: true }
    : likely === null
      ? null
      : { count: likely, made: false };
  // Cards have no sound to be fetched.
  const heard = film.spans.filter(({ take }) => !cardPlaceOf(take));
  const takeIds = [...new Set(heard.map(({ take }) => take.id))];
  const lines = useQueries({ queries: takeIds.map(levelsQuery) });
  const measured = useQueries({ queries: takeIds.map(loudnessQuery) });
  const loudness = new Map(
    measured.flatMap(({ data = [] }) => data.map(({ trackId, lufs }) => [trackId, { lufs }])),
  );
  const waiting = lines.some((line) => line.isPending);
  const levels = new Map(
    takeIds.flatMap((takeId, index) => {
      const line = lines[index]?.data;
      return line ? [[takeId, line] as const] : [];
    }),
  );
  const inkOf = usePart(player, () => player.inkOf);
  const covers = useCoverChoices(lesson.id, lesson.revision, film.frames > 0);
  const known = useLessonPictures(lesson.id, lesson.revision, film.frames > 0);
  const pictures = useMemo(
    () => seePictures(film, inkOf, picturesRead(known.data ?? NO_PICTURES)),
    [film, inkOf, known.data],
  );
  const { className } = lesson.decisions.plan;
  const classId = useClasses().data?.find(({ name }) => name === className)?.id ?? null;
  const students = useClass(classId).data?.students;
  const [opened, setOpened] = useState<Opened | null>(null);
  const close = () => setOpened(null);
  const checks = checksOf(film, {
    ...{
      levels,
      destination,
      attentionUs,
      bytes,
      inkOf,
      cover: covers.data ?? null,
      pictures,
      students,
    },
    loudnessOf: (trackId) => loudness.get(trackId) ?? null,
  });
  return (
    <Screen
      name={`Last look · ${lesson.decisions.plan.title}`}
      head={<LessonHead />}
      foot={
        <Button
          kind="main"
          grow
          label="Hand out"
          disabled={film.frames === 0}
          onPress={() => goTo('hand-out')}
        />
      }
    >
      <Heading level={1}>Last look</Heading>
      <GettingReady view={view} />
      <View ref={picture}>
        <FilmView player={player}>
          {language && !(burntIn && language === spoken) ? (
            <CaptionOver player={player} film={film} language={language} />
          ) : null}
        </FilmView>
      </View>
      {languages.length > 0 ? (
        <Choices
          label="Captions"
          choices={[
            { value: '', label: 'off' },
            ...languages.map((value) => ({ value, label: languageName(value) })),
          ]}
          value={language}
          onChoose={setLanguage}
        />
      ) : null}
      <LessonGauge usedUs={film.durationUs} destinationId={lesson.decisions.plan.destinationId} />
      <PlayedChapters player={player} film={film} />
      <Heading level={2}>Before students see it</Heading>
      {waiting ? (
        <Loading what="its sound" />
      ) : (
        <CheckList
          checks={checks}
          onLook={(atUs) => {
            void player.seek(Math.max(0, atUs - BEFORE_US));
            elementOf(picture.current)?.scrollIntoView({ block: 'center' });
          }}
          onOpen={setOpened}
        />
      )}
      {known.data?.isWhole === false ? (
        <Words tone="soft">
          Its pictures are still being looked through; there may be more to say.
        </Words>
      ) : null}
      {opened === 'cover' ? <CoverAtHand player={player} film={film} onClose={close} /> : null}
      {opened === 'licence' ? (
        <LicenceSheet licence={lesson.decisions.licence} onClose={close} />
      ) : null}
    </Screen>
  );
};

/** Choosing the cover, with the moment at hand at which the film was stopped. */
const CoverAtHand = ({
  player,
  film,
  onClose,
}: {
  player: FilmPlayer;
  film: Film;
  onClose: () => void;
}) => {
  const filmUs = usePart(player, (view) => view.filmUs);
  const place = recordedAt(film, Math.min(filmUs, film.durationUs - 1));
  const stoppedAt = place && !cardPlaceOf({ id: place.takeId }) ? { filmUs, place } : null;
  return <CoverSheet lesson={film.lesson} onClose={onClose} stoppedAt={stoppedAt} />;
};

const PlayedChapters = ({ player, film }: { player: FilmPlayer; film: Film }) => {
  const atUs = usePart(player, (view) => Math.floor(view.filmUs / STEP_US) * STEP_US);
  return (
    <ChapterList
      chapters={chaptersOf(film)}
      atUs={atUs}
      onGo={(startUs) => void player.seek(startUs)}
    />
  );
};
