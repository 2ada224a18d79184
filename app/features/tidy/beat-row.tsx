import { memo } from 'react';
import { Image, Pressable, StyleSheet, View } from 'react-native';
import type { ColumnRow } from '@under-chalk/core/film/column';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import { arrangementAt } from '@under-chalk/core/film/sections';
import type { Take } from '@under-chalk/core/lesson/take';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { formatTenths } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { InView } from '../../ui/in-view';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { Wave } from '../../ui/wave';
import { stillPath } from '../lessons/still-path';
import { ArrangePanel, ARRANGEMENT_NAMES } from './arrange-panel';
import { CutPanel } from './cut-panel';
import { useTidy, useTidying, useWishedFocus } from './tidying';

interface Props {
  readonly film: Film;
  readonly take: Take;
  /** The place in the film whose column it stands in. */
  readonly placementId: string;
  readonly number: number;
  readonly row: ColumnRow;
  readonly line: LevelLine | null;
}

/** One beat: its picture, its sound, how long it is; opened, what can be done to it. */
export const BeatRow = memo(function BeatRow({
  film,
  take,
  placementId,
  number,
  row,
  line,
}: Props) {
  const theme = useTheme();
  const { put } = useEdits();
  const { lesson } = film;
  const { startUs, endUs } = row;
  const tidying = useTidying();
  const here = useTidy(
    ({ here: at }) => at?.placementId === placementId && at.takeUs >= startUs && at.takeUs < endUs,
  );
  const opened = useTidy(
    ({ open }) => open?.placementId === placementId && open.startUs === startUs,
  );
  const opener = useWishedFocus(placementId, startUs, endUs);
  const filmAt = (takeUs: number) =>
    formatTenths(filmTimeFrom(film, { takeId: take.id, placementId, takeUs }));
  const stretch = { takeId: take.id, placementId, startUs, endUs };
  const seconds = ((endUs - startUs) / 1e6).toFixed(1);
  const quiet = row.kind === 'beat' && row.beat.kind === 'quiet';
  const pictured = take.tracks.some((track) => track.widthPx > 0);
  const arrangement = arrangementAt(lesson, take, Math.round((startUs + endUs) / 2));
  const flubs = lesson.decisions.flubs.filter(
    (flub) => flub.takeId === take.id && flub.atUs >= startUs && flub.atUs < endUs,
  );
  const name = quiet ? 'quiet' : ARRANGEMENT_NAMES[arrangement.kind];
  return (
    <View
      style={[
        styles.row,
        {
          backgroundColor: theme.card,
          borderColor: here ? theme.action : theme.line,
          borderLeftWidth: here ? 6 : 1.5,
        },
      ]}
    >
      <View style={styles.line}>
        <Pressable
          ref={opener}
          role="button"
          aria-expanded={opened}
          aria-label={`Beat ${number}, at ${filmAt(startUs)}, ${seconds} seconds, ${name}${flubs.length > 0 ? ', flub marked' : ''}. ${opened ? 'Close' : 'Open'}`}
          onPress={() => tidying.open(opened ? null : stretch)}
          style={styles.open}
        >
          {pictured ? (
            <InView style={[styles.picture, { backgroundColor: theme.line }]}>
              <Image
                source={{
                  uri: stillPath(lesson, take, (startUs + endUs) / 2),
                }}
                style={styles.fill}
                alt=""
              />
            </InView>
          ) : null}
          <View style={styles.middle}>
            {line ? <Wave line={line} startUs={startUs} endUs={endUs} /> : null}
            <Words size="small" tone="soft">
              {`${filmAt(startUs)} · ${seconds} s · ${name}`}
            </Words>
            {flubs.length > 0 ? (
              <Words size="small" tone="warn">
                {`flub marked at ${flubs.map((flub) => filmAt(flub.atUs)).join(', ')}`}
              </Words>
            ) : null}
          </View>
        </Pressable>
        <Button
          small
          label="Cut"
          spoken={`Cut beat ${number}, ${seconds} seconds`}
          onPress={() => {
            put({ do: 'cut', takeId: take.id, startUs, endUs });
            tidying.wishFocus({ placementId, takeId: take.id, takeUs: (startUs + endUs) / 2 });
          }}
        />
      </View>
      {opened ? (
        <View style={styles.panels}>
          <CutPanel
            key={`${startUs} ${endUs}`}
            film={film}
            stretch={stretch}
            durationUs={take.durationUs}
            onPlay={() => tidying.play(stretch)}
          />
          <ArrangePanel lesson={lesson} take={take} stretch={stretch} />
        </View>
      ) : null}
    </View>
  );
});

const styles = StyleSheet.create({
  row: { borderWidth: 1.5, borderRadius: RADIUS.medium, padding: SPACE.small, gap: SPACE.medium },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  open: {
    flexGrow: 1,
    flexShrink: 1,
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    minHeight: 56,
  },
  picture: { width: 84, aspectRatio: 16 / 9, borderRadius: RADIUS.small, overflow: 'hidden' },
  fill: { width: '100%', height: '100%' },
  middle: { flexGrow: 1, flexShrink: 1, flexBasis: 0 },
  panels: { gap: SPACE.large, paddingBottom: SPACE.small },
});
