import type Router from '@koa/router';
import { Server } from '@tus/server';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { idSchema } from '@under-chalk/core/lesson/take';
import type { Parts, State } from '../http/context';
import { refuse, toldByCode } from '../http/tus-errors';
import type { Door } from '../http/who';
import { TrackBytes } from '../store/track-bytes';

/**
 * Bytes of tracks, by the tus 1.0 protocol. An upload is named by its track, so that a recorder that
 * was interrupted finds it again without having been told where.
 */
export const uploadRoutes = (
  router: Router,
  door: Door,
  { config, takes, materials, bundles, log }: Parts,
): void => {
  const bytes = new TrackBytes(config.folders.incoming);
  const isWaitedFor = async (id: string) =>
    (await takes.ofTrack(id)) !== null ||
    (await materials.isComing(id)) ||
    (await bundles.isComing(id));
  const tus = new Server({
    path: UPLOADS_PATH,
    relativeLocation: true,
    maxSize: config.mostBytes,
    datastore: bytes,
    namingFunction: async (_request, metadata) => {
      const trackId = idSchema.safeParse(metadata?.['trackId']);
      if (!trackId.success || !(await isWaitedFor(trackId.data))) throw refuse('not-found');
      // What has come of a track is never begun anew: the sender asks where it stands instead (HEAD).
      if (bytes.has(trackId.data)) throw refuse('exists-already');
      return trackId.data;
    },
    onIncomingRequest: async (request, uploadId) => {
      if (request.method === 'DELETE') throw refuse('bad-request');
      if (request.method === 'POST') return;
      const trackId = idSchema.safeParse(uploadId);
      if (!trackId.success || !(await isWaitedFor(trackId.data))) throw refuse('not-found');
      const found = await takes.ofTrack(trackId.data);
      if (!found) return;
      // On a full disk not even this can be noted; the bytes themselves will tell.
      await takes
        .heard(found.take.id)
        .catch((error: unknown) => log.warn('a take can’t be marked as heard of', error));
    },
    onResponseError: toldByCode(log),
  });

  const handle: Parameters<Router['all']>[1] = async (ctx) => {
    await door(ctx.state as State, undefined, undefined);
    ctx.respond = false;
    await tus.handle(ctx.req, ctx.res);
  };
  router.all(UPLOADS_PATH, handle);
  router.all(`${UPLOADS_PATH}/:uploadId`, handle);
};
