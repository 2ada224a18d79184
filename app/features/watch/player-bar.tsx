import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import { SeekSlider } from '../../player/seek-slider';
import { useText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { KeyCard } from './key-card';
import { SeekPreview } from './seek-preview';
import { SPEEDS, STEP_S, type Player } from './use-player';

interface Props {
  readonly player: Player;
  readonly filmUs: Us;
  /** Width by height of the picture; and where small pictures of it are, if there are any. */
  readonly aspect: number;
  readonly sheetPath: string | null;
  /** There are captions to be switched. */
  readonly captions: boolean;
  /** There is something seen to be told. */
  readonly described: boolean;
  /** What else is chosen about it. */
  readonly children: ReactNode;
}

/** Play, the place in the film, the speed, the whole screen: the same when it fills the screen. */
export const PlayerBar = ({
  player,
  filmUs,
  aspect,
  sheetPath,
  captions,
  described,
  children,
}: Props) => {
  const theme = useTheme();
  const { t } = useText();
  const { playing, waiting, full, atS, speed, keysShown, ownWindow } = player;
  return (
    <View
      style={[styles.bar, full ? { backgroundColor: theme.paper, padding: SPACE.small } : null]}
    >
      <View style={styles.line}>
        <View style={styles.slider}>
          <SeekPreview {...{ filmUs, aspect, sheetPath }}>
            <SeekSlider
              label={t('player.position')}
              valueUs={Math.round(atS * 1e6)}
              mostUs={filmUs}
              onSeek={(us) => player.seek(us / 1e6)}
            />
          </SeekPreview>
        </View>
        <Words size="small" style={styles.clock}>
          {`${formatClock(atS * 1e6)} / ${formatClock(filmUs)}`}
        </Words>
      </View>
      <View style={styles.line}>
        <Button
          kind="main"
          label={playing ? t('player.pause') : t('player.play')}
          onPress={player.toggle}
        />
        <Button
          label={t('player.back', { seconds: STEP_S })}
          spoken={t('player.backSpoken', { seconds: STEP_S })}
          onPress={() => player.seek(atS - STEP_S)}
        />
        <Button
          label={t('player.forward', { seconds: STEP_S })}
          spoken={t('player.forwardSpoken', { seconds: STEP_S })}
          onPress={() => player.seek(atS + STEP_S)}
        />
        <Button
          label={full ? t('player.exitFullScreen') : t('player.fullScreen')}
          onPress={player.fill}
        />
        {ownWindow ? <Button label={t('player.ownWindow')} onPress={ownWindow} /> : null}
      </View>
      <View role="status" style={waiting ? null : styles.nothing}>
        {waiting ? <Words size="small">{t('player.buffering')}</Words> : null}
      </View>
      <View style={styles.line}>
        <View style={styles.speeds}>
          <Choices
            label={t('player.speed')}
            hideLabel
            segments
            choices={SPEEDS.map((value) => ({
              ...{ value, label: t('player.speedValue', { speed: Number(value) }) },
            }))}
            value={speed}
            onChoose={player.setSpeed}
          />
        </View>
        <Button
          small
          kind="bare"
          label={keysShown ? t('player.hideShortcuts') : t('player.shortcuts')}
          expanded={keysShown}
          onPress={player.showKeys}
        />
      </View>
      {keysShown ? <KeyCard captions={captions} described={described} /> : null}
      <View style={styles.choices}>{children}</View>
    </View>
  );
};

const styles = StyleSheet.create({
  bar: { gap: SPACE.small, paddingTop: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
  slider: { flexGrow: 1, flexBasis: 120 },
  // Beside one another where there is room: the picture has what they don't take.
  choices: { flexDirection: 'row', flexWrap: 'wrap', columnGap: SPACE.wide, rowGap: SPACE.small },
  speeds: { flexGrow: 1, flexShrink: 1, flexBasis: 240, maxWidth: 420 },
  clock: { fontVariant: ['tabular-nums'] },
  nothing: { height: 0 },
});
