import { AppError } from '@under-chalk/core/errors/errors';
import type { SoundForm } from '@under-chalk/core/destination/sound-form';
import { filmFileNames } from '@under-chalk/core/lesson/film-file-names';
import { stat } from 'node:fs/promises';
import { coursePackage } from '../jobs/course-package';
import { filmArchive } from '../jobs/film-archive';
import { coverOf } from '../jobs/film-cover';
import { wordsFor } from '../jobs/words-for';
import { filmSound, SOUND_TYPES } from '../jobs/film-sound';
import { loudnessOfFilm } from '../jobs/readings/loudness';
import type { Parts } from '../http/context';
import { sendArchive, sendFile } from '../http/files';
import type { On } from '../http/route';

export const filmRoutes = (on: On, parts: Parts): void => {
  const { films, lessons, maker, media, notes, accounts, fittedFilms } = parts;
  const rowOf = async (filmId: string) => maker.toRow(await films.get(filmId));

  on('films', async ({ params }) => {
    const { lesson } = await lessons.view(params.lessonId);
    const all = await films.ofLesson(params.lessonId);
    const names = filmFileNames(lesson.decisions.plan, all);
    const changed = all.filter(({ id, file_name }) => names.get(id) !== file_name);
    // A full disk keeps nobody from the list.
    await films
      .rename(new Map(changed.map(({ id }) => [id, names.get(id)!])))
      .catch((error: unknown) => parts.log.warn('films keep their old names for now', error));
    return all.map((film) => maker.toRow({ ...film, file_name: names.get(film.id)! }));
  });

  on('madeSoFar', async ({ params }) => {
    const { lesson } = await lessons.view(params.lessonId);
    return parts.filmSizes.told(lesson, params.size);
  });

  on('renderFilm', async ({ params, body }) =>
    maker.toRow(await maker.want(params.lessonId, body.size)),
  );

  on('cancelFilm', async ({ params }) => {
    await maker.cancel(params.filmId);
    return rowOf(params.filmId);
  });

  on('retryFilm', async ({ params }) => {
    await maker.retry(params.filmId);
    return rowOf(params.filmId);
  });

  on('filmLoudness', async ({ params }) => {
    const film = await films.get(params.filmId);
    if (film.state !== 'done') throw new AppError('not-ready');
    return loudnessOfFilm(media, film.id);
  });

  const soundOf = async (filmId: string, form: SoundForm) => {
    const film = await films.get(filmId);
    if (film.state !== 'done') throw new AppError('not-ready');
    return { film, path: await filmSound(media, film.id, form) };
  };

  on('makeFilmSound', async ({ params, body }) => {
    const { path } = await soundOf(params.filmId, body.form);
    return { bytes: (await stat(path)).size };
  });

  on('filmSound', async ({ params, query, ctx }) => {
    const { film, path } = await soundOf(params.filmId, query.form);
    await sendFile(ctx, path, {
      ...{ type: SOUND_TYPES[query.form], keep: 'for-ever' },
      saveAs: film.file_name.replace(/\.mp4$/, `.${query.form}`),
    });
  });

  on('fitFilm', async ({ params }) =>
    fittedFilms.want(await films.get(params.filmId), Number(params.mostBytes)),
  );

  on('fitState', async ({ params }) =>
    fittedFilms.stateOf(await films.get(params.filmId), Number(params.mostBytes)),
  );

  on('fittedFile', async ({ params, ctx }) => {
    const film = await films.get(params.filmId);
    await sendFile(ctx, await fittedFilms.pathOf(film, Number(params.mostBytes)), {
      ...{ type: 'video/mp4', keep: 'for-ever', saveAs: film.file_name },
    });
  });

  on('filmArchive', async ({ params, ctx }) => {
    const film = await films.get(params.filmId);
    if (film.state !== 'done') throw new AppError('not-ready');
    const words = await wordsFor(parts, film);
    const lessonOf = () => lessons.lessonAt(film.lesson_id, film.revision);
    const pages =
      words.notePages > 0
        ? await notes.pdf(await notes.ofFilm(film.id, lessonOf), await accounts.teacherName(), null)
        : null;
    const cover = await coverOf(parts, film);
    const archive = await filmArchive(film, { words, cover, pages }, media);
    sendArchive(ctx, film.file_name.replace(/\.mp4$/, '.zip'), archive);
  });

  on('filmPackage', async ({ params, ctx }) => {
    const film = await films.get(params.filmId);
    if (film.state !== 'done') throw new AppError('not-ready');
    const archive = await coursePackage(
      film,
      {
        words: await wordsFor(parts, film),
        teacherName: await accounts.teacherName(),
        cover: await coverOf(parts, film),
        ...parts.packaged,
      },
      media,
    );
    sendArchive(ctx, film.file_name.replace(/\.mp4$/, ' SCORM.zip'), archive);
  });

  on('filmCover', async ({ params, ctx }) => {
    const path = await coverOf(parts, await films.get(params.filmId));
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'for-ever' });
  });

  on('filmFile', async ({ params, ctx }) => {
    const film = await films.get(params.filmId);
    if (film.state !== 'done') throw new AppError('not-ready');
    await sendFile(ctx, maker.pathOf(film.id), {
      type: 'video/mp4',
      keep: 'for-ever',
      saveAs: film.file_name,
    });
  });
};
