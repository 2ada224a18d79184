import type Router from '@koa/router';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import type { Parts } from '../http/context';
import { route } from '../http/route';
import type { StoredHandOut } from '../store/film-store';

export const handOutRoutes = (router: Router, { films, maker }: Parts): void => {
  const toHandOut = async (stored: StoredHandOut): Promise<HandOut> => ({
    id: stored.id,
    lessonId: stored.lesson_id,
    token: stored.token,
    film: maker.toRow(await films.get(stored.film_id)),
    createdAt: stored.created_at,
  });

  route(router, 'handOuts', async ({ params }) =>
    Promise.all((await films.handOutsOf(params.lessonId)).map(toHandOut)),
  );

  route(router, 'handOut', async ({ params, body }) => {
    const film = await maker.want(params.lessonId, body.size);
    return toHandOut(await films.handOut(params.lessonId, film.id));
  });

  route(router, 'takeBack', async ({ params }) => {
    await films.takeBack(params.handOutId);
    return { ok: true as const };
  });
};
