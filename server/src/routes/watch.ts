import type Router from '@koa/router';
import { TellableError } from '@under-chalk/core/errors/errors';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf } from '@under-chalk/core/film/film';
import type { Parts } from '../http/context';
import { sendFile } from '../http/files';
import { route } from '../http/route';

/**
 * What a student can reach: the finished film and its words, by the link's token. No identifier of a
 * lesson, take or track leaves through here, so there is nothing to try on other routes.
 */
export const watchRoutes = (router: Router, parts: Parts): void => {
  const { films, lessons, maker, accounts, covers } = parts;

  const storedFilm = async (token: string) => films.get((await films.byToken(token)).film_id);

  route(router, 'watch', async ({ params, ctx }) => {
    const film = await storedFilm(params.token);
    const lesson = await lessons.lessonAt(film.lesson_id, film.revision);
    const { plan } = lesson.decisions;
    const row = maker.toRow(film);
    ctx.set('Cache-Control', 'no-store');
    return {
      title: plan.title,
      description: plan.description,
      teacherName: await accounts.teacherName(),
      filmUs: film.film_us,
      chapters: chaptersOf(filmOf(lesson)),
      state: film.state,
      done: row.done,
    };
  });

  route(router, 'watchFilm', async ({ params, ctx }) => {
    const film = await storedFilm(params.token);
    if (film.state !== 'done') throw new TellableError('not-ready');
    await sendFile(ctx, maker.pathOf(film.id), { type: 'video/mp4', keep: 'never' });
  });

  route(router, 'watchCover', async ({ params, ctx }) => {
    const film = await storedFilm(params.token);
    if (film.state !== 'done') throw new TellableError('not-ready');
    const path = await covers.of(maker.pathOf(film.id), film.id, film.film_us);
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'never' });
  });
};
