import { useSyncExternalStore } from 'react';
import { StyleSheet, View } from 'react-native';
import type { PrompterPart } from '@under-chalk/core/plan/prompter';
import type { Limit } from '@under-chalk/core/record/limit';
import { formatClock } from '@under-chalk/core/time/us';
import type { Recorder } from '../../capture/recorder';
import { Button } from '../../ui/button';
import { LevelMeter } from '../../ui/level-meter';
import { Words } from '../../ui/text';
import { SPACE, TYPE, useTheme } from '../../ui/theme';
import { PrompterView } from './prompter-view';
import { signOf } from './recorder-words';
import type { Prompter } from './use-prompter';

interface Props {
  readonly recorder: Recorder;
  readonly parts: readonly PrompterPart[];
  readonly prompter: Prompter;
  readonly limit: Limit;
  readonly nextText: string | null;
  readonly onTick: () => void;
  readonly onFlub: () => void;
}

/** What the small window on top shows: the words, the sign, the clock, the level and the buttons. */
export const SmallRecorder = (props: Props) => {
  const { recorder, parts, prompter, limit, nextText, onTick, onFlub } = props;
  const theme = useTheme();
  const view = useSyncExternalStore(recorder.subscribe, recorder.view, recorder.view);
  const { state, figures } = view;
  const recording = state.name === 'recording';
  const running = recording || state.name === 'paused';
  return (
    <View role="main" style={[styles.page, { backgroundColor: theme.paper }]}>
      {parts.length > 0 ? <PrompterView parts={parts} prompter={prompter} heightPx={120} /> : null}
      <View style={styles.line}>
        <Words strong size="large" testID="small-sign">
          {signOf(state)}
        </Words>
        <Words size="heading" style={styles.clock}>
          {formatClock(figures.elapsedUs)}
        </Words>
      </View>
      {limit.words ? <Words tone="warn">{limit.words}</Words> : null}
      {view.silent ? <Words tone="bad">Nothing has been heard for a while.</Words> : null}
      <LevelMeter {...view.level} />
      <View style={styles.buttons}>
        {running ? (
          <>
            <Button
              small
              label={recording ? 'Pause' : 'Go on recording'}
              onPress={() => (recording ? recorder.pause() : recorder.resume())}
            />
            <Button small label="Flub" onPress={onFlub} />
            {nextText ? (
              <Button small label="Tick off" spoken={`Tick off ${nextText}`} onPress={onTick} />
            ) : null}
            <Button small kind="main" label="Stop" onPress={() => recorder.stop()} />
          </>
        ) : null}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  page: { flexGrow: 1, padding: SPACE.medium, gap: SPACE.small },
  line: {
    flexDirection: 'row',
    justifyContent: 'space-between',
    alignItems: 'baseline',
    flexWrap: 'wrap',
  },
  clock: { fontVariant: ['tabular-nums'], fontSize: TYPE.heading },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
