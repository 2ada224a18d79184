import { statfs } from 'node:fs/promises';
import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const destinationRoutes = (on: On, { destinations, config }: Parts): void => {
  on('destinations', () => destinations.all());

  on('setDestination', ({ body }) => destinations.set(body));

  on('removeDestination', ({ params }) => destinations.remove(params.destinationId));

  on('setAttention', ({ body }) => destinations.setAttention(body.attentionUs));

  on('room', async () => {
    const disk = await statfs(config.folders.home);
    // Those of the whole disk that a process without special rights may fill.
    return { freeBytes: disk.bavail * disk.bsize };
  });
};
