import type Router from '@koa/router';
import type { Parts } from '../http/context';
import { route } from '../http/route';

export const lessonRoutes = (router: Router, { lessons }: Parts): void => {
  route(router, 'lessons', () => lessons.list());

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
