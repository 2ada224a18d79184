import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { Chapter } from '@under-chalk/core/film/chapters';
import { formatClock } from '@under-chalk/core/time/us';
import { ChapterList } from '../../player/chapter-list';
import { SeekSlider } from '../../player/seek-slider';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { RADIUS, SPACE } from '../../ui/theme';

const SPEEDS = ['0.75', '1', '1.25', '1.5', '2'];

interface Props {
  readonly token: string;
  readonly title: string;
  readonly chapters: readonly Chapter[];
}

/** A film that is handed out, with what is needed to watch it. */
export const WatchedFilm = ({ token, title, chapters }: Props) => {
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
});
