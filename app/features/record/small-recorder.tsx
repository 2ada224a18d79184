import { StyleSheet, View } from 'react-native';
import type { PrompterPart } from '@under-chalk/core/plan/prompter';
import { formatClock } from '@under-chalk/core/time/us';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE, TYPE, useTheme } from '../../ui/theme';
import { LiveLevel, useLimitWords, type Growing } from './live-figures';
import { PrompterView } from './prompter-view';
import { signOf } from './recorder-words';
import type { Prompter } from './use-prompter';

interface Props {
  readonly growing: Growing;
  readonly parts: readonly PrompterPart[];
  readonly prompter: Prompter;
  readonly nextText: string | null;
  readonly onTick: () => void;
  readonly onFlub: () => void;
}

/** What the small window on top shows: the words, the sign, the clock, the level and the buttons. */
export const SmallRecorder = (props: Props) => {
  const { growing, parts, prompter, nextText, onTick, onFlub } = props;
  const { recorder } = growing;
  const theme = useTheme();
  const state = usePart(recorder, (view) => view.state);
  const clock = usePart(recorder, ({ figures }) => formatClock(figures.elapsedUs));
  const voiced = usePart(recorder, (view) => view.voiced);
  const silent = usePart(recorder, (view) => view.silent);
  const limitWords = useLimitWords(growing);
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
          {clock}
        </Words>
      </View>
      {limitWords ? <Words tone="warn">{limitWords}</Words> : null}
      {voiced && silent ? <Words tone="bad">Nothing has been heard for a while.</Words> : null}
      {voiced ? <LiveLevel of={recorder} /> : null}
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
              <Button small label="Mark done" spoken={`Mark done: ${nextText}`} onPress={onTick} />
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
