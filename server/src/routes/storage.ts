import type { Parts } from '../http/context';
import type { On } from '../http/route';

const DONE = { ok: true as const };

export const storageRoutes = (on: On, { storageService, lessons, log }: Parts): void => {
  on('storageUsed', async () => {
    // Titles are kept with the rows of the list: brought up to date first.
    await lessons.list((id, error) => log.error(`lesson ${id} can't be read`, error));
    return storageService.taken();
  });

  on('keepUsedFootage', async ({ params }) => {
    await storageService.letSpareGo(params.lessonId);
    return DONE;
  });

  on('keepFilmOnly', async ({ params }) => {
    await storageService.keepFilmOnly(params.lessonId);
    return DONE;
  });

  on('emptyCache', async () => {
    await storageService.emptyCache();
    return DONE;
  });
};
