import { middleOf } from '@under-chalk/core/time/ranges';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import { moveStretch, type Gap } from '@under-chalk/core/film/moving';
import { formatTenths } from '@under-chalk/core/time/us';
import { newId } from '../../capture/new-id';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { secondsOf } from './open-stretch';
import { useTidy, useTidying } from './tidying';
import { rowAt, type Column } from './use-columns';

interface Props {
  readonly film: Film;
  readonly columns: readonly Column[];
}

/** What is in hand, and where it can be put: before the phrase that the picture stands in, or at the end. */
export const CarriedBar = ({ film, columns }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const carried = useTidy((view) => view.carried);
  const here = useTidy((view) => view.here);
  const words = useFocusWhen(carried !== null);
  const [refused, setRefused] = useState('');
  if (!carried) return null;
  const seconds = secondsOf(carried);
  const column = columns.find(({ placed }) => placed.id === here?.placementId);
  const row = here && column?.rows ? rowAt(column.rows, here.takeUs) : null;
  const beforeUs = row === null ? null : column!.rows![row]!.startUs;
  const gap: Gap | undefined =
    here && beforeUs !== null
      ? { placementId: column!.placed.id, takeUs: Math.max(beforeUs, column!.placed.startUs) }
      : undefined;
  const at =
    gap && formatTenths(filmTimeFrom(film, { ...gap, takeId: column!.placed.takeId }) + 50_000);
  const named = (to: Gap) => JSON.stringify([carried, to]);
  // Said as long as nothing else is meant.
  const stays = [gap ?? null, null].some((to) => named(to) === refused);
  const putIt = (to: Gap) => {
    const moved = moveStretch(film.lesson, carried, to, newId);
    if (!moved) return setRefused(named(to));
    put(...moved.edits);
    tidying.carry(null);
    const { takeId } = carried;
    tidying.wishFocus({ placementId: moved.placementId, takeId, takeUs: middleOf(carried) });
  };
  return (
    <View role="group" aria-label="In hand" style={styles.bar}>
      <View ref={words} tabIndex={-1}>
        <Words size="small" role="status">
          {stays
            ? 'There it stands already.'
            : `${seconds} s in hand. Go to where they should stand: by a phrase of the column, or in the picture.`}
        </Words>
      </View>
      <View style={styles.line}>
        <Button
          small
          grow
          kind="main"
          label={at ? `Put before ${at}` : 'Put it here'}
          spoken={at ? `Put it before the phrase at ${at}` : 'Put it here'}
          disabled={!gap}
          onPress={() => gap && putIt(gap)}
        />
        <Button small grow label="At the end" onPress={() => putIt(null)} />
        <Button
          small
          grow
          label="Cancel"
          spoken="Cancel the move"
          onPress={() => {
            tidying.carry(null);
            tidying.open(carried);
          }}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  bar: { width: '100%', gap: SPACE.hair },
  line: { flexDirection: 'row', gap: SPACE.small },
});
