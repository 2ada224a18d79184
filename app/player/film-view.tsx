import { useCallback, type ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { aspectOf } from '@under-chalk/core/lesson/arrangement';
import { formatClock, formatSpoken } from '@under-chalk/core/time/us';
import { Button } from '../ui/button';
import { Words } from '../ui/text';
import { RADIUS, SPACE } from '../ui/theme';
import type { FilmPlayer, PlayerView } from './film-player';
import { SeekSlider } from './seek-slider';

interface Props {
  readonly player: FilmPlayer;
  readonly view: PlayerView;
  /** Lies over the picture, for what can be moved there. */
  readonly children?: ReactNode;
}

/** The picture of the film, with what is needed to move in it. */
export const FilmView = ({ player, view, children }: Props) => {
  const attach = useCallback((canvas: HTMLCanvasElement | null) => player.attach(canvas), [player]);
  const aspect = aspectOf(player.film.lesson.decisions.frame.shape);
  return (
    <View style={styles.group}>
      <View style={[styles.picture, { aspectRatio: aspect }]}>
        <canvas
          ref={attach}
          role="img"
          aria-label={`The film at ${formatSpoken(view.filmUs)}`}
          data-seek-ms={view.seekMs ?? ''}
          style={{ width: '100%', height: '100%', display: 'block' }}
        />
        {children}
      </View>
      <View style={styles.bar}>
        <Button
          small
          label={view.playing ? 'Pause' : 'Play'}
          disabled={view.durationUs === 0}
          onPress={() => (view.playing ? player.pause() : player.play())}
        />
        <View style={styles.slider}>
          <SeekSlider
            label="Place in the film"
            valueUs={view.filmUs}
            mostUs={view.durationUs}
            onSeek={(filmUs) => void player.seek(filmUs)}
          />
        </View>
        <Words size="small" style={styles.clock}>
          {`${formatClock(view.filmUs)} / ${formatClock(view.durationUs)}`}
        </Words>
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  picture: {
    width: '100%',
    borderRadius: RADIUS.small,
    overflow: 'hidden',
    backgroundColor: '#20292f',
  },
  bar: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  slider: { flexGrow: 1, flexShrink: 1 },
  clock: { fontVariant: ['tabular-nums'] },
});
