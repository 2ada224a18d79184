import { StyleSheet, View } from 'react-native';
import { filmTimeFrom, recordedAt, type Film } from '@under-chalk/core/film/film';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { snapped } from '@under-chalk/core/sound/snap';
import { frameToUs } from '@under-chalk/core/time/frames';
import { formatTenths, parseClock, type Us } from '@under-chalk/core/time/us';
import { Button } from '../../ui/button';
import { DraggedEnd } from '../../ui/over-picture';
import { Stepper } from '../../ui/stepper';
import { SPACE } from '../../ui/theme';
import { secondsOf, type OpenStretch } from './open-stretch';
import { useTidy, useTidying } from './tidying';
import { useCut } from './use-cut';

const STEP_US = 100_000;
const FRAME_US = frameToUs(1);
/** The least that is chosen. */
const LEAST_US = 2 * FRAME_US;

interface Props {
  readonly film: Film;
  readonly stretch: OpenStretch;
  readonly durationUs: Us;
  readonly line: LevelLine | null;
  readonly onPlay: () => void;
}

/**
 * Fine work on what is chosen: its ends, to the frame, dragged on the wave or by the numbers; and cutting it. Times are the
 * film's; what is cut is recorded time.
 */
export const CutPanel = ({ film, stretch, durationUs, line, onPlay }: Props) => {
  const cut = useCut();
  const tidying = useTidying();
  const { takeId, placementId, startUs: fromUs, endUs: toUs } = stretch;
  const hereUs = useTidy(({ here }) => (here?.placementId === placementId ? here.takeUs : null));
  const length = secondsOf(stretch);
  const ends = [
    {
      label: 'From',
      valueUs: fromUs,
      leastUs: 0,
      mostUs: toUs - LEAST_US,
      set: (us: Us) => tidying.moveEnd('startUs', us),
      here: 'From here',
      chosen: 'after' as const,
    },
    {
      label: 'to',
      valueUs: toUs,
      leastUs: fromUs + LEAST_US,
      mostUs: durationUs,
      set: (us: Us) => tidying.moveEnd('endUs', us),
      here: 'To here',
      chosen: 'before' as const,
    },
  ];
  const parse = (text: string): Us | null => {
    const filmUs = parseClock(text);
    if (filmUs === null) return null;
    const place = recordedAt(film, Math.min(filmUs, film.durationUs - 1));
    if (place?.placementId !== placementId) return null;
    // At the film's very end, the take's.
    return filmUs >= film.durationUs ? durationUs : place.takeUs;
  };
  return (
    <View style={styles.group}>
      <View style={styles.times}>
        {ends.map(({ label, valueUs, leastUs, mostUs, set, here, chosen }) => (
          <View key={label} style={styles.end}>
            <DraggedEnd
              {...{ line, valueUs, leastUs, mostUs, chosen }}
              snap={(us) => snapped(line, us)}
              onMove={set}
            />
            <Stepper
              label={label}
              value={valueUs}
              least={leastUs}
              most={mostUs}
              step={STEP_US}
              fineStep={FRAME_US}
              onChange={(us) => set(Math.round(us))}
              format={(takeUs) =>
                formatTenths(filmTimeFrom(film, { takeId, placementId, takeUs }) + 50_000)
              }
              parse={parse}
              unit="min:s of the film"
              stepWords={['a tenth earlier', 'a tenth later']}
            />
            <Button
              small
              label={here}
              spoken={`${here}: where the picture stands`}
              style={styles.here}
              disabled={hereUs === null || hereUs < leastUs || hereUs > mostUs}
              onPress={() => set(Math.round(hereUs!))}
            />
          </View>
        ))}
      </View>
      <View style={styles.actions}>
        <Button small label="Play from here" onPress={onPlay} />
        <Button small kind="grave" label={`Cut these ${length} s`} onPress={() => cut(stretch)} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  times: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.large },
  end: { gap: SPACE.hair, flexGrow: 1, flexBasis: 260 },
  here: { alignSelf: 'flex-start' },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
