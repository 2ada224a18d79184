import type { Parts } from '../http/context';
import type { On } from '../http/route';

const DONE = { ok: true as const };

export const binRoutes = (on: On, { bin, binService, submissionService }: Parts): void => {
  on('bin', () => bin.all());

  on('moveToBin', async ({ params }) => {
    await binService.throwAway(params);
    return DONE;
  });

  on('restoreFromBin', async ({ params }) => {
    await bin.bringBack(params);
    return DONE;
  });

  on('purgeFromBin', async ({ params }) => {
    await binService.letGo(params);
    await submissionService.sweep();
    return DONE;
  });
};
