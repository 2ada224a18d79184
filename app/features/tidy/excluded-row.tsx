import { middleOf } from '@under-chalk/core/time/ranges';
import { memo } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ColumnRow } from '@under-chalk/core/film/column';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import type { Placed } from '@under-chalk/core/lesson/placement';
import { formatSpoken, formatTenths } from '@under-chalk/core/time/us';
import { wordsSaid } from '@under-chalk/core/words/strike';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { useTidying, useWishedFocus } from './tidying';

interface Props {
  readonly film: Film;
  readonly placed: Placed;
  readonly row: ColumnRow & { kind: 'left-out' };
}

/** What was left out, as a thin line that can be brought back. */
export const ExcludedRow = memo(function LeftOutRow({ film, placed, row }: Props) {
  const theme = useTheme();
  const { put } = useEdits();
  const tidying = useTidying();
  const { startUs, endUs, where } = row;
  const { id: placementId, takeId } = placed;
  const length = formatSpoken(Math.max(1e6, endUs - startUs));
  const at = formatTenths(filmTimeFrom(film, { placementId, takeId, takeUs: startUs }));
  const button = useWishedFocus(placementId, startUs, endUs);
  const bringBack = () => {
    tidying.wishFocus({ placementId, takeId, takeUs: middleOf(row) });
    const restore = { do: 'restore', takeId, startUs, endUs } as const;
    const trimmed = where === 'start' ? placed.startUs > 0 : placed.endUs !== null;
    if (where === 'middle' || !trimmed) return put(restore);
    // An end can be left out by a trim, by a cut, or by both: all of it comes back, the other end stays.
    put(restore, {
      do: 'trim',
      placementId,
      startUs: where === 'start' ? 0 : placed.startUs,
      endUs: where === 'end' ? null : placed.endUs,
    });
  };
  const said = wordsSaid(film.lesson.decisions, takeId, row)
    .map(({ text }) => text)
    .join(' ');
  return (
    <View style={[styles.row, { borderColor: theme.inkSoft }]}>
      <View style={styles.words}>
        <Words size="small" tone="soft">
          {`left out at ${at} · ${length}`}
        </Words>
        {said ? (
          <Words size="small" tone="soft" numberOfLines={2} style={styles.struck}>
            {said}
          </Words>
        ) : null}
      </View>
      <Button
        ref={button}
        small
        kind="bare"
        label="Bring back"
        spoken={`Bring back ${length} at ${at}${said ? `: ${said}` : ''}`}
        onPress={bringBack}
      />
    </View>
  );
});

const styles = StyleSheet.create({
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'space-between',
    gap: SPACE.small,
    borderTopWidth: 1.5,
    borderBottomWidth: 1.5,
    borderStyle: 'dashed',
    paddingHorizontal: SPACE.small,
  },
  words: { flexShrink: 1, paddingVertical: SPACE.hair },
  struck: { textDecorationLine: 'line-through' },
});
