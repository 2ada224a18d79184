import { useMemo, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import type { Crop } from '@under-chalk/core/lesson/crop';
import { namedPage, type NamedPage } from '@under-chalk/core/material/named-page';
import { nextTopic } from '@under-chalk/core/plan/topic';
import { prompterParts } from '@under-chalk/core/plan/prompter';
import type { Recorder } from '../../capture/recorder';
import { usePart } from '../../data/live-value';
import { useLayout } from '../../ui/layout';
import { Screen } from '../../ui/screen';
import { Heading } from '../../ui/text';
import { SPACE, TYPE } from '../../ui/theme';
import { BoardTools } from '../board/board-tools';
import type { LiveBoard } from '../board/live-board';
import { useWritingHand } from '../board/writing-hand';
import { useThisLesson } from '../lessons/lesson-layout';
import { useDestination } from '../destinations/lesson-gauge';
import { useLayoutKeys } from '../layouts/use-layout-keys';
import { LiveLayout } from './live-layout';
import { GrowingGauge, LiveLevel, RecorderClock, SafetyLine, type Growing } from './live-figures';
import { OutlineProgress } from './outline-progress';
import { PrompterTools, PrompterView } from './prompter-view';
import { signOf } from './recorder-words';
import { RecordingMore } from './recording-more';
import { RecordingNotices } from './recording-notices';
import { RecordingPicture } from './recording-picture';
import { SmallRecorder } from './small-recorder';
import { useSmallWindow } from './small-window';
import { StopLine, TalkingLine } from './talking-line';
import type { Live } from './use-live';
import { usePrompter } from './use-prompter';
import { useShortcuts, useShortcutSetting } from './use-shortcuts';
import { sharesPicture, type Chosen, type Sources } from './use-sources';
import type { Stay } from './use-stay';

interface Props {
  readonly recorder: Recorder;
  readonly live: Live;
  readonly stay: Stay;
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
  readonly board: LiveBoard;
  readonly crop: Crop;
}

/**
 * From the count-in to the stop: the lights are down, and the one sign says how it stands. The picture is as large
 * as there is room for; what is used while talking is at the thumb, the rest one press away.
 */
export const Recording = (props: Props) => {
  const { recorder, live, stay, chosen, choose, sources, board, crop } = props;
  const { lesson } = useThisLesson();
  const state = usePart(recorder, (view) => view.state);
  const voiced = usePart(recorder, (view) => view.voiced);
  const { beside, low, wide } = useLayout();
  const [more, setMore] = useState(false);
  const [writing, setWriting] = useState(false);
  const hand = useWritingHand();
  const canWrite = chosen.source === 'screen' || chosen.source === 'camera';
  const onBoard = chosen.source === 'board' || (writing && canWrite);
  const narrowSide = { width: onBoard ? 360 : wide ? 330 : 250 };
  const [shortcuts] = useShortcutSetting();
  const { topics, topicsDone, plan } = lesson.decisions;
  const destination = useDestination(plan.destinationId);
  const recording = state.name === 'recording';
  const running = recording || state.name === 'paused';
  const next = nextTopic(topics, topicsDone);
  const parts = prompterParts(topics);
  const prompter = usePrompter(parts, topics, next?.id ?? null, recording);
  // What is there already, without the take that is being recorded (it isn't ready yet, and not counted).
  const filmUs = useMemo(() => filmOf(lesson).durationUs, [lesson]);
  const growing: Growing = { recorder, filmUs, destination };
  const both = sharesPicture(chosen) && sources.camera !== null;
  const pauseOrGoOn = () => (recording ? recorder.pause() : recorder.resume());
  const materials = usePart(board, (view) => view.stacks);
  const show = ({ id, page }: NamedPage) => {
    if (chosen.source === 'sound') return;
    // What lies over what is captured can be written on while it is there.
    setWriting(true);
    board.open(id, page);
  };
  /** Ticks a topic off, and turns to what the next one shows. */
  const tick = (topicId: string) => {
    live.tick(topicId);
    const others = topics.filter(({ id }) => id !== topicId);
    const page = namedPage(nextTopic(others, topicsDone)?.show ?? '', materials);
    if (page) show(page);
  };
  const tickNext = () => {
    if (next && running) tick(next.id);
  };
  useShortcuts(shortcuts, {
    ...(running
      ? {
          pause: pauseOrGoOn,
          flub: live.flub,
          again: () => void recorder.sayAgain(),
          tick: tickNext,
          ...(both ? { camera: live.toggleCamera, layout: live.nextLayout } : {}),
        }
      : {}),
    stop: () => recorder.stop(),
    prompter: () => prompter.hold(!prompter.held),
  });
  useLayoutKeys(running && Boolean(both), Object.values(shortcuts), live.changeLayout);
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
  const sign = (
    <View style={styles.sign}>
      <View aria-live="assertive" style={styles.signWords}>
        <Heading level={1} testID="recorder-sign" style={low ? styles.lowSign : null}>
          {signOf(state)}
        </Heading>
      </View>
      <View style={styles.clocks}>
        <RecorderClock growing={growing} style={low ? styles.lowClock : styles.clock} />
      </View>
    </View>
  );
  // At the thumb on a phone, beside the page elsewhere: nothing of them lies under the hand.
  const tools = onBoard ? <BoardTools board={board} /> : null;
  const measures = (
    <>
      {voiced ? <LiveLevel of={running ? recorder : sources.heard} /> : null}
      <GrowingGauge growing={growing} />
    </>
  );
  return (
    <Screen
      name={signOf(state)}
      wide
      foot={
        <>
          {running ? (
            <>
              {both && !(low && beside) ? (
                <View style={styles.whole}>
                  <LiveLayout live={live} />
                </View>
              ) : null}
              <TalkingLine
                recorder={recorder}
                live={live}
                both={both}
                voiced={voiced}
                write={canWrite ? { on: writing, set: (on) => setWriting(on) } : null}
                onMore={() => setMore(true)}
              />
            </>
          ) : null}
          {running && !beside ? <View style={styles.lineBreak} /> : null}
          <StopLine recorder={recorder} state={state} onPause={pauseOrGoOn} />
        </>
      }
    >
      {wordsShown ? (
        <View style={styles.prompter}>
          <PrompterView parts={parts} prompter={prompter} />
          <PrompterTools prompter={prompter} />
        </View>
      ) : null}
      {beside ? null : sign}
      <View
        style={beside ? [styles.columns, hand === 'left' ? styles.leftHand : null] : styles.stack}
      >
        <View style={beside ? styles.pictureBeside : styles.stack}>
          <RecordingPicture
            state={state}
            chosen={chosen}
            sources={sources}
            board={board}
            writing={writing}
            crop={crop}
            live={live}
            movable={both && running && !writing}
            underWords={wordsShown}
          />
          {beside ? null : tools}
        </View>
        <View style={[styles.stack, beside ? narrowSide : null]}>
          {beside ? sign : null}
          {beside ? tools : null}
          <RecordingNotices
            recorder={recorder}
            stay={stay}
            growing={growing}
            chosen={chosen}
            choose={choose}
            sources={sources}
          />
          {low && beside && both && running ? <LiveLayout live={live} /> : null}
          {measures}
          <OutlineProgress
            topics={topics}
            topicsDone={topicsDone}
            canTick={running}
            onTick={tick}
            onShow={show}
            materials={materials}
          />
          <SafetyLine recorder={recorder} />
        </View>
      </View>
      <RecordingMore
        open={more && running}
        onClose={() => setMore(false)}
        live={live}
        both={both}
        chosen={chosen}
        choose={choose}
        sources={sources}
        board={board}
        small={small}
        words={
          parts.length > 0 && !prompter.settings.shown ? () => prompter.set({ shown: true }) : null
        }
      />
    </Screen>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.medium },
  whole: { width: '100%' },
  lineBreak: { width: '100%', height: 0 },
  columns: { flexDirection: 'row', gap: SPACE.large, alignItems: 'flex-start' },
  leftHand: { flexDirection: 'row-reverse' },
  pictureBeside: { flex: 1 },
  prompter: { gap: SPACE.small, width: '100%', maxWidth: 720, alignSelf: 'center' },
  sign: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    justifyContent: 'space-between',
    alignItems: 'baseline',
    gap: SPACE.hair,
  },
  signWords: { flexShrink: 1 },
  lowSign: { fontSize: TYPE.heading, lineHeight: 30 },
  clocks: { flexDirection: 'row', alignItems: 'baseline', gap: SPACE.medium },
  clock: { fontSize: TYPE.clock, lineHeight: TYPE.clock * 1.1, fontVariant: ['tabular-nums'] },
  lowClock: { fontSize: TYPE.heading, lineHeight: 30, fontVariant: ['tabular-nums'] },
});
