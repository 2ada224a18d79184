import type Router from '@koa/router';
import { Server } from '@tus/server';
import { SUBMISSION_UPLOADS_PATH } from '@under-chalk/core/contract/watch-submissions';
import { MOST_FILE_BYTES } from '@under-chalk/core/submission/submission';
import { idSchema } from '@under-chalk/core/lesson/take';
import type { Parts } from '../http/context';
import { refuse, toldByCode } from '../http/tus-errors';

/**
 * Bytes of files that students hand in, by the tus 1.0 protocol. Nobody is asked who they are: a file is named by an id that only
 * its sender knows, who announced it from their address, and it is as large as they said. What has come is told to nobody.
 */
export const submissionUploadRoutes = (
  router: Router,
  { submissions, submissionService, log }: Parts,
): void => {
  const { coming } = submissionService;
  const waitedFor = async (
    id: string | null | undefined,
  ): Promise<{ id: string; bytes: number }> => {
    const known = idSchema.safeParse(id);
    const bytes = known.success ? await submissions.coming(known.data) : null;
    if (!known.success || bytes === null) throw refuse('not-found');
    return { id: known.data, bytes };
  };
  const tus = new Server({
    path: SUBMISSION_UPLOADS_PATH,
    relativeLocation: true,
    maxSize: MOST_FILE_BYTES,
    datastore: coming,
    namingFunction: async (_request, metadata) => {
      const { id } = await waitedFor(metadata?.['trackId']);
      if (coming.has(id)) throw refuse('exists-already');
      return id;
    },
    onUploadCreate: async (_request, upload) => {
      const { bytes } = await waitedFor(upload.id);
      if (upload.size !== bytes) throw refuse('bad-request');
      return {};
    },
    onIncomingRequest: async (request, uploadId) => {
      if (request.method === 'DELETE') throw refuse('bad-request');
      if (request.method !== 'POST') await waitedFor(uploadId);
      if (request.method === 'PATCH') await submissionService.mindComing(uploadId);
    },
    onResponseError: toldByCode(log),
  });
  const handle: Parameters<Router['all']>[1] = async (ctx) => {
    await submissionService.mindRoom();
    ctx.respond = false;
    await tus.handle(ctx.req, ctx.res);
  };
  router.all(SUBMISSION_UPLOADS_PATH, handle);
  router.all(`${SUBMISSION_UPLOADS_PATH}/:uploadId`, handle);
};
