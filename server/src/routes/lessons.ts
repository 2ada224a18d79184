import type { Parts } from '../http/context';
import { newId } from '../store/ids';
import type { On } from '../http/route';

export const lessonRoutes = (on: On, { lessons, materials, keeper, log }: Parts): void => {
  on('lessons', () => lessons.list((id, error) => log.error(`lesson ${id} can't be read`, error)));

  on('duplicateLesson', async ({ params, body }) => {
    await lessons.duplicate(params.lessonId, body.id);
    await materials.copy(params.lessonId, body.id, newId);
    return lessons.view(body.id);
  });

  on('newLesson', async ({ body }) => {
    await lessons.create(body.id, body.title);
    return lessons.view(body.id);
  });

  on('lesson', async ({ params }) => {
    const view = await lessons.view(params.lessonId);
    return { ...view, making: keeper.progress(view.lesson.takes.map(({ id }) => id)) };
  });

  on('edits', ({ params }) => lessons.edits(params.lessonId));

  on('edit', ({ params, body }) =>
    lessons.append(params.lessonId, body.baseRevision, body.entries, body.anyway),
  );
};
