import { useEffect, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { isDead, isOpening } from '@under-chalk/core/sound/voice-check';
import type { TrackToMeasure } from '@under-chalk/core/record/storage-left';
import { canRecord, NONE } from '../../capture/devices';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { ChalkFrame } from '../../ui/chalk-frame';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { DrawnCrop } from '../../ui/over-picture';
import { useLayout } from '../../ui/layout';
import { Notice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { BoardSurface } from '../board/board-surface';
import { BoardTools } from '../board/board-tools';
import type { LiveBoard } from '../board/live-board';
import { LessonHead, useThisLesson } from '../lessons/lesson-layout';
import { Materials } from '../materials/materials';
import { ImportFilm } from './import-film';
import { howWords, shownWords, withWords } from './choice-words';
import { KeyCard } from './key-card';
import { LiveView } from './live-view';
import { SourceProblem } from './permission-steps';
import { DeviceChoices, SurfaceChoices } from './source-choices';
import { StartDoubt, type Doubt } from './start-doubts';
import { SurfaceTools } from './surface-tools';
import { TakeList } from './take-list';
import { Unfinished } from './unfinished';
import { useStorageLeft } from './use-storage-left';
import { useShortcutSetting } from './use-shortcuts';
import type { Chosen, Sources } from './use-sources';
import { sharesPicture, tracksOf } from './use-sources';
import { VoiceHeard } from './voice-heard';

interface Props {
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
  readonly board: LiveBoard;
  readonly crop: Crop;
  readonly onCrop: (crop: Crop) => void;
  /** The take that the next one replaces, if it is one said again. */
  readonly redo: { readonly takeId: string; readonly name: string } | null;
  readonly onRedo: (redo: { takeId: string; name: string } | null) => void;
  readonly onStart: (voice: 'as-chosen' | 'without') => void;
}

/** Whether a screen is to be shown that hasn't been chosen in the browser yet. */
const isUnchosen = (chosen: Chosen, sources: Sources) =>
  chosen.source === 'screen' && !sources.screen;

/** Why recording can't begin yet, in words; null when it can. */
const missing = (chosen: Chosen, sources: Sources): string | null => {
  if (!canRecord()) return 'This browser can’t record; bring in a film instead.';
  if (chosen.source === 'camera' && !sources.camera) return 'The camera is not open yet.';
  if (chosen.source === 'sound' && !sources.voice) return 'The microphone is not open yet.';
  if (chosen.microphone !== NONE && !sources.voice) return 'The microphone is not open yet.';
  if (sharesPicture(chosen) && chosen.camera !== NONE && !sources.camera) {
    return 'The camera is not open yet.';
  }
  return null;
};

const EMPTY = {
  screen: 'Choose what to show, and you see it here before it is recorded.',
  camera: 'Choose a camera, and you see yourself here.',
  sound: 'Sound alone: students see the title.',
  board: '',
} as const;

/** Tracks by their size, to tell how much room they need. */
const measured = (chosen: Chosen, sources: Sources): TrackToMeasure[] =>
  Object.entries(tracksOf(chosen, sources)).map(([kind, track]) => {
    const { width = 0, height = 0 } = track.kind === 'video' ? track.getSettings() : {};
    return { kind: kind as TrackToMeasure['kind'], pixels: width * height };
  });

const minutesInWords = (minutes: number) =>
  minutes >= 120
    ? `about ${Math.floor(minutes / 60)} hours`
    : minutes === 1
      ? 'one minute'
      : `${minutes} minutes`;

/** Get ready: the picture, what is heard, a line each for what, with what and how, and *Start*. */
export const GetReady = (props: Props) => {
  const { chosen, choose, sources, board, crop, onCrop, redo, onRedo, onStart } = props;
  const { lesson } = useThisLesson();
  const { beside, low } = useLayout();
  const beforeStart = low && beside ? styles.footBeside : styles.footWords;
  const [doubt, setDoubt] = useState<Doubt>('none');
  // Of which surface a part is being drawn: another surface is another picture.
  const [croppedScreen, setCroppedScreen] = useState<MediaStream | null>(null);
  const cropping = croppedScreen !== null && croppedScreen === sources.screen;
  const { heard, listenAgain } = sources;
  const opening = usePart(heard, ({ check }) => isOpening(check));
  const room = useStorageLeft(measured(chosen, sources));
  const mute = chosen.microphone === NONE;
  const wanting =
    missing(chosen, sources) ??
    (!mute && opening ? 'Listening to the microphone…' : null) ??
    (room.verdict === 'none'
      ? `There is room for less than a minute ${room.where === 'browser' ? 'in this browser' : 'on the server’s disk'}.`
      : null);
  const shownCrop = chosen.source === 'screen' && sources.screen ? crop : UNCROPPED;
  const unchosen = isUnchosen(chosen, sources);
  const showsMaterials = chosen.source === 'board' && chosen.opens === 'materials';

  const start = () => {
    if (mute) return setDoubt('no-microphone');
    if (isDead(heard.view().check)) return setDoubt('dead');
    onStart('as-chosen');
  };
  // What is shown is chosen in the browser's own window, after a press; it begins when it is there.
  const [startsThen, setStartsThen] = useState(false);
  const ready = startsThen && sources.screen !== null && wanting === null;
  useEffect(() => {
    if (!ready) return;
    queueMicrotask(() => {
      setStartsThen(false);
      start();
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when all is there
  }, [ready]);
  const chooseAndStart = () => {
    void sources.chooseScreen().then(setStartsThen);
  };

  const picture = (
    <>
      <ChalkFrame line="none">
        <LiveView
          screen={chosen.source === 'screen' ? sources.screen : null}
          camera={chosen.source === 'sound' || cropping ? null : sources.camera}
          board={chosen.source === 'board' ? <BoardSurface board={board} /> : null}
          crop={cropping ? UNCROPPED : shownCrop}
          empty={EMPTY[chosen.source]}
        >
          {cropping ? <DrawnCrop crop={crop} onCrop={onCrop} /> : null}
        </LiveView>
      </ChalkFrame>
      {chosen.source === 'board' ? <BoardTools board={board} /> : null}
      {showsMaterials ? <Materials /> : null}
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
    </>
  );
  const problems = Object.entries(sources.problems).map(([of, code]) => (
    <SourceProblem key={of} code={code} onRetry={sources.retry}>
      {of === 'camera' && sharesPicture(chosen) ? (
        <Button small label="Go on without the camera" onPress={() => choose({ camera: NONE })} />
      ) : null}
    </SourceProblem>
  ));

  return (
    <Screen
      name={`Record · ${lesson.decisions.plan.title}`}
      wide
      head={<LessonHead />}
      foot={
        <>
          {doubt === 'none' ? (
            <View style={beforeStart}>
              <Words size="small" tone={wanting ? 'warn' : 'soft'}>
                {wanting ??
                  `Not recording yet.${
                    room.minutes === null ? '' : ` Room for ${minutesInWords(room.minutes)}.`
                  }`}
              </Words>
            </View>
          ) : (
            <View style={styles.footWords}>
              <StartDoubt
                doubt={doubt}
                onWithout={() => onStart('without')}
                onBack={() => {
                  if (doubt === 'dead') listenAgain();
                  setDoubt('none');
                }}
              />
            </View>
          )}
          <Button
            kind="main"
            grow
            label={
              redo
                ? `Record ${redo.name} again`
                : unchosen
                  ? 'Choose what to show, and start'
                  : 'Start recording'
            }
            disabled={wanting !== null || startsThen}
            onPress={unchosen ? chooseAndStart : start}
          />
        </>
      }
    >
      <Heading level={1} style={styles.title}>
        Record
      </Heading>
      <Unfinished lessonId={lesson.id} />
      {redo ? (
        <Notice
          title={`The next take replaces ${redo.name}.`}
          text="The old one is left out of the film, not thrown away."
        >
          <Button small label="Make it another stretch instead" onPress={() => onRedo(null)} />
        </Notice>
      ) : null}
      <View style={beside ? styles.columns : styles.stack}>
        <View style={beside ? styles.pictureColumn : styles.stack}>{picture}</View>
        <View style={[beside ? styles.column : null, styles.stack]}>
          {problems}
          {mute || !sources.voice ? null : <VoiceHeard heard={heard} onAgain={listenAgain} />}
          <View>
            <ChoiceLine label="What to show" value={shownWords(chosen)}>
              <SurfaceChoices chosen={chosen} choose={choose} />
            </ChoiceLine>
            <ChoiceLine
              label="With"
              value={withWords(chosen, sources.devices)}
              tone={mute ? 'warn' : 'ink'}
            >
              <DeviceChoices chosen={chosen} choose={choose} sources={sources} />
            </ChoiceLine>
            <ChoiceLine label="How it begins" value={howWords(chosen)}>
              <BeginChoices chosen={chosen} choose={choose} />
            </ChoiceLine>
          </View>
          {room.verdict === 'short' && room.minutes !== null && room.minutes >= 1 ? (
            <Notice
              tone="warn"
              title={`There is room for ${minutesInWords(room.minutes)} of recording ${
                room.where === 'browser' ? 'in this browser' : 'on the server’s disk'
              }.`}
              text="Make room before a long lesson."
            />
          ) : null}
        </View>
      </View>
      <TakeList onRedo={onRedo} />
      {showsMaterials ? null : <Materials />}
      <ImportFilm />
    </Screen>
  );
};

/** The count-in, its ticks, and the keys that work from then on. */
const BeginChoices = ({ chosen, choose }: Pick<Props, 'chosen' | 'choose'>) => {
  const [shortcuts, setShortcuts] = useShortcutSetting();
  return (
    <>
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
      <KeyCard shortcuts={shortcuts} onChange={setShortcuts} />
    </>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.medium },
  title: { fontSize: 24, lineHeight: 30 },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  pictureColumn: { flex: 1.3, gap: SPACE.small },
  column: { flex: 1 },
  footWords: { width: '100%' },
  footBeside: { flexGrow: 1, flexShrink: 1, alignSelf: 'center' },
});
