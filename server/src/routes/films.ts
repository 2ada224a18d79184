import { TellableError } from '@under-chalk/core/errors/errors';
import type { Parts } from '../http/context';
import { sendFile } from '../http/files';
import type { On } from '../http/route';

export const filmRoutes = (on: On, { films, lessons, maker }: Parts): void => {
  const rowOf = async (filmId: string) => maker.toRow(await films.get(filmId));

  on('films', async ({ params }) => {
    await lessons.view(params.lessonId);
    return (await films.ofLesson(params.lessonId)).map((film) => maker.toRow(film));
  });

  on('makeFilm', async ({ params, body }) =>
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

  on('filmFile', async ({ params, ctx }) => {
    const film = await films.get(params.filmId);
    if (film.state !== 'done') throw new TellableError('not-ready');
    await sendFile(ctx, maker.pathOf(film.id), {
      type: 'video/mp4',
      keep: 'for-ever',
      saveAs: film.file_name,
    });
  });
};
