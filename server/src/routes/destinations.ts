import { freeBytes } from '../store/free-bytes';
import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const destinationRoutes = (on: On, { destinations, config }: Parts): void => {
  on('destinations', () => destinations.all());

  on('setDestination', ({ body }) => destinations.set(body));

  on('removeDestination', ({ params }) => destinations.remove(params.destinationId));

  on('setAttention', ({ body }) => destinations.setAttention(body.attentionUs));

  on('freeSpace', async () => ({ freeBytes: await freeBytes(config.folders.home) }));
};
