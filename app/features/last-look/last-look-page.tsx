import { useQueries } from '@tanstack/react-query';
import Check from 'lucide-react-native/icons/check';
import CircleAlert from 'lucide-react-native/icons/circle-alert';
import { useMemo, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import { cardPlaceOf } from '@under-chalk/core/lesson/card';
import { checksOf } from '@under-chalk/core/look/checks';
import { likelyBytes, sizeOf } from '@under-chalk/core/destination/picture-size';
import { usePart } from '../../data/live-value';
import { levelsQuery, loudnessQuery, useFilms } from '../../data/queries';
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
import { Heading, Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { LessonGauge, useAttention, useDestination } from '../destinations/lesson-gauge';
import { GettingReady } from '../lessons/getting-ready';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';

/** The list of chapters follows the picture this closely, µs. */
const STEP_US = 250_000;

const VERDICTS = { good: 'Good', look: 'Look again', stop: 'Mend this' } as const;

/** Last look: the film as students will see it, and what can be told about it beforehand. */
export const LastLookPage = () => {
  const view = useThisLesson();
  const { lesson } = view;
  const goTo = useGoTo();
  const theme = useTheme();
  const film = useMemo(() => filmOf(lesson), [lesson]);
  const player = useFilmPlayer(film);
  const { cues, spoken, captionLook } = lesson.decisions;
  const { burned } = captionLook;
  const languages = languagesOf(cues, spoken);
  // As a student has switched them on.
  const [language, setLanguage] = useState(languages[0] ?? '');
  const destination = useDestination(lesson.decisions.plan.destinationId);
  const attentionUs = useAttention();
  const films = useFilms(lesson.id);
  const made = films.data?.find(
    (one) =>
      one.state === 'done' && one.revision === lesson.revision && one.size === destination.size,
  );
  const bytes = made
    ? { count: made.bytes, made: true }
    : { count: likelyBytes(sizeOf(lesson, destination.size), film.durationUs), made: false };
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
  const checks = checksOf(
    ...([film, levels, destination, attentionUs, bytes] as const),
    (trackId) => loudness.get(trackId) ?? null,
  );
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
      <FilmView player={player}>
        {language && !(burned && language === spoken) ? (
          <CaptionOver player={player} film={film} language={language} />
        ) : null}
      </FilmView>
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
        <View role="list" style={styles.checks}>
          {checks.map((check, index) => {
            const colour = { good: theme.good, look: theme.warn, stop: theme.bad }[check.verdict];
            const Sign = check.verdict === 'good' ? Check : CircleAlert;
            return (
              <View key={`${check.id} ${index}`} role="listitem" style={styles.check}>
                <View style={styles.sign}>
                  <Sign size={22} color={colour} strokeWidth={2.5} />
                </View>
                <Words style={styles.sentence}>
                  <Words strong style={{ color: colour }}>
                    {`${VERDICTS[check.verdict]}. `}
                  </Words>
                  {check.sentence}
                </Words>
              </View>
            );
          })}
        </View>
      )}
    </Screen>
  );
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

const styles = StyleSheet.create({
  checks: { gap: SPACE.medium },
  check: { flexDirection: 'row', gap: SPACE.small, alignItems: 'flex-start' },
  sign: { width: 22, flexShrink: 0 },
  sentence: { flexShrink: 1 },
});
