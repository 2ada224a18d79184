import type { Watch } from '@under-chalk/core/contract/watch';
import { TellableError } from '@under-chalk/core/errors/errors';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import type { Parts } from '../http/context';
import { saveAs, sendFile } from '../http/files';
import type { On } from '../http/route';
import { originOf } from '../http/security';
import type { Student } from '../http/who';
import { sendWords } from './words';
import { wordsOf } from '../jobs/film-maker';
import { filmWordsSchema, type FilmWords, type StoredFilm } from '../store/film-store';

/** Of a film from before words were kept with it, they are found once; else no edit is ever replayed here. */
const wordsFor = async ({ films, lessons }: Parts, film: StoredFilm): Promise<FilmWords> => {
  if (film.words !== null) return filmWordsSchema.parse(JSON.parse(film.words));
  const words = wordsOf(await lessons.lessonAt(film.lesson_id, film.revision));
  await films.keepWords(film.id, words);
  return words;
};

/** What is told of the film that a student's link leads to. */
export const watchFor = async (parts: Parts, { handOut }: Student): Promise<Watch> => {
  const film = await parts.films.get(handOut.film_id);
  const { state, done } = parts.maker.toRow(film);
  const teacherName = await parts.accounts.teacherName();
  const { captions, ...words } = await wordsFor(parts, film);
  const languages = captions.map(({ language }) => language);
  return { ...words, languages, teacherName, state, done };
};

/**
 * What a student can reach: the finished film and its words, by the link's token. No identifier of a
 * lesson, take or track leaves through here, so there is nothing to try on other routes.
 */
export const watchRoutes = (on: On, parts: Parts): void => {
  const { films, maker, covers, notes, lessons, accounts } = parts;

  const filmFor = ({ handOut }: Student) => films.get(handOut.film_id);

  on('watch', async ({ who, ctx }) => {
    ctx.set('Cache-Control', 'no-store');
    return watchFor(parts, who);
  });

  on('watchFilm', async ({ who, ctx }) => {
    const film = await filmFor(who);
    if (film.state !== 'done') throw new TellableError('not-ready');
    await sendFile(ctx, maker.pathOf(film.id), { type: 'video/mp4', keep: 'never' });
  });

  const wordsIn = async (who: Student, language: string) => {
    const words = await wordsFor(parts, await filmFor(who));
    const found = words.captions.find((one) => one.language === language);
    if (!found) throw new TellableError('not-found', `words in ${language}`);
    return { words: found, about: words };
  };

  on('watchWords', async ({ who, params, ctx }) => {
    ctx.set('Cache-Control', 'private, no-cache');
    return (await wordsIn(who, params.language)).words;
  });

  on('watchWordsFile', async ({ who, params, ctx }) => {
    const { words, about } = await wordsIn(who, params.language);
    // Its times lead to this student's own address.
    const address = `${originOf(parts.config.front, ctx)}/w/${params.token}`;
    const addressAt = (seconds: number) => `${address}?t=${seconds}`;
    sendWords(ctx, params.form, words, { ...about, addressAt });
  });

  on('watchNotes', async ({ who, params, ctx }) => {
    const film = await filmFor(who);
    // Its links lead to this student's own address.
    const address = `${originOf(parts.config.front, ctx)}/w/${params.token}`;
    const ofFilm = await notes.ofFilm(film.id, () =>
      lessons.lessonAt(film.lesson_id, film.revision),
    );
    const pdf = await notes.pdf(
      ofFilm,
      await accounts.teacherName(),
      (filmUs) => `${address}?t=${Math.floor(filmUs / 1e6)}`,
    );
    ctx.set('Cache-Control', 'private, no-cache');
    saveAs(ctx, fileNameOf(ofFilm.title, 'pdf'));
    ctx.type = 'application/pdf';
    ctx.body = pdf;
  });

  on('watchCover', async ({ who, ctx }) => {
    const film = await filmFor(who);
    if (film.state !== 'done') throw new TellableError('not-ready');
    const path = await covers.of(maker.pathOf(film.id), film.id, film.film_us);
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'never' });
  });
};
