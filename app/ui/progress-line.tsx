import { StyleSheet, View } from 'react-native';
import { useText } from '../messages/use-text';
import { Words } from './text';
import { SPACE, useTheme } from './theme';

interface Props {
  /** 0 to 1. */
  readonly done: number;
  readonly doing: string;
  /** µs; null while it isn't known. */
  readonly leftUs: number | null;
}

/** Progress with a number, what is being done and the time left. */
export const ProgressLine = ({ done, doing, leftUs }: Props) => {
  const theme = useTheme();
  const { t, length } = useText();
  const percent = Math.floor(done * 100);
  const whole = { doing, done: percent / 100 };
  const line =
    leftUs === null
      ? t('common.progress', whole)
      : t('common.progressLeft', { ...whole, left: length(Math.max(1e6, leftUs)) });
  return (
    <View style={styles.group}>
      <Words size="small">{line}</Words>
      <View
        role="progressbar"
        aria-label={doing}
        aria-valuenow={percent}
        aria-valuemin={0}
        aria-valuemax={100}
        style={[styles.track, { backgroundColor: theme.line }]}
      >
        <View style={[styles.fill, { backgroundColor: theme.action, width: `${percent}%` }]} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  track: { height: 8, borderRadius: 4, overflow: 'hidden' },
  fill: { height: 8 },
});
