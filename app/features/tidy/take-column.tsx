import { memo, useMemo } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import { columnOf, type ColumnRow } from '@under-chalk/core/film/column';
import type { Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { movedTo, type Placed } from '@under-chalk/core/lesson/placement';
import type { Take } from '@under-chalk/core/lesson/take';
import { beatsOf } from '@under-chalk/core/sound/beats';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { formatSpoken, formatTenths } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { useLevels } from '../../data/queries';
import { Button } from '../../ui/button';
import { Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { BeatRow } from './beat-row';
import { CropPanel } from './crop-panel';
import { useTidy } from './tidying';

interface Props {
  readonly lesson: Lesson;
  /** Its place in the film, and what is kept of it there. */
  readonly placed: Placed;
  readonly film: Film;
  readonly take: Take;
  readonly number: number;
  /** Places of its neighbours that can be seen, in the order of the film; null where it has none. */
  readonly upTo: number | null;
  readonly downTo: number | null;
}

/** One take as a column of beats, with what was left out folded to thin lines. */
export const TakeColumn = (props: Props) => {
  const { lesson, placed, take, number } = props;
  const levels = useLevels(take.id, take.state === 'ready');
  const line = levels.data ?? null;
  const beats = useMemo(() => beatsOf(line, take.durationUs), [line, take.durationUs]);
  const rows = useMemo(() => columnOf(lesson, placed, take, beats), [lesson, placed, take, beats]);
  return (
    <View style={styles.column}>
      <Heading level={2}>{`Take ${number}`}</Heading>
      {take.state === 'ready' && !levels.isPending ? (
        <>
          <TakeTools {...props} />
          <CropPanel lesson={lesson} take={take} />
          <View role="list" aria-label={`Beats of take ${number}`} style={styles.rows}>
            {rows.map((row, index) => (
              <ColumnLine
                key={`${row.kind} ${row.startUs}`}
                {...props}
                row={row}
                number={index + 1}
                line={line}
              />
            ))}
          </View>
        </>
      ) : take.state === 'recording' ? (
        <Words tone="soft">This take is still being recorded.</Words>
      ) : (
        <Loading what={`take ${number}; it is being made ready`} />
      )}
    </View>
  );
};

const ColumnLine = ({
  row,
  number,
  line,
  ...props
}: Props & { row: ColumnRow; number: number; line: LevelLine | null }) =>
  row.kind === 'left-out' ? (
    <LeftOut placed={props.placed} row={row} />
  ) : (
    <BeatRow
      lesson={props.lesson}
      take={props.take}
      placementId={props.placed.id}
      number={number}
      row={row}
      line={line}
    />
  );

/** What can be done with a whole take: its ends, and its place among the others. */
const TakeTools = ({ placed, film, number, upTo, downTo }: Props) => {
  const { put } = useEdits();
  // Where the picture stands, if it is in this take.
  const hereUs = useTidy(({ here }) => (here?.placementId === placed.id ? here.takeUs : null));
  const { id: placementId, startUs, endUs } = placed;
  const trim = (from: number, to: number | null) =>
    put({ do: 'trim', placementId, startUs: from, endUs: to });
  const move = (to: number) =>
    put({ do: 'place', placement: movedTo(placed, film.placed, to), arrives: false });
  return (
    <View style={styles.tools}>
      <Button
        small
        label="Begin at the place shown"
        disabled={hereUs === null || hereUs < 34_000}
        onPress={() => trim(Math.round(hereUs!), endUs)}
      />
      <Button
        small
        label="End at the place shown"
        disabled={hereUs === null || hereUs <= startUs + 34_000}
        onPress={() => trim(startUs, Math.round(hereUs!))}
      />
      {upTo === null ? null : (
        <Button
          small
          label="Move up"
          spoken={`Move take ${number} up`}
          onPress={() => move(upTo)}
        />
      )}
      {downTo === null ? null : (
        <Button
          small
          label="Move down"
          spoken={`Move take ${number} down`}
          onPress={() => move(downTo)}
        />
      )}
    </View>
  );
};

/** What was left out, as a thin line that can be brought back. */
const LeftOut = memo(function LeftOut({
  placed,
  row,
}: {
  placed: Placed;
  row: ColumnRow & { kind: 'left-out' };
}) {
  const theme = useTheme();
  const { put } = useEdits();
  const { startUs, endUs, where } = row;
  const length = formatSpoken(Math.max(1e6, endUs - startUs));
  const bringBack = () => {
    const restore = { do: 'restore', takeId: placed.takeId, startUs, endUs } as const;
    const trimmed = where === 'start' ? placed.startUs > 0 : placed.endUs !== null;
    if (where === 'middle' || !trimmed) return put(restore);
    // An end can be left out by a trim, by a cut, or by both: all of it comes back, the other end stays.
    put(restore, {
      do: 'trim',
      placementId: placed.id,
      startUs: where === 'start' ? 0 : placed.startUs,
      endUs: where === 'end' ? null : placed.endUs,
    });
  };
  return (
    <View role="listitem" style={[styles.leftOut, { borderColor: theme.inkSoft }]}>
      <Words size="small" tone="soft" style={styles.leftOutWords}>
        {`left out · ${formatTenths(startUs)} to ${formatTenths(endUs)} · ${length}`}
      </Words>
      <Pressable
        role="button"
        aria-label={`Bring back ${length} from ${formatTenths(startUs)}`}
        onPress={bringBack}
        style={styles.bringBack}
      >
        <Words size="small" strong tone="action">
          Bring back
        </Words>
      </Pressable>
    </View>
  );
});

const styles = StyleSheet.create({
  column: { gap: SPACE.small },
  tools: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  rows: { gap: SPACE.small },
  leftOut: {
    flexDirection: 'row',
    alignItems: 'center',
    borderLeftWidth: 3,
    borderStyle: 'dashed',
    paddingLeft: SPACE.medium,
    borderRadius: RADIUS.small,
    minHeight: 44,
  },
  leftOutWords: { flexGrow: 1, flexShrink: 1 },
  bringBack: { minHeight: 44, justifyContent: 'center', paddingHorizontal: SPACE.medium },
});
