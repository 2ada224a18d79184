import {
  CARTRIDGE_MANIFEST,
  cartridgeManifest,
  type CartridgeFilm,
} from '@under-chalk/core/out/common-cartridge';
import {
  UNIT_FILES,
  unitFilmPage,
  unitFolder,
  unitIndex,
  unitWords,
  type UnitFilm,
} from '@under-chalk/core/out/unit-package';
import type { Unit } from '@under-chalk/core/class/class';
import { AppError } from '@under-chalk/core/errors/errors';
import type { UnitFilms } from '@under-chalk/core/contract/classes';
import { ZipFile } from 'yazl';
import type { Parts } from '../http/context';
import type { StoredFilm } from '../store/film-store';
import { coverOf } from './film-cover';
import { endArchive, TIMELESS, type MadeArchive } from './made-archive';
import { inUnit, unitOf } from './unit-films';
import { wordsFor } from './words-for';
import { languageFrom } from '@under-chalk/core/text/student-languages';
import { labelsOf, studentText } from '../messages/student-text';

/** Its pages are in the language of the film, where there is a catalogue for it. */
const textOf = (spoken: string) => studentText(languageFrom([spoken]));

/** What the films of a unit are had as. */
export type UnitForm = 'pages' | 'cartridge';

/** The films of a unit that a class may watch now, each once, in the order in which they stand on its page. */
const filmsIn = async (parts: Parts, classId: string, unit: Unit): Promise<StoredFilm[]> => {
  const open = (await inUnit(parts, classId, unit)).filter((one) => one.open);
  const ids = [...new Set(open.map(({ shareLink }) => shareLink.film_id))];
  return Promise.all(ids.map((id) => parts.films.get(id)));
};

/** How many films of a unit there are to be had together. @throws AppError `not-found` */
export const unitFilms = async (
  parts: Parts,
  classId: string,
  unitId: string,
): Promise<UnitFilms> => {
  const { unit } = await unitOf(parts, classId, unitId);
  const films = await filmsIn(parts, classId, unit);
  const ready = films.filter(({ state }) => state === 'done').length;
  return { ready, waiting: films.length - ready };
};

/**
 * The films of a unit that its class may watch, each with a page, its captions, transcript and the pages of its board: nothing in it asks for
 * anything from elsewhere.
 *
 * @param form as pages that lead to one another, or as what a course site makes pages of its own of
 * @throws AppError `not-found`, `not-ready` where there is none, or not all are made
 */
export const unitArchive = async (
  parts: Parts,
  classId: string,
  unitId: string,
  form: UnitForm,
): Promise<MadeArchive & { readonly name: string }> => {
  const { accounts, lessons, media, notes } = parts;
  const { className, unit } = await unitOf(parts, classId, unitId);
  const stored = await filmsIn(parts, classId, unit);
  if (stored.length === 0 || stored.some(({ state }) => state !== 'done'))
    throw new AppError('not-ready', `unit ${unitId}`);
  const teacherName = await accounts.teacherName();
  const films: UnitFilm[] = [];
  for (const film of stored) {
    const { notePages, ...words } = await wordsFor(parts, film);
    const title = words.title || textOf(words.spoken).t('page.untitled');
    films.push({ ...words, title, hasPages: notePages > 0 });
  }
  const told = { className, name: unit.name, teacherName, films };
  const zip = new ZipFile();
  const put = (text: string, name: string) => zip.addBuffer(Buffer.from(text), name, TIMELESS);
  if (form === 'pages') put(unitIndex(told), UNIT_FILES.page);
  const inCartridge: CartridgeFilm[] = [];
  for (const [at, film] of films.entries()) {
    const { id, lesson_id, revision } = stored[at]!;
    const folder = unitFolder(films, at);
    const words = unitWords(film);
    const labels = labelsOf(textOf(film.spoken));
    put(unitFilmPage(told, film, form === 'pages', labels), `${folder}/${UNIT_FILES.page}`);
    inCartridge.push({
      title: film.title,
      page: `${folder}/${UNIT_FILES.page}`,
      files: [
        ...[UNIT_FILES.film, UNIT_FILES.cover, ...words.map(({ name }) => name)],
        ...(film.hasPages ? [UNIT_FILES.pages] : []),
      ].map((name) => `${folder}/${name}`),
    });
    zip.addFile(media.film(id), `${folder}/${UNIT_FILES.film}`, TIMELESS);
    zip.addFile(await coverOf(parts, stored[at]!), `${folder}/${UNIT_FILES.cover}`, TIMELESS);
    for (const { name, text } of words) put(text, `${folder}/${name}`);
    if (!film.hasPages) continue;
    const pages = await notes.ofFilm(id, () => lessons.lessonAt(lesson_id, revision));
    const pdf = await notes.pdf(pages, teacherName, null);
    zip.addBuffer(pdf, `${folder}/${UNIT_FILES.pages}`, TIMELESS);
  }
  if (form === 'cartridge') {
    const description = [className, teacherName].filter(Boolean).join(' · ');
    const about = { id: unitId, title: unit.name, description, language: films[0]!.spoken };
    put(cartridgeManifest({ ...about, films: inCartridge }), CARTRIDGE_MANIFEST);
  }
  return { ...(await endArchive(zip)), name: `${className} - ${unit.name}` };
};
