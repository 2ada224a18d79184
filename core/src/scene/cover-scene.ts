import { filmTimeOf, type Film } from '../film/film';
import { aspectOf } from '../lesson/layout';
import { timeOfCover, pageOfCover, type Cover } from '../lesson/cover';
import type { MaterialPage } from '../material/material';
import type { Us } from '../time/us';
import { containedIn, WHOLE } from './geometry';
import type { Layer } from './layers';
import { groundOf } from './sources/ground';
import type { Scene, SceneReader } from './scene';

/** Where the moment that was chosen comes in the film; null: none was, or it was cut out since. */
export const chosenTime = (film: Film, cover: Cover): Us | null => {
  const moment = timeOfCover(cover);
  return moment && filmTimeOf(film, { takeId: moment.takeId, takeUs: moment.atUs });
};

/** Whether a cover shows what was chosen for it: nothing has to be found. */
export const showsChosen = (film: Film, cover: Cover): boolean =>
  pageOfCover(cover) !== null || chosenTime(film, cover) !== null;

/** A page or a picture, whole, on what lies behind all. */
const pageLayers = (film: Film, of: MaterialPage): Layer[] => {
  const { frame } = film.lesson.decisions;
  const to = containedIn(WHOLE, of.aspect, aspectOf(frame.shape));
  return [...groundOf(frame), { kind: 'page', of, from: WHOLE, to, opacity: 1, clear: false }];
};

/**
 * A film's cover as a scene, painted as the film is.
 *
 * @param foundUs the moment that is shown where none is chosen, or the chosen one was cut out: what was cut is shown to nobody
 * @returns null where the film is empty
 */
export const coverScene = (
  { film, sceneAt }: SceneReader,
  cover: Cover,
  foundUs: Us,
): Scene | null => {
  const page = pageOfCover(cover);
  const { title } = film.lesson.decisions.plan;
  const shown = page
    ? { layers: pageLayers(film, page), still: true }
    : sceneAt(chosenTime(film, cover) ?? foundUs);
  if (!shown || !cover.titled || title === '') return shown;
  const over: Layer = { kind: 'title-card', heading: title, line: '', on: 'picture' };
  return { ...shown, layers: [...shown.layers, over] };
};
