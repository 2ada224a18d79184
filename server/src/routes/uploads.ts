import type Router from '@koa/router';
import { Server } from '@tus/server';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { tell, type ErrorCode } from '@under-chalk/core/errors/errors';
import { idSchema } from '@under-chalk/core/lesson/take';
import { isDiskFull } from '@under-chalk/render';
import type { Parts, State } from '../http/context';
import type { Door } from '../http/who';
import { TrackBytes } from '../store/track-bytes';

const SAY_AGAIN_MS = 60_000;

/** An answer in the form that the tus server turns errors into. */
const refuse = (code: ErrorCode) => {
  const told = tell(code);
  return {
    status_code: told.status ?? 500,
    body: JSON.stringify({ code, sentence: told.sentence, next: told.next }),
  };
};

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
  // A recorder tries twice a second.
  let saidAt = -Infinity;
  const diskFull = () => {
    if (Date.now() - saidAt < SAY_AGAIN_MS) return;
    saidAt = Date.now();
    log.warn('uploads find the disk full; they are tried again until there is room');
  };
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
    onResponseError: (request, error) => {
      // Words of the system tell paths of this machine.
      if ('status_code' in error) return undefined;
      const code = (error as NodeJS.ErrnoException).code;
      if (code === 'EEXIST') return refuse('exists-already');
      const full = isDiskFull(error);
      if (full) diskFull();
      else log.error(`${request.method} of an upload`, error);
      return refuse(full ? 'disk-full' : 'unexpected');
    },
  });

  const handle: Parameters<Router['all']>[1] = async (ctx) => {
    await door(ctx.state as State, undefined, undefined);
    ctx.respond = false;
    await tus.handle(ctx.req, ctx.res);
  };
  router.all(UPLOADS_PATH, handle);
  router.all(`${UPLOADS_PATH}/:uploadId`, handle);
};
