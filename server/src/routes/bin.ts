import type { Parts } from '../http/context';
import type { On } from '../http/route';

const DONE = { ok: true as const };

export const binRoutes = (on: On, { bin, binService, submissionService }: Parts): void => {
  on('bin', () => bin.all());

  on('throwAway', async ({ params }) => {
    await binService.throwAway(params);
    return DONE;
  });

  on('bringBack', async ({ params }) => {
    await bin.bringBack(params);
    return DONE;
  });

  on('throwAwayForGood', async ({ params }) => {
    await binService.letGo(params);
    await submissionService.sweep();
    return DONE;
  });
};
