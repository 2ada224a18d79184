import type Router from '@koa/router';
import { statfs } from 'node:fs/promises';
import type { Parts } from '../http/context';
import { route } from '../http/route';

export const placeRoutes = (router: Router, { places, config }: Parts): void => {
  route(router, 'places', () => places.all());

  route(router, 'setPlace', ({ body }) => places.set(body));

  route(router, 'removePlace', ({ params }) => places.remove(params.destinationId));

  route(router, 'setAttention', ({ body }) => places.setAttention(body.attentionUs));

  route(router, 'room', async () => {
    const disk = await statfs(config.folders.home);
    // Those of the whole disk that a process without special rights may fill.
    return { freeBytes: disk.bavail * disk.bsize };
  });
};
