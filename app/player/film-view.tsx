import { useCallback, type ReactNode } from 'react';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import { aspectOf } from '@under-chalk/core/lesson/layout';
import { formatClock, formatSpoken } from '@under-chalk/core/time/us';
import { usePart } from '../data/live-value';
import { useText } from '../messages/use-text';
import { Button } from '../ui/button';
import { Words } from '../ui/text';
import { RADIUS, SPACE } from '../ui/theme';
import type { FilmPlayer } from './film-player';
import { SeekSlider } from './seek-slider';

/** Share of the window's height that the picture takes where nothing else is said. */
const MOST_SHARE = 0.75;

interface Props {
  readonly player: FilmPlayer;
  /** Most that the picture may take of the window's height, px; else three quarters. */
  readonly mostHigh?: number;
  /** Lies over the picture, for what can be moved there. */
  readonly children?: ReactNode;
}

/** The picture of the film, with what is needed to move in it. */
export const FilmView = ({ player, mostHigh, children }: Props) => {
  const attach = useCallback((canvas: HTMLCanvasElement | null) => player.attach(canvas), [player]);
  const { height } = useWindowDimensions();
  const high = mostHigh ?? height * MOST_SHARE;
  const aspect = aspectOf(player.film.lesson.decisions.frame.shape);
  const seekMs = usePart(player, (view) => view.seekMs);
  const atSecond = usePart(player, (view) => Math.floor(view.filmUs / 1_000_000));
  return (
    <View style={styles.group}>
      <View style={[styles.picture, { aspectRatio: aspect, maxWidth: high * aspect }]}>
        <canvas
          ref={attach}
          role="img"
          aria-label={`The film at ${formatSpoken(atSecond * 1_000_000)}`}
          data-seek-ms={seekMs ?? ''}
          style={{ width: '100%', height: '100%', display: 'block' }}
        />
        {children}
      </View>
      <PlayBar player={player} />
    </View>
  );
};

const PlayBar = ({ player }: { player: FilmPlayer }) => {
  const playing = usePart(player, (view) => view.playing);
  const { t } = useText();
  const filmUs = usePart(player, (view) => view.filmUs);
  const durationUs = usePart(player, (view) => view.durationUs);
  return (
    <View style={styles.bar}>
      <Button
        small
        label={playing ? t('player.pause') : t('player.play')}
        disabled={durationUs === 0}
        onPress={() => (playing ? player.pause() : player.play())}
      />
      <View style={styles.slider}>
        <SeekSlider
          label={t('player.position')}
          valueUs={filmUs}
          mostUs={durationUs}
          onSeek={(us) => void player.seek(us)}
        />
      </View>
      <Words size="small" style={styles.clock}>
        {`${formatClock(filmUs)} / ${formatClock(durationUs)}`}
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  picture: {
    width: '100%',
    alignSelf: 'center',
    borderRadius: RADIUS.small,
    overflow: 'hidden',
    backgroundColor: '#20292f',
  },
  bar: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  slider: { flexGrow: 1, flexShrink: 1 },
  clock: { fontVariant: ['tabular-nums'] },
});
