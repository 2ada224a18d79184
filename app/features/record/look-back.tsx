import { useEffect, useMemo, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import { placeOfTake, type Lesson } from '@under-chalk/core/lesson/lesson';
import { takeNameOf } from '@under-chalk/core/lesson/take-names';
import { wholeTakes } from '@under-chalk/core/lesson/placement';
import type { Take } from '@under-chalk/core/lesson/take';
import { LEVEL_STEP_US } from '@under-chalk/core/sound/level-line';
import { formatSpoken } from '@under-chalk/core/time/us';
import { playSound } from '../../capture/play-sound';
import type { Recorder } from '../../capture/recorder';
import type { LastSeconds } from '../../capture/recorder-messages';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import { FilmView } from '../../player/film-view';
import { useFilmPlayer } from '../../player/use-film-player';
import { Button } from '../../ui/button';
import { useLayout } from '../../ui/layout';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { Wave } from '../../ui/wave';
import { LessonHead, useThisLesson } from '../lessons/lesson-layout';
import { LessonGauge } from '../destinations/lesson-gauge';
import { RecoveredNotices } from './recovered-notices';
import { StoreFullNotice } from './store-full-notice';
import { Unfinished } from './unfinished';

const LAST_US = 10_000_000;

interface Props {
  readonly recorder: Recorder;
  readonly onRedo: (redo: { takeId: string; name: string }) => void;
  readonly onTidy: () => void;
  readonly onShareLink: () => void;
}

/** Look at once: the last ten seconds with their sound, and what to do with the take. */
export const LookBack = ({ recorder, onRedo, onTidy, onShareLink }: Props) => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const { state, takeId, before, last, ended, storeFull, packets } = usePart(
    recorder,
    (view) => view,
  );
  const { beside } = useLayout();
  const take = lesson.takes.find((candidate) => candidate.id === takeId);
  const stopped = state.name === 'stopped' ? state : null;
  return (
    <Screen
      name="Look back"
      head={<LessonHead />}
      foot={
        <>
          <Button
            grow
            label="Again"
            spoken="Record this take again; this one is left out"
            disabled={!takeId}
            onPress={() => takeId && onRedo({ takeId, name: takeNameOf(lesson, takeId) })}
          />
          <Button grow label="Another stretch" onPress={() => recorder.again()} />
          {beside ? null : <View style={styles.lineBreak} />}
          <Button grow label="Hand it out" spoken="Hand it out as it is" onPress={onShareLink} />
          <Button kind="main" grow label="Keep it" spoken="Keep it, and tidy" onPress={onTidy} />
        </>
      }
    >
      <Heading level={1}>Look back</Heading>
      {state.name === 'broken' ? <ProblemNotice code={state.problem} /> : null}
      {storeFull ? <StoreFullNotice /> : null}
      {stopped ? (
        <View
          testID="recorded"
          {...({
            dataSet: { durationUs: stopped.durationUs, packets: JSON.stringify(packets) },
          } as object)}
        >
          <Notice
            tone="good"
            title={`Recorded: ${formatSpoken(before.keptUs + stopped.durationUs)}${
              before.takes > 0 ? ` in ${before.takes + 1} takes` : ''
            }. ${
              stopped.safe === 'on-server'
                ? 'It is safe on the server.'
                : 'It is safe in this browser, and is sent as soon as Under Chalk can be reached.'
            }`}
            {...(ended.length > 0
              ? { text: 'A device stopped in the middle; what it had given until then is there.' }
              : {})}
          />
        </View>
      ) : null}
      <RecoveredNotices recorder={recorder} over />
      {stopped?.safe === 'in-browser' ? <Unfinished lessonId={lesson.id} /> : null}
      {last && last.sound.samples.length > 0 ? (
        <LastSound last={last} />
      ) : (
        <Words tone="warn" testID="look-back-words">
          There is no sound in this take.
        </Words>
      )}
      {take?.state === 'ready' ? <LastPicture lesson={lesson} take={take} /> : null}
      {take && take.state !== 'ready' && take.state !== 'unusable' ? (
        <Words tone="soft" role="status">
          The picture is being made ready…
        </Words>
      ) : null}
      <LessonGauge
        usedUs={filmOf(lesson).durationUs}
        destinationId={lesson.decisions.plan.destinationId}
      />
      {takeId ? (
        <View style={styles.start}>
          <Button
            small
            label="Leave this take out"
            onPress={() => {
              const placed = placeOfTake(lesson, takeId);
              if (placed) put({ do: 'exclude-take', placementId: placed.id });
              recorder.again();
            }}
          />
        </View>
      ) : null}
    </Screen>
  );
};

/** The sound of the last seconds, played at once, with its wave. It comes from memory and waits for nothing. */
const LastSound = ({ last }: { last: LastSeconds }) => {
  // How often it has been begun, and how often it has come to its end or been stopped.
  const [begun, setBegun] = useState(1);
  const [ended, setEnded] = useState(0);
  const playing = ended < begun;
  const stop = useRef<AbortController | null>(null);
  useEffect(() => {
    const control = new AbortController();
    stop.current = control;
    void playSound(last.sound, last.atUs - LAST_US, last.atUs, control.signal).finally(() => {
      if (!control.signal.aborted) setEnded(begun);
    });
    return () => control.abort();
  }, [last, begun]);
  const fromUs = Math.max(0, last.atUs - LAST_US);
  const loud = last.levels.subarray(Math.floor(fromUs / LEVEL_STEP_US)).some((byte) => byte > 58);
  return (
    <View style={styles.group}>
      <Wave line={last.levels} startUs={fromUs} endUs={last.atUs} height={56} />
      <View style={styles.line}>
        <Words strong tone={loud ? 'good' : 'bad'} testID="look-back-words">
          {loud ? 'There is sound.' : 'There is no voice in the last seconds.'}
        </Words>
        <Button
          small
          label={playing ? 'Stop the sound' : `Hear the last ${formatSpoken(last.atUs - fromUs)}`}
          onPress={() => {
            stop.current?.abort();
            if (playing) setEnded(begun);
            else setBegun(begun + 1);
          }}
        />
      </View>
    </View>
  );
};

/** The take alone, standing where its last seconds begin, as it will be in the film. */
const LastPicture = ({ lesson, take }: { lesson: Lesson; take: Take }) => {
  const film = useMemo(
    () =>
      filmOf({
        ...lesson,
        decisions: { ...lesson.decisions, ...wholeTakes([take.id]) },
      }),
    [lesson, take.id],
  );
  const player = useFilmPlayer(film);
  useEffect(() => {
    void player.seek(Math.max(0, film.durationUs - LAST_US));
    // Once for a take: from then on the teacher moves in it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [take.id, player]);
  return <FilmView player={player} />;
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.medium, flexWrap: 'wrap' },
  start: { alignItems: 'flex-start' },
  lineBreak: { width: '100%', height: 0 },
});
