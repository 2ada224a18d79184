import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import type { AskedPiece } from '@under-chalk/render';
import { coverOf } from '../jobs/film-cover';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import {
  assignmentOf,
  attachmentsOf,
  openNow,
  type StoredShareLink,
} from '../store/share-link-store';

/** What is made of a film before anything else: its first seconds. */
const BEGINNING: readonly AskedPiece[] = [
  { of: 'sound', index: 0 },
  { of: 'picture', index: 0 },
  { of: 'picture', index: 1 },
  { of: 'sound', index: 1 },
  { of: 'picture', index: 2 },
];

export const shareLinkRoutes = (
  on: On,
  { films, shareLinks, submissions, grants, maker, renditions, covers, lessons, media, log }: Parts,
): void => {
  const toShareLink = async (stored: StoredShareLink): Promise<ShareLink> => ({
    id: stored.id,
    lessonId: stored.lesson_id,
    token: shareLinks.tokenOf(stored),
    film: maker.toRow(await films.get(stored.film_id)),
    given: await shareLinks.given(stored),
    ...{
      state: openNow(stored),
      availableFrom: stored.available_from,
      availableUntil: stored.available_until,
    },
    watchers: await grants.watchers(stored.id),
    opened: await grants.opened(stored.id),
    downloads: Boolean(stored.downloads),
    ...{ assignment: assignmentOf(stored), handedIn: await submissions.count(stored.id) },
    materials: attachmentsOf(stored),
    createdAt: stored.created_at,
  });

  /** The film of a lesson as it is now, about to be watched. */
  const filmToGive = async (lessonId: string, size: PictureSize) => {
    const film = await maker.want(lessonId, size);
    if (film.state === 'done') void renditions.want(film.id);
    // Whoever opens the link wants to see it begin, and go on.
    else await maker.ask(film.id, ...BEGINNING);
    coverOf({ covers, lessons, media }, film).catch((error: unknown) =>
      log.warn(`no cover for film ${film.id}`, error),
    );
    return film;
  };

  on('shareLinks', async ({ params }) =>
    Promise.all((await shareLinks.ofLesson(params.lessonId)).map(toShareLink)),
  );

  on('createShareLink', async ({ params, body }) => {
    const film = await filmToGive(params.lessonId, body.size);
    return toShareLink(await shareLinks.add(params.lessonId, film.id, body.grants));
  });

  on('publishVersion', async ({ params, body }) => {
    const { id, lesson_id } = await shareLinks.get(params.shareLinkId);
    const film = await filmToGive(lesson_id, body.size);
    return toShareLink(await shareLinks.give(id, film.id));
  });

  on('restoreVersion', async ({ params, body }) => {
    const { id } = await shareLinks.get(params.shareLinkId);
    return toShareLink(await shareLinks.give(id, await shareLinks.filmGiven(id, body.givenId)));
  });

  on('endEarlier', async ({ params }) =>
    toShareLink(await shareLinks.endEarlier(params.shareLinkId)),
  );

  on('createOpenShareLink', async ({ params, body }) =>
    toShareLink(
      await shareLinks.setOpen(params.shareLinkId, body.availableFrom, body.availableUntil),
    ),
  );

  on('setAttachments', async ({ params, body }) =>
    toShareLink(await shareLinks.setAttachments(params.shareLinkId, body.materials)),
  );

  on('setAssignment', async ({ params, body }) =>
    toShareLink(await shareLinks.setActivity(params.shareLinkId, body.assignment)),
  );

  on('setAudience', async ({ params, body }) =>
    toShareLink(await shareLinks.setGrants(params.shareLinkId, body.grants)),
  );

  on('viewers', async ({ params }) => {
    const { id } = await shareLinks.get(params.shareLinkId);
    return grants.viewers(id);
  });

  on('setDownloads', async ({ params, body }) =>
    toShareLink(await shareLinks.setSaves(params.shareLinkId, body.downloads)),
  );

  on('revokeShareLink', async ({ params }) => {
    await shareLinks.revoke(params.shareLinkId);
    return { ok: true as const };
  });

  on('restoreShareLink', async ({ params }) => {
    await shareLinks.giveAgain(params.shareLinkId);
    return { ok: true as const };
  });
};
