import type Router from '@koa/router';
import { Server } from '@tus/server';
import { UPLOADS_PATH } from '@under-chalk/core/contract/api';
import { TellableError, tell, type ErrorCode } from '@under-chalk/core/errors/errors';
import { idSchema } from '@under-chalk/core/lesson/take';
import type { Parts, State } from '../http/context';
import { TrackBytes } from '../store/track-bytes';

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
export const uploadRoutes = (router: Router, { config, takes, log }: Parts): void => {
  const bytes = new TrackBytes(config.folders.incoming);
  const tus = new Server({
    path: UPLOADS_PATH,
    relativeLocation: true,
    maxSize: config.mostBytes,
    datastore: bytes,
    namingFunction: async (_request, metadata) => {
      const trackId = idSchema.safeParse(metadata?.['trackId']);
      const found = trackId.success ? await takes.ofTrack(trackId.data) : null;
      if (!trackId.success || !found) throw refuse('not-found');
      // What has come of a track is never begun anew: the sender asks where it stands instead (HEAD).
      if (bytes.has(trackId.data)) throw refuse('exists-already');
      return trackId.data;
    },
    onIncomingRequest: async (request, uploadId) => {
      if (request.method === 'DELETE') throw refuse('bad-request');
      if (request.method === 'POST') return;
      const trackId = idSchema.safeParse(uploadId);
      const found = trackId.success ? await takes.ofTrack(trackId.data) : null;
      if (!found) throw refuse('not-found');
      // On a full disk not even this can be noted; the bytes themselves will tell.
      await takes
        .heard(found.take.id)
        .catch((error: unknown) => log(`heard of a take: ${String(error)}`));
    },
    onResponseError: (_request, error) => {
      if ('code' in error && error.code === 'ENOSPC') {
        log('an upload found the disk full; it is tried again');
        return refuse('disk-full');
      }
      return undefined;
    },
  });

  const handle: Parameters<Router['all']>[1] = async (ctx) => {
    if (!(ctx.state as State).signedIn) throw new TellableError('signed-out');
    ctx.respond = false;
    await tus.handle(ctx.req, ctx.res);
  };
  router.all(UPLOADS_PATH, handle);
  router.all(`${UPLOADS_PATH}/:uploadId`, handle);
};
