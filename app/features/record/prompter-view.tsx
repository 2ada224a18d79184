import { memo, useCallback, useRef, useState } from 'react';
import { StyleSheet, View, type LayoutRectangle } from 'react-native';
import { PROMPTER_SPEED, type PrompterPart } from '@under-chalk/core/plan/prompter';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, TYPE, useTheme } from '../../ui/theme';
import type { Prompter } from './use-prompter';

const LINE_PX = 38;
/** Where the line to be read stands: near the top, and so near the camera. */
const READ_AT_PX = 12;

interface Props {
  readonly parts: readonly PrompterPart[];
  readonly prompter: Prompter;
  readonly heightPx?: number;
}

/** The words to read, large, at the top edge, moving under a still line. */
export const PrompterView = ({ parts, prompter, heightPx = 128 }: Props) => {
  const theme = useTheme();
  const [layouts, setLayouts] = useState<Readonly<Record<number, LayoutRectangle>>>({});
  const measured = useRef(layouts);
  const onMeasured = useCallback((index: number, layout: LayoutRectangle) => {
    measured.current = { ...measured.current, [index]: layout };
    setLayouts(measured.current);
  }, []);
  const { settings } = prompter;
  const place = prompter.placeAt(usePart(prompter.readUs, (readUs) => readUs));
  const at = layouts[place.part];
  const offset = at ? at.y + place.through * at.height : 0;
  return (
    <View
      testID="prompter"
      role="region"
      aria-label="Words to read"
      style={[
        styles.window,
        { height: heightPx, backgroundColor: theme.card, borderColor: theme.line },
        settings.mirrored ? styles.mirrored : null,
      ]}
    >
      <View style={[styles.words, { top: READ_AT_PX - offset }]} testID="prompter-words">
        {parts.map((part, index) => (
          <Part
            key={`${part.topicId} ${part.before}`}
            index={index}
            text={part.text}
            read={index < place.part}
            onMeasured={onMeasured}
          />
        ))}
      </View>
    </View>
  );
};

interface PartProps {
  readonly index: number;
  readonly text: string;
  readonly read: boolean;
  readonly onMeasured: (index: number, layout: LayoutRectangle) => void;
}

/** One part of the words: only its place moves, so it is drawn once. */
const Part = memo(function Part({ index, text, read, onMeasured }: PartProps) {
  const theme = useTheme();
  return (
    <View onLayout={({ nativeEvent }) => onMeasured(index, nativeEvent.layout)}>
      <Words strong style={[styles.large, { color: read ? theme.inkSoft : theme.ink }]}>
        {text}
      </Words>
    </View>
  );
});

/** Speed, mirror, hold: what can be done with the prompter. */
export const PrompterTools = ({ prompter }: { prompter: Prompter }) => {
  const { settings, set, held, hold, move } = prompter;
  const speed = (by: number) =>
    set({
      wordsPerMinute: Math.min(
        PROMPTER_SPEED.most,
        Math.max(PROMPTER_SPEED.least, settings.wordsPerMinute + by),
      ),
    });
  const steady = settings.follows === 'speed';
  const [open, setOpen] = useState(false);
  return (
    <View style={styles.tools} role="group" aria-label="Prompter">
      {steady ? (
        <>
          <Button
            small
            label={held ? 'Let the words go on' : 'Hold the words'}
            onPress={() => hold(!held)}
          />
          <Button small label="Back a line" onPress={() => move(-10)} />
        </>
      ) : (
        <Words size="small" tone="soft">
          The words follow the ticks.
        </Words>
      )}
      <Button
        small
        kind="bare"
        label={open ? 'Done' : 'Set'}
        spoken={open ? 'Fold the prompter’s settings in' : 'Set the prompter'}
        expanded={open}
        onPress={() => setOpen(!open)}
      />
      {open ? (
        <>
          {steady ? (
            <View style={styles.speed}>
              <Button small label="Slower" onPress={() => speed(-PROMPTER_SPEED.step)} />
              <Words size="small" role="status" style={styles.count}>
                {`${settings.wordsPerMinute} words a minute`}
              </Words>
              <Button small label="Faster" onPress={() => speed(PROMPTER_SPEED.step)} />
            </View>
          ) : null}
          <Button
            small
            label={steady ? 'Follow the ticks' : 'Follow a speed'}
            onPress={() => set({ follows: steady ? 'ticks' : 'speed' })}
          />
          <Button
            small
            label={settings.mirrored ? 'Unmirror' : 'Mirror'}
            onPress={() => set({ mirrored: !settings.mirrored })}
          />
          <Button small label="Put the words away" onPress={() => set({ shown: false })} />
        </>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  window: { borderWidth: 1, borderRadius: RADIUS.medium, overflow: 'hidden' },
  mirrored: { transform: [{ scaleX: -1 }] },
  words: { position: 'absolute', left: SPACE.medium, right: SPACE.medium, gap: SPACE.small },
  large: { fontSize: TYPE.heading + 2, lineHeight: LINE_PX },
  speed: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small, width: '100%' },
  count: { flexShrink: 1 },
  tools: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
