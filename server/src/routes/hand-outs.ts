import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import type { StoredHandOut } from '../store/hand-out-store';

export const handOutRoutes = (on: On, { films, handOuts, maker }: Parts): void => {
  const toHandOut = async (stored: StoredHandOut): Promise<HandOut> => ({
    id: stored.id,
    lessonId: stored.lesson_id,
    token: handOuts.tokenOf(stored),
    film: maker.toRow(await films.get(stored.film_id)),
    createdAt: stored.created_at,
  });

  on('handOuts', async ({ params }) =>
    Promise.all((await handOuts.ofLesson(params.lessonId)).map(toHandOut)),
  );

  on('handOut', async ({ params, body }) => {
    const film = await maker.want(params.lessonId, body.size);
    return toHandOut(await handOuts.add(params.lessonId, film.id));
  });

  on('takeBack', async ({ params }) => {
    await handOuts.takeBack(params.handOutId);
    return { ok: true as const };
  });

  on('giveAgain', async ({ params }) => {
    await handOuts.giveAgain(params.handOutId);
    return { ok: true as const };
  });
};
