import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeFrom, recordedAt, type Film } from '@under-chalk/core/film/film';
import { formatTenths, parseClock, type Us } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Stepper } from '../../ui/stepper';
import { SPACE } from '../../ui/theme';
import type { OpenStretch } from './open-stretch';
import { useTidy, useTidying } from './tidying';

const STEP_US = 100_000;

interface Props {
  readonly film: Film;
  readonly stretch: OpenStretch;
  readonly durationUs: Us;
  readonly onPlay: () => void;
}

/** Fine work on a beat: cuts a stretch of it, to the tenth of a second. Times are the film's; what is cut is recorded time. */
export const CutPanel = ({ film, stretch, durationUs, onPlay }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { takeId, placementId } = stretch;
  const [fromUs, setFrom] = useState(stretch.startUs);
  const [toUs, setTo] = useState(stretch.endUs);
  const hereUs = useTidy(({ here }) => (here?.placementId === placementId ? here.takeUs : null));
  const length = ((toUs - fromUs) / 1e6).toFixed(1);
  const ends = [
    {
      label: 'Cut from',
      valueUs: fromUs,
      leastUs: 0,
      mostUs: toUs - STEP_US,
      set: setFrom,
      here: 'From here',
    },
    {
      label: 'to',
      valueUs: toUs,
      leastUs: fromUs + STEP_US,
      mostUs: durationUs,
      set: setTo,
      here: 'To here',
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
        {ends.map(({ label, valueUs, leastUs, mostUs, set, here }) => (
          <View key={label} style={styles.end}>
            <Stepper
              label={label}
              value={valueUs}
              least={leastUs}
              most={mostUs}
              step={STEP_US}
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
              disabled={hereUs === null || hereUs < leastUs || hereUs > mostUs}
              onPress={() => set(Math.round(hereUs!))}
            />
          </View>
        ))}
      </View>
      <View style={styles.actions}>
        <Button small label="Play from here" onPress={onPlay} />
        <Button
          small
          kind="grave"
          label={`Cut these ${length} s`}
          onPress={() => {
            put({ do: 'cut', takeId, startUs: fromUs, endUs: toUs });
            tidying.wishFocus({ placementId, takeId, takeUs: (fromUs + toUs) / 2 });
          }}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  times: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.large },
  end: { gap: SPACE.hair },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
