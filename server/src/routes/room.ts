import type { Parts } from '../http/context';
import type { On } from '../http/route';

const DONE = { ok: true as const };

export const roomRoutes = (on: On, { roomService, lessons, log }: Parts): void => {
  on('roomTaken', async () => {
    // Titles are kept with the rows of the list: brought up to date first.
    await lessons.list((id, error) => log.error(`lesson ${id} can't be read`, error));
    return roomService.taken();
  });

  on('letSpareGo', async ({ params }) => {
    await roomService.letSpareGo(params.lessonId);
    return DONE;
  });

  on('keepFilmOnly', async ({ params }) => {
    await roomService.keepFilmOnly(params.lessonId);
    return DONE;
  });

  on('emptyCache', async () => {
    await roomService.emptyCache();
    return DONE;
  });
};
