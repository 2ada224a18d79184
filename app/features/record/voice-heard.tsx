import { StyleSheet, View } from 'react-native';
import { HEARD_WORDS } from '@under-chalk/core/sound/voice-check';
import { usePart, type Watched } from '../../data/live-value';
import { Button } from '../../ui/button';
import { LevelMeter } from '../../ui/level-meter';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { Heard } from './use-sources';

interface Props {
  readonly heard: Watched<Heard>;
  readonly onAgain: () => void;
}

/** Asks for a sentence, and says in words what was heard of it. */
export const VoiceHeard = ({ heard, onAgain }: Props) => {
  const { check, level } = usePart(heard, (all) => all);
  const { sentence, next } = HEARD_WORDS[check.heard];
  const tone =
    check.heard === 'hear-you' ? 'good' : check.heard === 'listening' ? 'ink' : ('warn' as const);
  return (
    <View style={styles.group}>
      <View style={styles.line}>
        <View role="status" aria-live="polite" style={styles.words}>
          <Words strong tone={tone} testID="heard-words">
            {sentence}
          </Words>
          {next ? <Words size="small">{next}</Words> : null}
        </View>
        {tone === 'warn' ? <Button small label="Listen again" onPress={onAgain} /> : null}
      </View>
      <LevelMeter wordless now={level.now} held={level.held} />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small, alignItems: 'stretch' },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  // Room for what may have to be said, so that nothing below moves under a finger.
  words: { flexGrow: 1, flexShrink: 1, minHeight: 62 },
});
