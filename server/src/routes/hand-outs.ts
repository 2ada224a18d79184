import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import type { AskedPiece } from '@under-chalk/render';
import { coverOf } from '../jobs/film-cover';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import { activityOf, materialsGiven, openNow, type StoredHandOut } from '../store/hand-out-store';

/** What is made of a film before anything else: its first seconds. */
const BEGINNING: readonly AskedPiece[] = [
  { of: 'sound', index: 0 },
  { of: 'picture', index: 0 },
  { of: 'picture', index: 1 },
  { of: 'sound', index: 1 },
  { of: 'picture', index: 2 },
];

export const handOutRoutes = (
  on: On,
  { films, handOuts, submissions, grants, maker, narrow, covers, lessons, media, log }: Parts,
): void => {
  const toHandOut = async (stored: StoredHandOut): Promise<HandOut> => ({
    id: stored.id,
    lessonId: stored.lesson_id,
    token: handOuts.tokenOf(stored),
    film: maker.toRow(await films.get(stored.film_id)),
    given: await handOuts.given(stored),
    ...{ state: openNow(stored), fromAt: stored.from_at, untilAt: stored.until_at },
    watchers: await grants.watchers(stored.id),
    opened: await grants.opened(stored.id),
    saves: Boolean(stored.saves),
    ...{ activity: activityOf(stored), handedIn: await submissions.count(stored.id) },
    materials: materialsGiven(stored),
    createdAt: stored.created_at,
  });

  /** The film of a lesson as it is now, about to be watched. */
  const filmToGive = async (lessonId: string, size: PictureSize) => {
    const film = await maker.want(lessonId, size);
    if (film.state === 'done') void narrow.want(film.id);
    // Whoever opens the link wants to see it begin, and go on.
    else await maker.ask(film.id, ...BEGINNING);
    coverOf({ covers, lessons, media }, film).catch((error: unknown) =>
      log.warn(`no cover for film ${film.id}`, error),
    );
    return film;
  };

  on('handOuts', async ({ params }) =>
    Promise.all((await handOuts.ofLesson(params.lessonId)).map(toHandOut)),
  );

  on('handOut', async ({ params, body }) => {
    const film = await filmToGive(params.lessonId, body.size);
    return toHandOut(await handOuts.add(params.lessonId, film.id, body.grants));
  });

  on('handOutAgain', async ({ params, body }) => {
    const { id, lesson_id } = await handOuts.get(params.handOutId);
    const film = await filmToGive(lesson_id, body.size);
    return toHandOut(await handOuts.give(id, film.id));
  });

  on('putBack', async ({ params, body }) => {
    const { id } = await handOuts.get(params.handOutId);
    return toHandOut(await handOuts.give(id, await handOuts.filmGiven(id, body.givenId)));
  });

  on('endEarlier', async ({ params }) => toHandOut(await handOuts.endEarlier(params.handOutId)));

  on('openHandOut', async ({ params, body }) =>
    toHandOut(await handOuts.setOpen(params.handOutId, body.fromAt, body.untilAt)),
  );

  on('giveMaterials', async ({ params, body }) =>
    toHandOut(await handOuts.setMaterials(params.handOutId, body.materials)),
  );

  on('setActivity', async ({ params, body }) =>
    toHandOut(await handOuts.setActivity(params.handOutId, body.activity)),
  );

  on('letWatch', async ({ params, body }) =>
    toHandOut(await handOuts.setGrants(params.handOutId, body.grants)),
  );

  on('openings', async ({ params }) => {
    const { id } = await handOuts.get(params.handOutId);
    return grants.openings(id);
  });

  on('letSave', async ({ params, body }) =>
    toHandOut(await handOuts.setSaves(params.handOutId, body.saves)),
  );

  on('takeBack', async ({ params }) => {
    await handOuts.takeBack(params.handOutId);
    return { ok: true as const };
  });

  on('giveAgain', async ({ params }) => {
    await handOuts.giveAgain(params.handOutId);
    return { ok: true as const };
  });
};
