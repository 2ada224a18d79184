import {
  UNIT_FILES,
  unitFilmPage,
  unitFolder,
  unitIndex,
  unitWords,
  type UnitFilm,
} from '@under-chalk/core/out/unit-package';
import { mayWatch } from '@under-chalk/core/hand-out/may-watch';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { UnitFilms } from '@under-chalk/core/contract/classes';
import { ZipFile } from 'yazl';
import type { Parts } from '../http/context';
import { opennessOf } from '../store/openness';
import type { StoredFilm } from '../store/film-store';
import { coverOf } from './film-cover';
import { endArchive, TIMELESS, type MadeArchive } from './made-archive';
import { wordsFor } from './words-for';

/** The films of a unit that a class may watch now, in the order in which they were put up. */
const filmsIn = async (parts: Parts, classId: string, unit: string): Promise<StoredFilm[]> => {
  const { films, grants, handOuts, lessons, log } = parts;
  const all = await handOuts.onPage(null, [classId]);
  const granted = await grants.of(all.map(({ id }) => id));
  const rows = await lessons.list(
    (id, error) => log.error(`lesson ${id} can't be read`, error),
    all.map(({ lesson_id }) => lesson_id),
  );
  const unitOf = new Map(rows.map((row) => [row.id, row.unit]));
  const asking = { is: 'class', classId } as const;
  const open = all.filter(
    (handOut) =>
      unitOf.get(handOut.lesson_id) === unit &&
      mayWatch(asking, opennessOf(handOut, granted.get(handOut.id)!), Date.now()).is === 'open',
  );
  // The newest comes first in the list of them.
  const ids = [...new Set(open.reverse().map(({ film_id }) => film_id))];
  return Promise.all(ids.map((id) => films.get(id)));
};

/** @throws TellableError `not-found` */
const unitOf = async ({ classes }: Parts, classId: string, unitId: string) => {
  const view = await classes.view(classId);
  const unit = view.units.find(({ id }) => id === unitId);
  if (!unit) throw new TellableError('not-found', `unit ${unitId}`);
  return { className: view.name, name: unit.name };
};

/** How many films of a unit there are to be had together. @throws TellableError `not-found` */
export const unitFilms = async (
  parts: Parts,
  classId: string,
  unitId: string,
): Promise<UnitFilms> => {
  const { name } = await unitOf(parts, classId, unitId);
  const films = await filmsIn(parts, classId, name);
  const ready = films.filter(({ state }) => state === 'done').length;
  return { ready, waiting: films.length - ready };
};

/**
 * The films of a unit that its class may watch, each with a page, its captions, transcript and the pages of its board: nothing in it asks for
 * anything from elsewhere.
 *
 * @throws TellableError `not-found`, `not-ready` where there is none, or not all are made
 */
export const unitArchive = async (
  parts: Parts,
  classId: string,
  unitId: string,
): Promise<MadeArchive & { readonly name: string }> => {
  const { accounts, lessons, media, notes } = parts;
  const about = await unitOf(parts, classId, unitId);
  const stored = await filmsIn(parts, classId, about.name);
  if (stored.length === 0 || stored.some(({ state }) => state !== 'done'))
    throw new TellableError('not-ready', `unit ${unitId}`);
  const teacherName = await accounts.teacherName();
  const films: UnitFilm[] = [];
  for (const film of stored) {
    const { notePages, ...words } = await wordsFor(parts, film);
    const title = words.title || 'A film without a name';
    films.push({ ...words, title, hasPages: notePages > 0 });
  }
  const unit = { ...about, teacherName, films };
  const zip = new ZipFile();
  const put = (text: string, name: string) => zip.addBuffer(Buffer.from(text), name, TIMELESS);
  put(unitIndex(unit), UNIT_FILES.page);
  for (const [at, film] of films.entries()) {
    const { id, lesson_id, revision } = stored[at]!;
    const folder = unitFolder(films, at);
    put(unitFilmPage(unit, film), `${folder}/${UNIT_FILES.page}`);
    zip.addFile(media.film(id), `${folder}/${UNIT_FILES.film}`, TIMELESS);
    zip.addFile(await coverOf(parts, stored[at]!), `${folder}/${UNIT_FILES.cover}`, TIMELESS);
    for (const { name, text } of unitWords(film)) put(text, `${folder}/${name}`);
    if (!film.hasPages) continue;
    const pages = await notes.ofFilm(id, () => lessons.lessonAt(lesson_id, revision));
    const pdf = await notes.pdf(pages, teacherName, null);
    zip.addBuffer(pdf, `${folder}/${UNIT_FILES.pages}`, TIMELESS);
  }
  return { ...(await endArchive(zip)), name: `${about.className} - ${about.name}` };
};
