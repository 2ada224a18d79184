import { sendFile } from '../http/files';
import { COVER_PX } from '../jobs/covers';
import type { Parts } from '../http/context';
import { lessonPictures } from '../jobs/readings/lesson-pictures';
import { newId } from '../store/ids';
import type { On } from '../http/route';

export const lessonRoutes = (on: On, parts: Parts): void => {
  const { lessons, materials, takeService, covers, log } = parts;
  on('lessons', () => lessons.list((id, error) => log.error(`lesson ${id} can't be read`, error)));

  on('duplicateLesson', async ({ params, body }) => {
    await lessons.duplicate(params.lessonId, body.id);
    await materials.copy(params.lessonId, body.id, newId);
    return lessons.view(body.id);
  });

  on('moveLessons', async ({ body }) => {
    const moved: string[] = [];
    for (const { lessonId, className, unit } of body.moves) {
      await lessons.move(lessonId, className, unit).then(
        () => moved.push(lessonId),
        (error: unknown) => log.warn(`lesson ${lessonId} can't be moved`, error),
      );
    }
    return { moved };
  });

  on('archiveLessons', async ({ body }) => ({
    changed: await lessons.archive(body.lessonIds, body.archived),
  }));

  on('newLesson', async ({ body }) => {
    await lessons.create(body.id, body.title);
    return lessons.view(body.id);
  });

  on('lesson', async ({ params }) => {
    const view = await lessons.view(params.lessonId);
    return { ...view, making: takeService.progress(view.lesson.takes.map(({ id }) => id)) };
  });

  on('coverChoices', async ({ params }) =>
    covers.choices((await lessons.view(params.lessonId)).lesson),
  );

  on('lessonPictures', async ({ params }) =>
    lessonPictures((await lessons.view(params.lessonId)).lesson, parts),
  );

  on('coverPicture', async ({ params, query, ctx }) => {
    const { lesson } = await lessons.view(params.lessonId);
    const { takeId, atUs, content, page, aspect, titled, size } = query;
    const of = takeId ? { takeId, atUs } : content ? { content, page, aspect } : null;
    const path = await covers.ofLesson(lesson, { of, titled }, size === 'large' ? COVER_PX : 320);
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'never' });
  });

  on('edits', ({ params }) => lessons.edits(params.lessonId));

  on('edit', ({ params, body }) =>
    lessons.append(params.lessonId, body.baseRevision, body.entries, body.anyway),
  );
};
