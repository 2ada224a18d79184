import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import { destinationOf } from '@under-chalk/core/place/destination';
import { isDark, type RecorderState } from '@under-chalk/core/record/recorder-state';
import { formatClock, formatSpoken } from '@under-chalk/core/time/us';
import { canRecord, NONE, PRACTICE } from '../../capture/devices';
import { Recorder } from '../../capture/recorder';
import { call } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { ChalkFrame, type ChalkLine } from '../../ui/chalk-frame';
import { Choices } from '../../ui/choices';
import { LengthGauge } from '../../ui/length-gauge';
import { LevelMeter } from '../../ui/level-meter';
import { useLightsDown } from '../../ui/lights';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, TYPE, WIDE } from '../../ui/theme';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { BringIn } from './bring-in';
import { rememberChoice, rememberedChoice } from './choice-memory';
import { LiveView } from './live-view';
import { SourceChoices } from './source-choices';
import { TakeList } from './take-list';
import { tracksOf, useSources, type Chosen, type Sources } from './use-sources';

const LINE: Record<RecorderState['name'], ChalkLine> = {
  'not-yet': 'none',
  'count-in': 'dashed',
  starting: 'dashed',
  recording: 'whole',
  paused: 'broken',
  stopping: 'broken',
  stopped: 'none',
  broken: 'none',
};

/** Record: choose, look and listen, record, and see what there is. */
export const RecordPage = () => {
  const [recorder] = useState(() => new Recorder());
  const view = useSyncExternalStore(recorder.subscribe, recorder.view, recorder.view);
  const [chosen, setChosen] = useState(rememberedChoice);
  const sources = useSources(chosen);
  const dark = isDark(view.state);
  useLightsDown(dark);
  useWarnBeforeLeaving(dark);
  const choose = (change: Partial<Chosen>) => {
    const next = { ...chosen, ...change };
    setChosen(next);
    rememberChoice(next);
  };
  return dark ? (
    <Recording recorder={recorder} chosen={chosen} sources={sources} />
  ) : (
    <GetReady recorder={recorder} chosen={chosen} choose={choose} sources={sources} />
  );
};

/** A page that is recording asks before it is left. */
const useWarnBeforeLeaving = (recording: boolean) =>
  useEffect(() => {
    if (!recording) return undefined;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', warn);
    return () => removeEventListener('beforeunload', warn);
  }, [recording]);

interface Parts {
  readonly recorder: Recorder;
  readonly chosen: Chosen;
  readonly sources: Sources;
}

/** Why recording can't begin yet, in words; null when it can. */
const missing = (chosen: Chosen, sources: Sources): string | null => {
  if (!canRecord()) return 'This browser can’t record; bring in a film instead.';
  if (chosen.source === 'screen' && !sources.screen) return 'Choose what to show first.';
  if (chosen.source === 'camera' && !sources.camera) return 'Choose a camera first.';
  if (chosen.source === 'sound' && !sources.voice) return 'Choose a microphone first.';
  if (chosen.microphone !== NONE && !sources.voice) return 'The microphone is not open yet.';
  if (chosen.source === 'screen' && chosen.camera !== NONE && !sources.camera) {
    return 'The camera is not open yet.';
  }
  return null;
};

const GetReady = ({
  recorder,
  chosen,
  choose,
  sources,
}: Parts & { choose: (change: Partial<Chosen>) => void }) => {
  const { lesson } = useThisLesson();
  const view = useSyncExternalStore(recorder.subscribe, recorder.view, recorder.view);
  const client = useQueryClient();
  const goTo = useGoTo();
  const { width } = useWindowDimensions();
  const wide = width >= WIDE;
  const [countIn, setCountIn] = useState('3');
  const [silent, setSilent] = useState(false);
  const wanting = missing(chosen, sources);
  const mute = chosen.microphone === NONE;

  const start = () => {
    setSilent(false);
    void recorder.begin({
      source: chosen.source,
      practice:
        chosen.camera === PRACTICE || chosen.microphone === PRACTICE || chosen.screen === PRACTICE,
      tracks: tracksOf(chosen, sources),
      countIn: Number(countIn),
      begin: (take) => call('newTake', { params: { lessonId: lesson.id }, body: take }),
      finish: async (takeId) => {
        await call('stopTake', { params: { takeId }, body: { cutShort: false } });
        await client.invalidateQueries({ queryKey: KEYS.lesson(lesson.id) });
        void client.invalidateQueries({ queryKey: KEYS.lessons });
      },
    });
  };
  const empty =
    chosen.source === 'screen'
      ? 'Choose what to show, and you see it here before it is recorded.'
      : chosen.source === 'camera'
        ? 'Choose a camera, and you see yourself here.'
        : 'Sound alone: students see the title.';
  return (
    <Screen
      name={`Record · ${lesson.decisions.plan.title}`}
      wide
      head={<LessonHead />}
      foot={
        <>
          <View style={styles.footWords}>
            <Words size="small" tone={wanting ? 'warn' : 'soft'}>
              {wanting ??
                `Not recording yet. ${Number(countIn) > 0 ? `Counts ${countIn} s in.` : ''}`}
            </Words>
          </View>
          <Button
            kind="main"
            grow
            label="Start recording"
            disabled={wanting !== null}
            onPress={() => (mute ? setSilent(true) : start())}
          />
        </>
      }
    >
      <Heading level={1}>Record</Heading>
      <StopMessage recorder={recorder} view={view} onTidy={() => goTo('tidy')} />
      {silent ? (
        <Notice
          tone="warn"
          urgent
          title="No microphone is chosen: this take will have no voice."
          text="Choose one below, or record without sound on purpose."
        >
          <Button label="Record without sound" onPress={start} />
          <Button label="Not like this" onPress={() => setSilent(false)} />
        </Notice>
      ) : null}
      <View style={wide ? styles.columns : styles.stack}>
        <View style={wide ? styles.column : null}>
          <ChalkFrame line="none">
            <LiveView
              screen={chosen.source === 'screen' ? sources.screen : null}
              camera={chosen.source === 'sound' ? null : sources.camera}
              empty={empty}
            />
          </ChalkFrame>
          {chosen.source === 'screen' && chosen.screen === 'real' ? (
            <Button
              label={sources.screen ? 'Choose something else to show' : 'Choose what to show'}
              onPress={() => void sources.chooseScreen()}
            />
          ) : null}
          {mute ? null : <LevelMeter now={sources.level.now} held={sources.level.held} />}
          {Object.entries(sources.problems).map(([of, code]) => (
            <ProblemNotice key={of} code={code}>
              <Button label="Try again" onPress={sources.retry} />
            </ProblemNotice>
          ))}
        </View>
        <View style={[wide ? styles.column : null, styles.stack]}>
          <SourceChoices chosen={chosen} choose={choose} sources={sources} />
          <Choices
            label="Count-in"
            choices={['0', '3', '5', '10'].map((value) => ({
              value,
              label: value === '0' ? 'none' : `${value} s`,
            }))}
            value={countIn}
            onChoose={setCountIn}
          />
        </View>
      </View>
      <TakeList />
      <BringIn />
    </Screen>
  );
};

/** After a take: that it is safe, or what went wrong. */
const StopMessage = ({
  recorder,
  view,
  onTidy,
}: {
  recorder: Recorder;
  view: ReturnType<Recorder['view']>;
  onTidy: () => void;
}) => {
  if (view.state.name === 'stopped') {
    return (
      <Notice
        tone="good"
        title={`Recorded: ${formatSpoken(view.state.durationUs)}. It is safe on the server.`}
        text={
          view.ended.length > 0
            ? 'A device stopped in the middle; what it had given until then is there.'
            : 'Tidy it, or record another stretch.'
        }
      >
        <Button label="Go on to Tidy" onPress={onTidy} />
        <Button label="Record another stretch" onPress={() => recorder.again()} />
      </Notice>
    );
  }
  if (view.state.name === 'broken') {
    return (
      <ProblemNotice code={view.state.problem}>
        <Button label="Back to the start" onPress={() => recorder.again()} />
      </ProblemNotice>
    );
  }
  return null;
};

const SIGN: Record<RecorderState['name'], string> = {
  'not-yet': 'Not recording',
  'count-in': 'Not yet',
  starting: 'Not yet: waiting for the first picture and sound',
  recording: 'Recording',
  paused: 'Paused: nothing is being recorded',
  stopping: 'Stopped: sending the last of it',
  stopped: 'Stopped',
  broken: 'Stopped',
};

const ENDED_CODE = {
  surface: 'screen-ended',
  camera: 'camera-ended',
  voice: 'microphone-ended',
  'computer-sound': 'screen-ended',
} as const;

const Recording = ({ recorder, chosen, sources }: Parts) => {
  const { lesson } = useThisLesson();
  const view = useSyncExternalStore(recorder.subscribe, recorder.view, recorder.view);
  const { state, figures } = view;
  const before = filmOf(lesson).durationUs;
  // Before the start the microphone itself is listened to; then what is really recorded.
  const running = state.name === 'recording' || state.name === 'paused';
  const megabytes = (figures.unsentBytes / 1e6).toFixed(1);
  return (
    <Screen
      name={SIGN[state.name]}
      wide
      foot={
        <>
          {state.name === 'recording' ? (
            <Button grow label="Pause" onPress={() => recorder.pause()} />
          ) : null}
          {state.name === 'paused' ? (
            <Button grow label="Go on recording" onPress={() => recorder.resume()} />
          ) : null}
          {sources.clap && (state.name === 'recording' || state.name === 'paused') ? (
            <Button
              label="Clapper"
              spoken="Practice clapper: a flash and a click"
              onPress={sources.clap}
            />
          ) : null}
          <Button
            kind="main"
            grow
            label={state.name === 'count-in' ? 'Don’t start' : 'Stop'}
            disabled={state.name === 'stopping'}
            onPress={() => recorder.stop()}
          />
        </>
      }
    >
      <View style={styles.sign} role="status" aria-live="assertive">
        <Heading level={1} testID="recorder-sign">
          {state.name === 'count-in' ? `${SIGN['count-in']}: ${state.left}` : SIGN[state.name]}
        </Heading>
        <Words style={styles.clock} testID="recorder-clock">
          {formatClock(figures.elapsedUs)}
        </Words>
      </View>
      <View style={styles.narrow}>
        <ChalkFrame line={LINE[state.name]}>
          <LiveView
            screen={chosen.source === 'screen' ? sources.screen : null}
            camera={chosen.source === 'sound' ? null : sources.camera}
            empty="Sound alone"
          />
        </ChalkFrame>
      </View>
      <LengthGauge
        usedUs={before + figures.elapsedUs}
        destination={destinationOf(lesson.decisions.plan.destinationId)}
      />
      {chosen.microphone === NONE ? (
        <Notice tone="warn" title="Recording without sound." />
      ) : (
        <LevelMeter {...(running ? view.level : sources.level)} />
      )}
      {view.ended.map((kind) => (
        <ProblemNotice key={kind} code={ENDED_CODE[kind]} />
      ))}
      <Words size="small" tone="soft" role="status">
        {figures.offline
          ? `Under Chalk can’t be reached; ${megabytes} MB wait here and are sent when it is back. Go on.`
          : `Safe on the server but for the last ${megabytes} MB.`}
        {figures.droppedFrames > 0
          ? ` ${figures.droppedFrames} of ${figures.frames} pictures were left out: the computer is busy.`
          : ''}
      </Words>
    </Screen>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.large },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  column: { flex: 1, gap: SPACE.medium },
  footWords: { width: '100%' },
  sign: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    justifyContent: 'space-between',
    alignItems: 'baseline',
    gap: SPACE.small,
  },
  clock: { fontSize: TYPE.clock, lineHeight: TYPE.clock * 1.1, fontVariant: ['tabular-nums'] },
  narrow: { width: '100%', maxWidth: 860, alignSelf: 'center' },
});
