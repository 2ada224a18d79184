import { useEffect, useRef, useState } from 'react';
import type { Edit } from '@under-chalk/core/edit/edit';
import { filmTimeFrom, recordedAt } from '@under-chalk/core/film/film';
import { useEdits } from '../../../data/edits';
import type { FilmPlayer } from '../../../player/film-player';
import { FilmWriting } from './film-writing';

/** When all of what an edit adds is there; 0 for other edits. */
const wholeAt = (edit: Edit): number =>
  edit.do === 'add-ink'
    ? edit.stroke.samples.reduce((us, [later]) => us + later, edit.stroke.atUs)
    : 0;

/** Where the film of a player is now. */
const hereIn = (player: FilmPlayer) => recordedAt(player.film, player.view().filmUs);

/** Writing on the film of a player, while its page is there. */
export const useFilmWriting = (player: FilmPlayer): FilmWriting => {
  const { put } = useEdits();
  const latest = useRef(put);
  useEffect(() => {
    latest.current = put;
  });
  const [writing] = useState(() => new FilmWriting());
  useEffect(() => {
    const putDown = (edits: readonly Edit[]) => {
      latest.current(...edits);
      const here = hereIn(player);
      const wholeUs = Math.max(...edits.map(wholeAt));
      // What draws itself would be gone as soon as it was drawn: the picture goes on to where it is whole.
      if (!player.view().playing && here && wholeUs > here.takeUs) {
        void player.seek(filmTimeFrom(player.film, { ...here, takeUs: wholeUs + 40_000 }));
      }
    };
    return writing.start(putDown, () => hereIn(player)?.takeUs ?? null);
  }, [writing, player]);
  return writing;
};
