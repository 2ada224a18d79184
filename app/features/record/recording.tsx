import { useMemo, useState } from 'react';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import type { Crop } from '@under-chalk/core/lesson/crop';
import { nextPoint } from '@under-chalk/core/plan/point';
import { prompterParts } from '@under-chalk/core/plan/prompter';
import type { Recorder } from '../../capture/recorder';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { ChalkFrame } from '../../ui/chalk-frame';
import { InsetDrag } from '../../ui/inset-drag';
import { Notice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading } from '../../ui/text';
import { SPACE, TYPE, WIDE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { useDestination } from '../destinations/lesson-gauge';
import { DeviceEnded } from './device-ended';
import { KeyCard } from './key-card';
import { LiveArrangement } from './live-arrangement';
import {
  GrowingGauge,
  LimitNotice,
  LiveLevel,
  RecorderClock,
  SafetyLine,
  type Growing,
} from './live-figures';
import { LiveView, liveTrack } from './live-view';
import { PointTicks } from './point-ticks';
import { PrompterTools, PrompterView } from './prompter-view';
import { RecoveredNotices } from './recovered-notices';
import { LINE, signOf } from './recorder-words';
import { SmallRecorder } from './small-recorder';
import { StoreFullNotice } from './store-full-notice';
import { canOpenSmallWindow, useSmallWindow } from './small-window';
import { SurfaceChange } from './surface-change';
import type { Live } from './use-live';
import { usePrompter } from './use-prompter';
import { useShortcuts, useShortcutSetting } from './use-shortcuts';
import type { Chosen, Sources } from './use-sources';
import type { Stay } from './use-stay';

interface Props {
  readonly recorder: Recorder;
  readonly live: Live;
  readonly stay: Stay;
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
  readonly crop: Crop;
}

/** From the count-in to the stop: the lights are down, and the one sign says how it stands. */
export const Recording = ({ recorder, live, stay, chosen, choose, sources, crop }: Props) => {
  const { lesson } = useThisLesson();
  const state = usePart(recorder, (view) => view.state);
  const voiced = usePart(recorder, (view) => view.voiced);
  const silent = usePart(recorder, (view) => view.silent);
  const storeFull = usePart(recorder, (view) => view.storeFull);
  const ended = usePart(recorder, (view) => view.ended);
  const { width } = useWindowDimensions();
  const wide = width >= WIDE;
  const [keysShown, setKeysShown] = useState(false);
  const [shortcuts] = useShortcutSetting();
  const { points, ticks, plan } = lesson.decisions;
  const destination = useDestination(plan.destinationId);
  const recording = state.name === 'recording';
  const running = recording || state.name === 'paused';
  const next = nextPoint(points, ticks);
  const parts = prompterParts(points);
  const prompter = usePrompter(parts, points, next?.id ?? null, recording);
  // What is there already, without the take that is being recorded (it isn't ready yet, and not counted).
  const filmUs = useMemo(() => filmOf(lesson).durationUs, [lesson]);
  const growing: Growing = { recorder, filmUs, destination };
  const camera = liveTrack(sources.camera, 'camera');
  const both = chosen.source === 'screen' && sources.camera !== null;
  const moveable = both && running && !live.cameraOff && live.arrangement.kind === 'inset';
  const pauseOrGoOn = () => (recording ? recorder.pause() : recorder.resume());
  const tickNext = () => {
    if (next && running) live.tick(next.id);
  };
  useShortcuts(shortcuts, {
    ...(running
      ? {
          pause: pauseOrGoOn,
          flub: live.flub,
          again: () => void recorder.sayAgain(),
          tick: tickNext,
          ...(both ? { camera: live.toggleCamera, arrangement: live.nextArrangement } : {}),
        }
      : {}),
    stop: () => recorder.stop(),
    prompter: () => prompter.hold(!prompter.held),
  });
  const small = useSmallWindow(
    'Under Chalk',
    <SmallRecorder
      growing={growing}
      parts={parts}
      prompter={prompter}
      nextText={next?.text ?? null}
      onTick={tickNext}
      onFlub={live.flub}
    />,
  );
  const wordsShown = parts.length > 0 && prompter.settings.shown;

  const picture = (
    <View style={styles.narrow}>
      <ChalkFrame line={LINE[state.name]}>
        <LiveView
          screen={chosen.source === 'screen' ? sources.screen : null}
          camera={chosen.source === 'sound' ? null : sources.camera}
          arrangement={live.arrangement}
          crop={crop}
          empty="Sound alone"
        >
          {moveable && camera ? (
            <InsetDrag
              inset={live.arrangement.inset}
              cameraAspect={camera.widthPx / camera.heightPx}
              frameAspect={16 / 9}
              onMove={(inset) => live.arrange({ inset })}
            />
          ) : null}
        </LiveView>
      </ChalkFrame>
    </View>
  );
  const notices = (
    <>
      {stay.asked ? (
        <Notice
          tone="warn"
          urgent
          title={recording ? 'It goes on recording.' : 'The take has not ended.'}
          text="Going back ends it here. What has been recorded is kept."
        >
          <Button label="Stay here" onPress={stay.stay} />
          <Button
            label="Stop and go back"
            onPress={() => {
              stay.leave();
              recorder.stop();
            }}
          />
        </Notice>
      ) : null}
      <LimitNotice growing={growing} />
      {voiced ? null : <Notice tone="warn" title="Recording without sound." />}
      {voiced && silent ? (
        <Notice
          tone="bad"
          urgent
          title="Nothing has been heard for a while."
          text="It goes on recording. Is the microphone muted, or too far away?"
        />
      ) : null}
      {storeFull ? <StoreFullNotice /> : null}
      <RecoveredNotices recorder={recorder} />
      {ended.map((kind) => (
        <DeviceEnded key={kind} kind={kind} chosen={chosen} choose={choose} sources={sources} />
      ))}
    </>
  );
  const measures = (
    <>
      {voiced ? <LiveLevel of={running ? recorder : sources.heard} /> : null}
      <GrowingGauge growing={growing} />
    </>
  );
  const controls = (
    <View style={styles.stack}>
      {both && running ? <LiveArrangement live={live} /> : null}
      <View style={styles.buttons}>
        {both && running ? (
          <Button
            small
            label={live.cameraOff ? 'Camera on' : 'Camera off'}
            onPress={live.toggleCamera}
          />
        ) : null}
        {parts.length > 0 && !prompter.settings.shown ? (
          <Button small label="Words to read" onPress={() => prompter.set({ shown: true })} />
        ) : null}
        {canOpenSmallWindow() ? (
          <Button
            small
            label={small.open ? 'Close the small window' : 'Small window on top'}
            onPress={small.open ? small.close : small.show}
          />
        ) : null}
        <Button small label="Keys" expanded={keysShown} onPress={() => setKeysShown(!keysShown)} />
        {sources.clap && running ? (
          <Button
            small
            label="Clapper"
            spoken="Practice clapper: a flash and a click"
            onPress={sources.clap}
          />
        ) : null}
      </View>
      {chosen.source === 'screen' && running ? (
        <SurfaceChange chosen={chosen} choose={choose} sources={sources} />
      ) : null}
      {keysShown ? <KeyCard shortcuts={shortcuts} /> : null}
      <PointTicks points={points} ticks={ticks} canTick={running} onTick={live.tick} />
      <SafetyLine recorder={recorder} />
    </View>
  );

  return (
    <Screen
      name={signOf(state)}
      wide
      foot={
        <>
          {running ? (
            <>
              <Button
                grow
                label={live.flubs > 0 ? `Flub (${live.flubs})` : 'Flub'}
                spoken={`Mark a flub; ${live.flubs} marked`}
                onPress={live.flub}
              />
              <Button
                grow
                label="Say that again"
                disabled={!voiced}
                onPress={() => void recorder.sayAgain()}
              />
              {wide ? null : <View style={styles.footBreak} />}
              <Button grow label={recording ? 'Pause' : 'Go on recording'} onPress={pauseOrGoOn} />
            </>
          ) : null}
          <Button
            kind="main"
            grow
            label={running || state.name === 'stopping' ? 'Stop' : 'Don’t start'}
            disabled={state.name === 'stopping'}
            onPress={() => recorder.stop()}
          />
        </>
      }
    >
      {wordsShown ? (
        <View style={styles.prompter}>
          <PrompterView parts={parts} prompter={prompter} />
          <PrompterTools prompter={prompter} />
        </View>
      ) : null}
      <View style={styles.sign} role="status" aria-live="assertive">
        <Heading level={1} testID="recorder-sign">
          {signOf(state)}
        </Heading>
        <View style={styles.clocks}>
          <RecorderClock growing={growing} style={styles.clock} />
        </View>
      </View>
      <View style={wide ? styles.columns : styles.stack}>
        <View style={[styles.stack, wide ? styles.pictureBeside : null]}>
          {picture}
          {notices}
          {wide ? null : measures}
        </View>
        <View style={[styles.stack, wide ? styles.beside : null]}>
          {wide ? measures : null}
          {controls}
        </View>
      </View>
    </Screen>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.medium },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  pictureBeside: { flex: 1.5 },
  beside: { flex: 1 },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  prompter: { gap: SPACE.small, width: '100%', maxWidth: 720, alignSelf: 'center' },
  sign: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    justifyContent: 'space-between',
    alignItems: 'baseline',
    gap: SPACE.small,
  },
  clocks: { flexDirection: 'row', alignItems: 'baseline', gap: SPACE.medium },
  clock: { fontSize: TYPE.clock, lineHeight: TYPE.clock * 1.1, fontVariant: ['tabular-nums'] },
  narrow: { width: '100%', maxWidth: 860, alignSelf: 'center' },
  footBreak: { width: '100%', height: 0 },
});
