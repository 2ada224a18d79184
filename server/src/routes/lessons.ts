import type Router from '@koa/router';
import type { Parts } from '../http/context';
import { route } from '../http/route';

export const lessonRoutes = (router: Router, { lessons, log }: Parts): void => {
  route(router, 'lessons', () =>
    lessons.list((id, error) => log(`lesson ${id} can't be read`, error)),
  );

  route(router, 'removeLesson', async ({ params }) => {
    await lessons.setRemoved(params.lessonId, true);
    return { ok: true as const };
  });

  route(router, 'bringBackLesson', async ({ params }) => {
    await lessons.setRemoved(params.lessonId, false);
    return { ok: true as const };
  });

  route(router, 'newLesson', async ({ body }) => {
    await lessons.create(body.id, body.title);
    return lessons.view(body.id);
  });

  route(router, 'lesson', ({ params }) => lessons.view(params.lessonId));

  route(router, 'edits', ({ params }) => lessons.edits(params.lessonId));

  route(router, 'edit', ({ params, body }) =>
    lessons.append(params.lessonId, body.baseRevision, body.entries, body.anyway),
  );
};
