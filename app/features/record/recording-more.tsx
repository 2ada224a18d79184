import { StyleSheet, View } from 'react-native';
import { Button } from '../../ui/button';
import { Sheet } from '../../ui/sheet';
import { SPACE } from '../../ui/theme';
import type { LiveBoard } from '../board/live-board';
import { SavedLayouts } from '../layouts/saved-layouts';
import { StayingChoice } from '../board/staying-choice';
import { WritingHandChoice } from '../board/writing-hand';
import { KeyCard } from './key-card';
import { LiveCorner } from './live-layout';
import { canOpenSmallWindow, type SmallWindow } from './small-window';
import { SurfaceChange } from './surface-change';
import type { Live } from './use-live';
import { useShortcutSetting } from './use-shortcuts';
import type { Chosen, Sources } from './use-sources';

interface Props {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly live: Live;
  readonly both: boolean;
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
  readonly board: LiveBoard;
  readonly small: SmallWindow;
  /** Shows the words to read; null where there are none, or they are shown. */
  readonly words: (() => void) | null;
}

/** What is seldom wanted while recording, one press away. It goes on recording under it. */
export const RecordingMore = (props: Props) => {
  const { open, onClose, live, both, chosen, choose, sources, board, small, words } = props;
  const [shortcuts] = useShortcutSetting();
  const then = (act: () => void) => () => {
    onClose();
    act();
  };
  return (
    <Sheet title="More while recording" open={open} onClose={onClose}>
      {both ? <LiveCorner live={live} /> : null}
      {both ? <SavedLayouts now={live.layout} onChoose={live.changeLayout} keyed /> : null}
      <View style={styles.buttons}>
        {words ? <Button small label="Words to read" onPress={then(words)} /> : null}
        {canOpenSmallWindow() ? (
          <Button
            small
            label={small.open ? 'Close the small window' : 'Small window on top'}
            onPress={then(small.open ? small.close : small.show)}
          />
        ) : null}
        {sources.clap ? (
          <Button
            small
            label="Clapper"
            spoken="Practice clapper: a flash and a click"
            onPress={then(sources.clap)}
          />
        ) : null}
      </View>
      {chosen.source !== 'sound' ? (
        <>
          <StayingChoice board={board} />
          <WritingHandChoice />
        </>
      ) : null}
      {chosen.source === 'screen' ? (
        <SurfaceChange chosen={chosen} choose={choose} sources={sources} />
      ) : null}
      <KeyCard shortcuts={shortcuts} />
    </Sheet>
  );
};

const styles = StyleSheet.create({
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
