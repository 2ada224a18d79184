import { useQuery } from '@tanstack/react-query';
import { useLocalSearchParams } from 'expo-router';
import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { Chapter } from '@under-chalk/core/film/chapters';
import { formatClock, formatSpoken } from '@under-chalk/core/time/us';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { ChapterList } from '../../player/chapter-list';
import { SeekSlider } from '../../player/seek-slider';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Notice, ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE } from '../../ui/theme';

/** What a student sees: the film, its title, and what is needed to watch it. */
export const WatchPage = () => {
  const { token } = useLocalSearchParams<{ token: string }>();
  const watch = useQuery({
    queryKey: KEYS.watch(token),
    queryFn: () => call('watch', { params: { token } }),
    refetchInterval: ({ state }) =>
      state.data && ['waiting', 'making'].includes(state.data.state) ? 1_500 : false,
  });
  if (!watch.data) {
    const code = watch.error ? codeOf(watch.error) : null;
    return (
      <Screen name="Watch">
        {code === 'not-found' ? (
          <Notice
            tone="warn"
            title="There is no film here (any more)."
            text="Ask your teacher for the new link."
          />
        ) : code ? (
          <Failed code={code} onRetry={() => void watch.refetch()} />
        ) : (
          <Loading what="the film" />
        )}
      </Screen>
    );
  }
  const { title, description, teacherName, state, done, filmUs, chapters } = watch.data;
  return (
    <Screen name={title || 'Watch'} wide>
      {state === 'done' ? (
        <Player token={token} title={title} chapters={chapters} />
      ) : state === 'waiting' || state === 'making' ? (
        <Notice title="The film is being made." text="It plays here as soon as it is ready.">
          <View style={styles.progress}>
            <ProgressLine done={done} doing="Being made" leftUs={null} />
          </View>
        </Notice>
      ) : (
        <Notice tone="warn" title="The film is not here yet." text="Try again later." />
      )}
      <Heading level={1}>{title}</Heading>
      <Words tone="soft" size="small">
        {[teacherName, formatSpoken(filmUs)].filter(Boolean).join(' · ')}
      </Words>
      {description ? <Words>{description}</Words> : null}
    </Screen>
  );
};

const SPEEDS = ['0.75', '1', '1.25', '1.5', '2'];

const Player = ({
  token,
  title,
  chapters,
}: {
  token: string;
  title: string;
  chapters: readonly Chapter[];
}) => {
  const video = useRef<HTMLVideoElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [playing, setPlaying] = useState(false);
  const [time, setTime] = useState({ at: 0, length: 0 });
  const [speed, setSpeed] = useState('1');
  const [problem, setProblem] = useState(false);

  const toggle = () => {
    const film = video.current;
    if (!film) return;
    if (film.paused) film.play().catch(() => setProblem(true));
    else film.pause();
  };
  const seek = (seconds: number) => {
    if (video.current) video.current.currentTime = Math.max(0, seconds);
  };
  const whole = () => {
    const film = video.current as (HTMLVideoElement & { webkitEnterFullscreen?(): void }) | null;
    if (document.fullscreenElement) void document.exitFullscreen();
    else if (box.current?.requestFullscreen) void box.current.requestFullscreen();
    // A phone of the kind that only lets the film itself fill the screen.
    else film?.webkitEnterFullscreen?.();
  };
  const change = (value: string) => {
    setSpeed(value);
    if (video.current) video.current.playbackRate = Number(value);
  };

  const keys = useRef<(event: KeyboardEvent) => void>(() => undefined);
  useEffect(() => {
    keys.current = (event) => {
      const on = event.target as HTMLElement;
      // Keys that a control under the focus has a use for are its own.
      if (event.ctrlKey || event.metaKey || event.altKey || on.closest('input, [role=radio]'))
        return;
      const film = video.current;
      const does: Record<string, () => void> = {
        ArrowLeft: () => seek((film?.currentTime ?? 0) - 5),
        ArrowRight: () => seek((film?.currentTime ?? 0) + 5),
        f: whole,
        k: toggle,
      };
      if (event.key === ' ' && !on.closest('[role=button]')) does[' '] = toggle;
      if (!does[event.key]) return;
      event.preventDefault();
      does[event.key]!();
    };
  });
  useEffect(() => {
    const heard = (event: KeyboardEvent) => keys.current(event);
    document.addEventListener('keydown', heard);
    return () => document.removeEventListener('keydown', heard);
  }, []);

  const update = () => {
    const film = video.current;
    if (film) setTime({ at: film.currentTime, length: film.duration || 0 });
  };
  return (
    <View style={styles.player}>
      <div
        ref={box}
        style={{ background: '#20292f', borderRadius: RADIUS.small, overflow: 'hidden' }}
      >
        <video
          ref={video}
          src={pathTo('watchFilm', { token })}
          poster={pathTo('watchCover', { token })}
          preload="metadata"
          playsInline
          aria-label={title}
          onClick={toggle}
          onPlay={() => setPlaying(true)}
          onPause={() => setPlaying(false)}
          onTimeUpdate={update}
          onLoadedMetadata={update}
          onError={() => setProblem(true)}
          style={{ width: '100%', maxHeight: '70vh', display: 'block' }}
        />
      </div>
      {problem ? (
        <ProblemNotice code="server-unreachable">
          <Button
            label="Try again"
            onPress={() => {
              setProblem(false);
              video.current?.load();
            }}
          />
        </ProblemNotice>
      ) : null}
      <View style={styles.bar}>
        <Button kind="main" label={playing ? 'Pause' : 'Play'} onPress={toggle} />
        <View style={styles.slider}>
          <SeekSlider
            label="Place in the film"
            valueUs={Math.round(time.at * 1e6)}
            mostUs={Math.round(time.length * 1e6)}
            onSeek={(us) => seek(us / 1e6)}
          />
        </View>
        <Words size="small">
          {`${formatClock(time.at * 1e6)} / ${formatClock(time.length * 1e6)}`}
        </Words>
        <Button label="Fill the screen" onPress={whole} />
      </View>
      <ChapterList
        chapters={chapters}
        atUs={time.at * 1e6}
        onGo={(startUs) => seek(startUs / 1e6)}
      />
      <Choices
        label="Speed"
        choices={SPEEDS.map((value) => ({ value, label: `${value}×` }))}
        value={speed}
        onChoose={change}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  player: { gap: SPACE.small },
  bar: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
  slider: { flexGrow: 1, flexBasis: 160 },
  progress: { width: '100%' },
});
