import { useState } from 'react';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { HEARD_WORDS, isDead, isOpening } from '@under-chalk/core/sound/voice-check';
import type { TrackToMeasure } from '@under-chalk/core/record/room';
import { canRecord, NONE } from '../../capture/devices';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { ChalkFrame } from '../../ui/chalk-frame';
import { Choices } from '../../ui/choices';
import { CropBox } from '../../ui/crop-box';
import { Notice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, WIDE } from '../../ui/theme';
import { LessonHead, useThisLesson } from '../lessons/lesson-layout';
import { BringIn } from './bring-in';
import { KeyCard } from './key-card';
import { LiveView } from './live-view';
import { SourceProblem } from './permission-steps';
import { SourceChoices } from './source-choices';
import { SurfaceTools } from './surface-tools';
import { TakeList } from './take-list';
import { Unfinished } from './unfinished';
import { useRoomLeft } from './use-room-left';
import { useShortcutSetting } from './use-shortcuts';
import type { Chosen, Sources } from './use-sources';
import { tracksOf } from './use-sources';
import { VoiceHeard } from './voice-heard';

interface Props {
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
  readonly crop: Crop;
  readonly onCrop: (crop: Crop) => void;
  /** The take that the next one replaces, if it is one said again. */
  readonly redo: { readonly takeId: string; readonly name: string } | null;
  readonly onRedo: (redo: { takeId: string; name: string } | null) => void;
  readonly onStart: (voice: 'as-chosen' | 'without') => void;
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

const EMPTY = {
  screen: 'Choose what to show, and you see it here before it is recorded.',
  camera: 'Choose a camera, and you see yourself here.',
  sound: 'Sound alone: students see the title.',
} as const;

/** Tracks by their size, to tell how much room they need. */
const measured = (chosen: Chosen, sources: Sources): TrackToMeasure[] =>
  Object.entries(tracksOf(chosen, sources)).map(([kind, track]) => {
    const { width = 0, height = 0 } = track.kind === 'video' ? track.getSettings() : {};
    return { kind: kind as TrackToMeasure['kind'], pixels: width * height };
  });

/** Get ready: what will be in the picture, the camera's view, what the microphone hears, the room left. */
export const GetReady = (props: Props) => {
  const { chosen, choose, sources, crop, onCrop, redo, onRedo, onStart } = props;
  const { lesson } = useThisLesson();
  const { width } = useWindowDimensions();
  const wide = width >= WIDE;
  const [doubt, setDoubt] = useState<'none' | 'no-microphone' | 'dead'>('none');
  // Of which surface a part is being drawn: another surface is another picture.
  const [croppedScreen, setCroppedScreen] = useState<MediaStream | null>(null);
  const cropping = croppedScreen !== null && croppedScreen === sources.screen;
  const [keysShown, setKeysShown] = useState(false);
  const [shortcuts, setShortcuts] = useShortcutSetting();
  const { heard, listenAgain } = sources;
  const opening = usePart(heard, ({ check }) => isOpening(check));
  const room = useRoomLeft(measured(chosen, sources));
  const mute = chosen.microphone === NONE;
  const wanting =
    missing(chosen, sources) ??
    (!mute && opening ? 'Listening to the microphone…' : null) ??
    (room.verdict === 'none'
      ? `There is room for less than a minute ${room.where === 'browser' ? 'in this browser' : 'on the server’s disk'}.`
      : null);
  const shownCrop = chosen.source === 'screen' && sources.screen ? crop : UNCROPPED;

  const start = () => {
    if (mute) return setDoubt('no-microphone');
    if (isDead(heard.view().check)) return setDoubt('dead');
    onStart('as-chosen');
  };

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
                `Not recording yet.${chosen.countIn > 0 ? ` Counts ${chosen.countIn} s in.` : ''}${
                  room.minutes === null ? '' : ` Room for ${minutesInWords(room.minutes)}.`
                }`}
            </Words>
          </View>
          <Button
            kind="main"
            grow
            label={redo ? `Record ${redo.name} again` : 'Start recording'}
            disabled={wanting !== null}
            onPress={start}
          />
        </>
      }
    >
      <Heading level={1}>Record</Heading>
      <Unfinished lessonId={lesson.id} />
      {redo ? (
        <Notice
          title={`The next take replaces ${redo.name}.`}
          text="The old one is left out of the film, not thrown away."
        >
          <Button small label="Make it another stretch instead" onPress={() => onRedo(null)} />
        </Notice>
      ) : null}
      {doubt === 'no-microphone' ? (
        <Notice
          tone="warn"
          urgent
          title="No microphone is chosen: this take will have no voice."
          text="Choose one below, or record without sound on purpose."
        >
          <Button label="Record without sound" onPress={() => onStart('without')} />
          <Button label="Not like this" onPress={() => setDoubt('none')} />
        </Notice>
      ) : null}
      {doubt === 'dead' ? (
        <Notice
          tone="bad"
          urgent
          title="Nothing at all has come from the microphone."
          text={HEARD_WORDS.nothing.next}
        >
          <Button
            label="Listen again"
            onPress={() => {
              listenAgain();
              setDoubt('none');
            }}
          />
          <Button label="Record without sound" onPress={() => onStart('without')} />
        </Notice>
      ) : null}
      {room.verdict === 'short' && room.minutes !== null && room.minutes >= 1 ? (
        <Notice
          tone="warn"
          title={`There is room for ${minutesInWords(room.minutes)} of recording ${
            room.where === 'browser' ? 'in this browser' : 'on the server’s disk'
          }.`}
          text="Make room before a long lesson."
        />
      ) : null}
      <View style={wide ? styles.columns : styles.stack}>
        <View style={wide ? styles.column : styles.stack}>
          <ChalkFrame line="none">
            <LiveView
              screen={chosen.source === 'screen' ? sources.screen : null}
              camera={chosen.source === 'sound' || cropping ? null : sources.camera}
              crop={cropping ? UNCROPPED : shownCrop}
              empty={EMPTY[chosen.source]}
            >
              {cropping ? <CropBox crop={crop} onCrop={onCrop} /> : null}
            </LiveView>
          </ChalkFrame>
          {chosen.source === 'screen' ? (
            <SurfaceTools
              chosen={chosen}
              sources={sources}
              crop={crop}
              cropping={cropping}
              onCropping={(on) => setCroppedScreen(on ? sources.screen : null)}
              onCrop={onCrop}
            />
          ) : null}
          {mute || !sources.voice ? null : <VoiceHeard heard={heard} onAgain={listenAgain} />}
          {Object.entries(sources.problems).map(([of, code]) => (
            <SourceProblem key={of} code={code} onRetry={sources.retry} />
          ))}
        </View>
        <View style={[wide ? styles.column : null, styles.stack]}>
          <SourceChoices chosen={chosen} choose={choose} sources={sources} />
          <Choices
            label="Count-in"
            choices={(['0', '3', '5', '10'] as const).map((value) => ({
              value,
              label: value === '0' ? 'none' : `${value} s`,
            }))}
            value={String(chosen.countIn) as '0' | '3' | '5' | '10'}
            onChoose={(value) => choose({ countIn: Number(value) as Chosen['countIn'] })}
          />
          {chosen.countIn > 0 ? (
            <Choices
              label="Ticks of the count-in"
              choices={[
                { value: 'on', label: 'soft ticks' },
                { value: 'off', label: 'silent' },
              ]}
              value={chosen.ticks ? 'on' : 'off'}
              onChoose={(value) => choose({ ticks: value === 'on' })}
            />
          ) : null}
          <View style={styles.start}>
            <Button
              small
              label={keysShown ? 'Put the keys away' : 'Keys while recording'}
              expanded={keysShown}
              onPress={() => setKeysShown(!keysShown)}
            />
          </View>
          {keysShown ? <KeyCard shortcuts={shortcuts} onChange={setShortcuts} /> : null}
        </View>
      </View>
      <TakeList onRedo={onRedo} />
      <BringIn />
    </Screen>
  );
};

const minutesInWords = (minutes: number) =>
  minutes >= 120
    ? `about ${Math.floor(minutes / 60)} hours`
    : minutes === 1
      ? 'one minute'
      : `${minutes} minutes`;

const styles = StyleSheet.create({
  stack: { gap: SPACE.large },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  column: { flex: 1, gap: SPACE.medium },
  footWords: { width: '100%' },
  start: { alignItems: 'flex-start' },
});
