import { useEffect } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeOf, type Film, type RecordedPlace } from '@under-chalk/core/film/film';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import { surfaceOf } from '@under-chalk/core/lesson/take';
import type { PictureBox } from '@under-chalk/core/scene/geometry';
import { laidOutAt } from '@under-chalk/core/scene/sources/layout';
import { frameAt } from '@under-chalk/core/time/frames';
import type { FilmPlayer } from '../../../player/film-player';
import { usePart } from '../../../data/live-value';
import { BoardSurface } from '../../board/board-surface';
import { useTidy } from '../tidying';
import type { FilmWriting } from './film-writing';

/**
 * Where in the frame lies what can be written on at a place: what is shown, else the face; null where nothing of it
 * is.
 */
export const writtenOnAt = (film: Film, place: RecordedPlace): PictureBox | null => {
  const take = takeOf(film.lesson, place.takeId);
  const filmUs = filmTimeOf(film, place);
  const laidOut = filmUs === null ? null : laidOutAt(film, frameAt(filmUs));
  return (take && laidOut && (surfaceOf(take) ? laidOut.surface : laidOut.camera)) ?? null;
};

const percent = (share: number) => `${share * 100}%` as const;

interface Props {
  readonly film: Film;
  readonly player: FilmPlayer;
  readonly writing: FilmWriting;
}

/** Lies over the picture in Tidy: what it shows can be written on, and changed. */
export const WritingLayer = ({ film, player, writing }: Props) => {
  const here = useTidy((view) => view.here);
  const playing = useTidy((view) => view.playing);
  // What was written is fetched after the film is there.
  const inkOf = usePart(player, () => player.inkOf);
  const { lesson } = film;
  useEffect(() => {
    if (!here) return;
    const { takeId, takeUs } = here;
    const changes = lesson.decisions.inkChanges;
    writing.lay({ takeId, takeUs, playing, track: inkOf(takeId), changes });
  }, [writing, lesson, here, playing, inkOf]);
  const box = here && writtenOnAt(film, here);
  if (!box) return null;
  const { to, from } = box;
  const place = {
    left: percent(to.x),
    top: percent(to.y),
    width: percent(to.width),
    height: percent(to.height),
  };
  return (
    <View style={[styles.layer, place]}>
      <BoardSurface board={writing.board} from={from} name="The picture" />
    </View>
  );
};

const styles = StyleSheet.create({ layer: { position: 'absolute', overflow: 'hidden' } });
